import fc from 'fast-check';
import { reachGoals, type GoalsSearch } from './reach-goals';

type Offs = (...at: readonly number[]) => readonly number[];

const reach = (search: Partial<GoalsSearch> & Pick<GoalsSearch, 'axes' | 'start'>, offs: Offs, slopes?: (at: readonly number[]) => number[][]) => {
  let last: readonly number[] = search.start;
  const goals = offs(...search.start).length;
  return reachGoals(
    { within: Array.from({ length: goals }, () => 1e-6), ...search },
    (at) => {
      last = at;
      return Promise.resolve({ off: offs(...at), problems: [] });
    },
    slopes && (() => slopes(last)),
  );
};

const axis = (from: number, to: number) => ({ from, to });

test('two goals by two values: the circle and the line meet where they do', async () => {
  // x² + y² = 25 and y = x + 1: (3, 4).
  const found = await reach({ axes: [axis(0, 10), axis(0, 10)], start: [1, 9] }, (x = 0, y = 0) => [x ** 2 + y ** 2 - 25, y - x - 1]);
  expect(found.isReached).toBe(true);
  expect(found.best?.at[0]).toBeCloseTo(3, 8);
  expect(found.best?.at[1]).toBeCloseTo(4, 8);
});

test('with exact slopes a goal is reached in fewer trials than by differences', async () => {
  const offs: Offs = (x = 0, y = 0) => [x * y - 12, x + y - 8];
  const search = { axes: [axis(0, 5), axis(3, 20)], start: [0.5, 19] };
  const [exact, differences] = [
    await reach(search, offs, ([x = 0, y = 0]) => [
      [y, x],
      [1, 1],
    ]),
    await reach(search, offs),
  ];
  for (const { best } of [exact, differences]) {
    expect(best?.at[0]).toBeCloseTo(2, 8);
    expect(best?.at[1]).toBeCloseTo(6, 8);
  }
  expect(exact.trials).toBeLessThan(differences.trials);
});

test('fewer goals than values: what need not change stays near', async () => {
  const found = await reach({ axes: [axis(0, 100), axis(0, 100)], start: [10, 10] }, (x = 0, y = 0) => [x + y - 24]);
  expect(found.best?.at[0]).toBeCloseTo(12, 6);
  expect(found.best?.at[1]).toBeCloseTo(12, 6);
});

test('a value stays on its bound while the other goes on', async () => {
  const found = await reach({ axes: [axis(0, 5), axis(0, 100)], start: [4, 4] }, (x = 0, y = 0) => [x + y - 24]);
  expect(found.isReached).toBe(true);
  expect(found.best?.at).toEqual([5, expect.closeTo(19, 6)]);
});

test('goals that cannot all be met are told by the nearest, weighed by what is allowed', async () => {
  // x is to be 1 within 0.1 and 4 within 0.2: least squares say (1·4 + 4·1) / 5.
  const found = await reach({ axes: [axis(0, 10)], start: [9], within: [0.1, 0.2] }, (x = 0) => [x - 1, x - 4]);
  expect(found.isReached).toBe(false);
  expect(found.best?.at[0]).toBeCloseTo(1.6, 6);
});

test('it begins anew where it came to rest at no goal', async () => {
  // Rosenbrock-like: flat hills around the present, the zero behind one.
  const found = await reach({ axes: [axis(-10, 10)], start: [-8] }, (x = 0) => [Math.exp(-((x - 6) ** 2)) - 0.999]);
  expect(found.isReached).toBe(true);
  expect(Math.abs((found.best?.at[0] ?? 0) - 6)).toBeLessThan(0.1);
});

test('counts are whole, and the rest goes on from there', async () => {
  const teeth = { from: 8, to: 40, allowed: Array.from({ length: 33 }, (_, i) => 8 + i) };
  // A pitch diameter of 61 mm by teeth and a module between 1 and 4 mm.
  const found = await reach({ axes: [teeth, axis(1, 4)], start: [20, 2] }, (z = 0, m = 0) => [z * m - 61]);
  expect(found.isReached).toBe(true);
  expect(Number.isInteger(found.best?.at[0])).toBe(true);
});

test('what is stopped says so, with the best so far', async () => {
  let trials = 0;
  const found = await reachGoals({ axes: [axis(0, 10)], start: [5], within: [1e-6] }, ([x = 0]) =>
    Promise.resolve(trials++ < 2 ? { off: [x ** 3 - 20], problems: [] } : undefined),
  );
  expect(found).toMatchObject({ isStopped: true, isReached: false, trials: 2 });
  expect(found.best).toBeDefined();
});

test('where nothing has a value, none is told', async () => {
  const found = await reach({ axes: [axis(0, 1)], start: [0.5] }, () => [NaN]);
  expect(found.isReached).toBe(false);
});

test('law: inverse problems of known answers, well within their bounds, are solved', async () => {
  const amount = fc.double({ min: 1, max: 9, noNaN: true });
  const weight = fc.double({ min: 0.5, max: 2, noNaN: true });
  await fc.assert(
    fc.asyncProperty(fc.array(amount, { minLength: 1, maxLength: 4 }), fc.array(weight, { minLength: 4, maxLength: 4 }), async (answer, weights) => {
      // Each goal is a product of powers, which bend, and all are tied by a sum.
      const at = (place: readonly number[], i: number): number => (weights[i] ?? 1) * (place[i] ?? 0) ** 2 + place.reduce((sum, one) => sum + one, 0);
      const wanted = answer.map((_, i) => at(answer, i));
      const found = await reach({ axes: answer.map(() => axis(0, 10)), start: answer.map(() => 5) }, (...place) =>
        answer.map((_, i) => at(place, i) - (wanted[i] ?? 0)),
      );
      expect(found.isReached).toBe(true);
      for (const [i, one] of answer.entries()) expect(found.best?.at[i]).toBeCloseTo(one, 5);
    }),
    { numRuns: 200 },
  );
});
