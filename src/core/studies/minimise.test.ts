/** Least values against closed forms, and functions that the literature gives with their minima. */
import { makeRandom } from '../../../tests/support/random';
import { minimise, type Trial } from './minimise';

const free = (value: number): { value: number; problems: string[] } => ({ value, problems: [] });
const axes = (...bounds: readonly (readonly [number, number])[]) => bounds.map(([from, to]) => ({ from, to }));

test.each([
  // H. H. Rosenbrock, An automatic method for finding the greatest or least value of a function, 1960: least at (1, 1).
  ['a curved valley', ([x = 0, y = 0]: readonly number[]) => 100 * (y - x * x) ** 2 + (1 - x) ** 2, axes([-2, 2], [-1, 3]), [-1.2, 1], [1, 1]],
  // D. M. Himmelblau, Applied Nonlinear Programming, 1972: the nearest of its four minima.
  ['one of four hollows', ([x = 0, y = 0]: readonly number[]) => (x * x + y - 11) ** 2 + (x + y * y - 7) ** 2, axes([0, 5], [0, 5]), [1, 1], [3, 2]],
  [
    'three at once',
    ([x = 0, y = 0, z = 0]: readonly number[]) => (x - 1) ** 2 + 3 * (y + 2) ** 2 + (z - x * y) ** 2,
    axes([-5, 5], [-5, 5], [-5, 5]),
    [4, 4, 4],
    [1, -2, -2],
  ],
  ['at a bound', ([x = 0, y = 0]: readonly number[]) => x + (y - 2) ** 2, axes([3, 9], [0, 5]), [8, 4], [3, 2]],
  ['one alone', ([x = 0]: readonly number[]) => Math.cosh(x - 0.3), axes([-4, 4]), [3], [0.3]],
])('%s', async (_, of, bounds, start, expected) => {
  const { best, isSettled } = await minimise({ axes: bounds, start, mostTrials: 2000 }, (at) => Promise.resolve(free(of(at))));
  expect(isSettled).toBe(true);
  best?.at.forEach((amount, i) => expect(amount).toBeCloseTo(expected[i] ?? NaN, 3));
});

test('under a condition: the lightest beam that is stiff enough, by its closed form', async () => {
  // Least b h with b h^2 / 6 >= W and b >= h / 4: both hold just, so that h = (24 W)^(1/3), b = h / 4.
  const modulus = 9000;
  const { best } = await minimise({ axes: axes([2, 60], [10, 120]), start: [50, 100], mostTrials: 2000 }, ([b = 0, h = 0]) =>
    Promise.resolve({ value: b * h, problems: [...((b * h * h) / 6 >= modulus ? [] : ['too weak']), ...(b >= h / 4 ? [] : ['too slender'])] }),
  );
  const h = (24 * modulus) ** (1 / 3);
  expect(best?.problems).toEqual([]);
  expect((best?.value ?? NaN) / ((h * h) / 4)).toBeLessThan(1.005);
});

test('what may be certain amounts only is one of them; where nothing is well the least that is wrong is told', async () => {
  const [choice, any] = [
    { from: 10, to: 20, allowed: [12, 15, 18] },
    { from: 0, to: 4 },
  ];
  const found = await minimise({ axes: [choice, any], start: [18, 4] }, ([stock = 0, x = 0]) => Promise.resolve(free((stock - 14) ** 2 + (x - 1) ** 2)));
  expect(found.best?.at[0]).toBe(15);
  expect(found.best?.at[1]).toBeCloseTo(1, 3);
  const nowhere = await minimise({ axes: axes([0, 10]), start: [9] }, ([x = 0]) => Promise.resolve({ value: x, problems: x > 5 ? ['a', 'b'] : ['a'] }));
  expect(nowhere.best?.problems).toEqual(['a']);
});

test('it is stopped with the best so far, by who asks or by the number of trials; no point is asked twice', async () => {
  const asked: string[] = [];
  const seen: Trial[] = [];
  const stopped = await minimise({ axes: axes([0, 10], [0, 10]), start: [9, 9], onTrial: (trial) => void seen.push(trial) }, (at) => {
    asked.push(at.join(' '));
    return Promise.resolve(asked.length > 12 ? undefined : free((at[0] ?? 0) + (at[1] ?? 0)));
  });
  expect([stopped.isSettled, stopped.trials, new Set(asked).size]).toEqual([false, 12, 13]);
  expect(stopped.best?.value).toBe(Math.min(...seen.map(({ value }) => value)));
  const short = await minimise({ axes: axes([0, 10]), start: [9], mostTrials: 5 }, ([x = 0]) => Promise.resolve(free(x)));
  expect([short.trials, short.isSettled]).toEqual([5, false]);
});

test('random bowls, turned and stretched, from random places: the bottom is found', async () => {
  const random = makeRandom(7);
  let missed = 0;
  for (let i = 0; i < 60; i++) {
    const [cx, cy, turn, stretch] = [random() * 10, random() * 10, random() * Math.PI, 1 + random() * 20];
    const of = ([x = 0, y = 0]: readonly number[]): number => {
      const [u, v] = [Math.cos(turn) * (x - cx) + Math.sin(turn) * (y - cy), Math.cos(turn) * (y - cy) - Math.sin(turn) * (x - cx)];
      return u * u + stretch * v * v;
    };
    const { best } = await minimise({ axes: axes([0, 10], [0, 10]), start: [random() * 10, random() * 10], mostTrials: 1000 }, (at) =>
      Promise.resolve(free(of(at))),
    );
    if ((best?.value ?? NaN) > 1e-6) missed++;
  }
  expect(missed).toBe(0);
});
