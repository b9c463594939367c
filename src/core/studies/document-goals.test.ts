/** Goals of documents: watched, renamed, and reached by several values at once. */
import { sourceOf, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { applyEdit, driversOf, readGoals, textOfGoal, type Document, type Goal } from '../document';
import { openValues } from '../instances';
import { axisOf, reachGoalsOf, roundTo, Sampler, type Rounding } from '.';

const NOBODY = sourceOf([]);
const MM = 10_000;

const goal = (id: string, of: string, wanted: string, by: readonly string[], within?: string): Goal => ({
  type: 'goal',
  id,
  of: { text: of },
  wanted: { text: wanted },
  by: by.map((text) => ({ text })),
  ...(within === undefined ? {} : { within: { text: within } }),
});

/** A tank by its width and depth: its volume, and how far around it is. */
const tank = (...goals: readonly Goal[]): Document =>
  edited(
    withParameters('master', 'tank', { width: '400 mm', depth: '100 mm', height: '250 mm', volume: 'width * depth * height', girth: '2 * (width + depth)' }),
    ...goals.map((one) => ({ type: 'goal.put', goal: one }) as const),
  );
const states = (document: Document) => readGoals(openValues(document, NOBODY)).map(({ isMet, problem }) => problem ?? isMet);

async function reached(document: Document, ranges: Readonly<Record<string, readonly [string, string]>>) {
  const values = openValues(document, NOBODY);
  const ids = Object.keys(ranges).map((name) => `tank-${name}`);
  const axes = Object.entries(ranges).map(([name, [from, to]]) => axisOf(values, `tank-${name}`, { from, to }));
  const known = axes.flatMap((axis) => axis ?? []);
  expect(known).toHaveLength(ids.length);
  const sampler = new Sampler(document, ids, NOBODY);
  return reachGoalsOf({ sampler, ids, axes: known, goals: readGoals(values) });
}

test('a goal is met where its value is as wanted, as near as is allowed', () => {
  expect(states(tank(goal('a', 'volume', '10 L', ['width'])))).toEqual([true]);
  expect(states(tank(goal('a', 'volume', '12 L', ['width'])))).toEqual([false]);
  expect(states(tank(goal('a', 'volume', '10.4 L', ['width'], '0.5 L')))).toEqual([true]);
  expect(states(tank(goal('a', 'width - 4 * depth', '0 mm', ['width'])))).toEqual([true]);
});

test.each([
  ['volume', '3 mm', undefined, /volume/],
  ['volume', '10 L', '3 mm', /3 mm is not an amount like volume/],
  ['volme', '10 L', undefined, /volme/],
  ['"tank"', '"tank"', undefined, /./],
])('%s = %s ± %s says why it cannot be judged', (of, wanted, within, problem) => {
  expect(states(tank(goal('a', of, wanted, ['width'], within)))).toEqual([expect.stringMatching(problem)]);
});

test('renaming a value renames it in goals, and removing one that a goal names is refused', () => {
  const document = tank(goal('a', 'volume', '12 L', ['width', 'depth']));
  const renamed = edited(document, { type: 'value.rename', id: 'tank-width', name: 'span' }, { type: 'value.rename', id: 'tank-volume', name: 'content' });
  const [reading] = readGoals(openValues(renamed, NOBODY));
  expect(reading && [textOfGoal(reading.goal), reading.goal.by.map(({ text }) => text), reading.isMet]).toEqual(['content = 12 L', ['span', 'depth'], false]);
  expect(applyEdit(document, { type: 'parameter.remove', id: 'tank-depth', readers: { mode: 'refuse' } }).ok).toBe(false);
});

test('what has no formula of its own to change is told by its name', () => {
  const values = openValues(tank(goal('a', 'volume', '12 L', ['width', 'span', 'girth'])), NOBODY);
  const [reading] = readGoals(values);
  expect(reading && driversOf(values, reading.goal)).toEqual({ ids: ['tank-width', 'tank-girth'], unfit: ['span'] });
});

test('two goals by two values at once, to the last digit that is shown', async () => {
  const document = tank(goal('a', 'volume', '12 L', ['width', 'depth']), goal('b', 'girth', '1.2 m', ['width', 'depth']));
  const { best, isReached, trials } = await reached(document, { width: ['300 mm', '600 mm'], depth: ['50 mm', '300 mm'] });
  expect(isReached).toBe(true);
  // w + d = 600 and w d = 48 000: 300 ± sqrt(300² - 48 000).
  const root = Math.sqrt(300 ** 2 - 48_000);
  expect((best?.at[0] ?? NaN) / MM).toBeCloseTo(300 + root, 7);
  expect((best?.at[1] ?? NaN) / MM).toBeCloseTo(300 - root, 7);
  // With slopes that are exact, a handful of them.
  expect(trials).toBeLessThan(12);
});

test('a goal that cannot be reached within the bounds is told by the nearest, and the document stays as it is', async () => {
  const document = tank(goal('a', 'volume', '40 L', ['width']));
  const { best, isReached } = await reached(document, { width: ['300 mm', '800 mm'] });
  expect(isReached).toBe(false);
  expect((best?.at[0] ?? NaN) / MM).toBeCloseTo(800, 6);
  expect(states(document)).toEqual([false]);
});

test.each<[Rounding, number, number]>([
  ['1', 123.4567, 123],
  ['0.5', 123.4567, 123.5],
  ['10', 123.4567, 120],
  ['exact', 123.4567, 123.4567],
  // ISO 3: 112, 125, 140 in R20; 100, 125, 160 in R10; 100, 160 in R5.
  ['R20', 118, 112],
  ['R20', 120, 125],
  ['R10', 140, 125],
  ['R10', 144, 160],
  ['R5', 123.4567, 100],
  ['R5', -2.1, -2.5],
])('rounded to %s, %f mm is %f mm', (rounding, amount, rounded) => {
  expect(roundTo(rounding, amount * MM, MM, { from: -1e9, to: 1e9 }) / MM).toBeCloseTo(rounded, 9);
});

test('rounding leaves choices alone and never leaves the bounds', () => {
  expect(roundTo('10', 18 * MM, MM, { from: 0, to: 100 * MM, allowed: [12 * MM, 18 * MM] })).toBe(18 * MM);
  expect(roundTo('10', 23 * MM, MM, { from: 21 * MM, to: 29 * MM })).toBe(23 * MM);
  expect(roundTo('10', 24 * MM, MM, { from: 21 * MM, to: 35 * MM })).toBe(30 * MM);
});
