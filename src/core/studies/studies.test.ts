/** Range runs and goals: against roots that are known, and documents opened anew. */
import { sourceOf, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { makeRandom } from '../../../tests/support/random';
import { DocumentValues, type Document } from '../document';
import { closeSafeRange, judgeAt, runMap, evenly, findGoal, inSteps, listedAmounts, runRange, safeRanges, Sampler } from '.';

const NOBODY = sourceOf([]);
const MM = 10_000;

describe('goals', () => {
  const goal = async (f: (x: number) => number, from: number, to: number, wanted = 0, present = from) =>
    findGoal({ from, to, present, wanted }, (x) => Promise.resolve(f(x)));

  test.each<[string, (x: number) => number, number, number, number]>([
    // The cubic that John Wallis solved by Newton's method (Algebra, 1685); its root to 16 places from memory, checked by putting it in.
    ['x³ - 2x - 5', (x) => x ** 3 - 2 * x - 5, 2, 3, 2.0945514815423265],
    // The fixed point of the cosine.
    ['cos x - x', (x) => Math.cos(x) - x, 0, 1, 0.7390851332151607],
    ['x⁹, flat at its root', (x) => x ** 9, -1, 4, 0],
    ['steep beside it', (x) => Math.expm1(40 * (x - 0.3)), 0, 1, 0.3],
    ['a line', (x) => 3 * x - 1, -5, 5, 1 / 3],
  ])('%s', async (_, f, from, to, root) => {
    const found = await goal(f, from, to);
    expect(found.ok && found.value.at).toBeCloseTo(root, _.startsWith('x⁹') ? 1 : 11);
    expect(found.ok && found.value.evaluations).toBeLessThan(90);
  });

  test('random cubics: what is found is a root, and where a sign changes one is found', async () => {
    const random = makeRandom(5);
    for (let i = 0; i < 200; i++) {
      const roots = [random() * 4 - 2, random() * 4 - 2, random() * 4 - 2];
      const f = (x: number): number => roots.reduce((product, root) => product * (x - root), 1);
      const found = await goal(f, -2.5, 2.5, 0, random() * 4 - 2);
      expect(found.ok).toBe(true);
      if (found.ok) expect(Math.min(...roots.map((root) => Math.abs(root - found.value.at)))).toBeLessThan(1e-4);
    }
  });

  test('of several the one nearest to the present amount', async () => {
    const wave = (x: number): number => Math.sin(x);
    const found = await goal(wave, 1, 20, 0, 9);
    expect(found.ok && found.value.at).toBeCloseTo(3 * Math.PI, 9);
    // The others are told nearly, without an evaluation more.
    const others = [1, 2, 4, 5, 6].map((k) => k * Math.PI);
    expect(found.ok && found.value.others).toEqual(others.map((other) => expect.closeTo(other, 1) as number));
    const alone = await goal((x) => x - 3, 0, 10);
    expect(alone.ok && alone.value.others).toEqual([]);
  });

  test('what cannot be reached is told with the nearest; a jump is no root; what has no value is told', async () => {
    const far = await goal((x) => x * x, -1, 2, -3);
    expect(far).toMatchObject({ ok: false, failure: { code: 'not-reached' } });
    if (!far.ok) expect(far.failure.nearest?.reached).toBeLessThan(0.01);
    expect(await goal((x) => (x < 0.5 ? -1 : 1), 0, 1)).toMatchObject({ ok: false, failure: { code: 'not-reached' } });
    expect(await goal(() => NaN, 0, 1)).toMatchObject({ ok: false, failure: { code: 'no-value' } });
    const stopped = await findGoal({ from: 0, to: 1, present: 0, wanted: 0.5 }, () => Promise.resolve(undefined));
    expect(stopped).toMatchObject({ ok: false, failure: { code: 'stopped' } });
  });
});

test('amounts in steps, and as they are listed', () => {
  expect(inSteps(1, 2, 0.25)).toEqual([1, 1.25, 1.5, 1.75, 2]);
  expect(inSteps(0, 1, 0.3)).toEqual([0, 0.3, 0.6, expect.closeTo(0.9, 12)]);
  // An end that rounding keeps apart from the last step is met.
  expect(inSteps(0.1, 0.7, 0.1)).toHaveLength(7);
  const values = new DocumentValues(withParameters('part', 'p', { wall: '3 mm', turn: '30 deg' }));
  const listed = (text: string) => listedAmounts(values, 'p-wall', text)?.map((amount) => amount / MM);
  expect(listed('18 mm; 12 mm; 1.5 cm; 12')).toEqual([12, 15, 18]);
  expect(listed('4, 2 * wall')).toEqual([4, 6]);
  expect(listed('max(1 mm, 2 mm); 3;')).toEqual([2, 3]);
  expect(['', ';', '3 mm; x', '3 mm; 4 kg'].map(listed)).toEqual([undefined, undefined, undefined, undefined]);
});

describe('range runs', () => {
  const plate = (): Document =>
    edited(withParameters('part', 'plate', { width: '40 mm', area: 'width * width / 2', half: 'if(width < 30 mm, 1 mm, width / 2)' }), {
      type: 'guard.put',
      guard: { type: 'guard', id: 'g', condition: { text: 'width <= 60 mm' }, message: 'too wide', severity: 'error' },
    });

  test('read what a document with that value would have, and change nothing of it', async () => {
    const document = plate();
    const before = JSON.stringify(document);
    const sampler = new Sampler(document, ['plate-width'], NOBODY);
    expect([sampler.isAmount, sampler.present]).toEqual([true, [40 * MM]]);
    const samples = await runRange(sampler, evenly(10 * MM, 80 * MM, 29), ['plate-area', 'plate-half']);
    expect(samples).toHaveLength(29);
    for (const { at, outputs } of samples) {
      const anew = new DocumentValues(edited(document, { type: 'parameter.setFormula', id: 'plate-width', formula: { text: `${at / MM} mm` } }));
      for (const id of ['plate-area', 'plate-half']) expect(outputs[id]).toBeCloseTo(anew.sheet.readNumber(id), 3);
    }
    expect(safeRanges(samples)).toEqual([{ from: 10 * MM, to: 60 * MM }]);
    expect(JSON.stringify(document)).toBe(before);
  });

  test('go through gaps where something fails, and stop when they are told to', async () => {
    const samples = await runRange(new Sampler(plate(), ['plate-width'], NOBODY), evenly(10 * MM, 50 * MM, 5), ['plate-area'], (_, values) =>
      Promise.resolve({ outputs: { mass: 1 }, problems: values.sheet.readNumber('plate-width') === 30 * MM ? ['a step fails'] : [] }),
    );
    expect(safeRanges(samples).map(({ from, to }) => [from / MM, to / MM])).toEqual([
      [10, 20],
      [40, 50],
    ]);
    let asked = 0;
    const stopped = await runRange(new Sampler(plate(), ['plate-width'], NOBODY), evenly(1, 5, 5), [], () =>
      Promise.resolve(++asked > 2 ? undefined : { outputs: {}, problems: [] }),
    );
    expect(stopped).toHaveLength(2);
  });

  test('the safe range is closed in on from the samples, to either side; it ends where nothing was looked at', async () => {
    const sampler = new Sampler(plate(), ['plate-width'], NOBODY);
    const close = async (from: number, to: number, around: number) => {
      const samples = await runRange(sampler, evenly(from * MM, to * MM, 8), []);
      const isWell = async (at: number) => ((await judgeAt(sampler, [at], []))?.problems.length ?? 1) === 0;
      const range = await closeSafeRange(samples, around * MM, isWell);
      return range && [range.from / MM, range.to / MM];
    };
    // The guard holds to 60 mm, both ends included; samples are 13 mm apart.
    const [from = NaN, to = NaN] = (await close(9, 100, 40)) ?? [];
    expect(from).toBe(9);
    expect(to).toBeLessThanOrEqual(60);
    expect(to).toBeGreaterThan(60 - 13 / 2 ** 13);
    expect(await close(9, 50, 40)).toEqual([9, 50]);
    expect(await close(9, 100, 80)).toBeUndefined();
  });

  test('two values are run over all pairs of amounts, whatever the way that they are gone through', async () => {
    const document = withParameters('part', 'p', { width: '10 mm', height: '20 mm', area: 'width * height' });
    const sampler = new Sampler(document, ['p-width', 'p-height'], NOBODY);
    const [first, second] = [evenly(1 * MM, 3 * MM, 3), evenly(5 * MM, 6 * MM, 2)];
    const samples = await runMap(sampler, [first, second], ['p-area']);
    expect(samples.map(({ at: [one, other], outputs }) => [one / MM, other / MM, (outputs['p-area'] ?? NaN) / MM / MM])).toEqual([
      [1, 5, 5],
      [2, 5, 10],
      [3, 5, 15],
      [3, 6, 18],
      [2, 6, 12],
      [1, 6, 6],
    ]);
    let left = 4;
    expect(await runMap(sampler, [first, second], [], () => Promise.resolve(left-- > 0 ? { outputs: {}, problems: [] } : undefined))).toHaveLength(4);
  });

  test('what is no amount is not run', () => {
    const document = withParameters('part', 'p', { word: '"a"', is_wide: '3 > 2' });
    for (const id of ['p-word', 'p-is_wide', 'nothing']) expect(new Sampler(document, [id], NOBODY).isAmount).toBe(false);
  });
});
