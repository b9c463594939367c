/** Draws against closed forms, and against another library's. */
import jstat from 'jstat';
import { drawBetween, evenNumbers } from './distributions';

test('as many normal draws lie beyond one to four standard deviations as the normal distribution says', () => {
  const count = 1_000_000;
  const random = evenNumbers(3);
  const draws = Float64Array.from({ length: count }, () => drawBetween(-3, 3, 'normal', random));
  for (const limit of [0.5, 1, 2, 3, 3.442619855899, 3.6, 4]) {
    for (const side of [-1, 1]) {
      const beyond = draws.reduce((sum, one) => sum + (side * one > limit ? 1 : 0), 0);
      const expected = count * (1 - jstat.normal.cdf(limit, 0, 1));
      // Four and a half standard deviations of a count, and one for small ones.
      expect([limit, Math.abs(beyond - expected) < 4.5 * Math.sqrt(expected) + 1]).toEqual([limit, true]);
    }
  }
  const [mean, square, fourth] = [1, 2, 4].map((power) => draws.reduce((sum, one) => sum + one ** power, 0) / count);
  expect(Math.abs(mean ?? NaN)).toBeLessThan(4.5 / Math.sqrt(count));
  expect(Math.abs((square ?? NaN) - 1)).toBeLessThan(4.5 * Math.sqrt(2 / count));
  expect(Math.abs((fourth ?? NaN) - 3)).toBeLessThan(4.5 * Math.sqrt(96 / count));
});

test.each(['even', 'normal', 'triangular'] as const)(
  '%s draws lie as those of another library, by the greatest distance of their distributions',
  (distribution) => {
    const count = 20_000;
    const random = evenNumbers(5);
    const ours = Float64Array.from({ length: count }, () => drawBetween(-3, 3, distribution, random)).sort();
    jstat.setRandom(evenNumbers(6));
    const draw = { even: () => jstat.uniform.sample(-3, 3), normal: () => jstat.normal.sample(0, 1), triangular: () => jstat.triangular.sample(-3, 3, 0) };
    const theirs = Float64Array.from({ length: count }, draw[distribution]).sort();
    let [i, j, farthest] = [0, 0, 0];
    while (i < count && j < count) {
      if ((ours[i] ?? 0) <= (theirs[j] ?? 0)) i++;
      else j++;
      farthest = Math.max(farthest, Math.abs(i - j) / count);
    }
    // Kolmogorov and Smirnov for two samples: farther than this in one of a thousand cases (common practice).
    expect(farthest).toBeLessThan(1.95 * Math.sqrt(2 / count));
  },
);
