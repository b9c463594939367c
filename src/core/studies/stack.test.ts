/** Tolerance stacks against sums that are made by hand, and against themselves. */
import { linked, sourceOf, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { makeRandom } from '../../../tests/support/random';
import { DocumentValues, limitsOf, type Document, type Tolerance } from '../document';
import { mostPieces, stackOf } from '.';

const NOBODY = sourceOf([]);
const MM = 10_000;
const symmetric = (by: string): Tolerance => ({ kind: 'symmetric', by: { text: by } });

function toleranced(document: Document, tolerances: Readonly<Record<string, Tolerance>>): Document {
  return Object.entries(tolerances).reduce(
    (before, [name, tolerance]) => edited(before, { type: 'parameter.update', id: `${document.id}-${name}`, changes: { tolerance } }),
    document,
  );
}
const stack = (document: Document, name: string, seed = 1) => {
  const found = stackOf(document, `${document.id}-${name}`, NOBODY, { random: makeRandom(seed) });
  if (!found) throw new Error('no stack');
  const millimetres = ({ lower, upper }: { lower: number; upper: number }): number[] => [lower, upper].map((value) => Number((value / MM).toFixed(6)));
  return { ...found, worst: millimetres(found.worstCase), rss: millimetres(found.rootSumSquare), seen: millimetres(found.drawn) };
};

/** A shaft in a housing with two washers: the gap that is left, 3 mm. Sums by hand. */
const HOUSING = toleranced(withParameters('part', 'h', { bore: '50 mm', shaft: '41 mm', washer: '3 mm', gap: 'bore - shaft - 2 * washer', twice: '2 * gap' }), {
  bore: symmetric('0.3 mm'),
  shaft: symmetric('0.4 mm'),
  washer: { kind: 'deviations', upper: { text: '0.1 mm' }, lower: { text: '0 mm' } },
});

test('worst case and root sum square are the sums by hand; sensitivities and shares too', () => {
  const found = stack(HOUSING, 'gap');
  // 0.3 + 0.4 both ways; two washers of up to 0.1 take 0.2 away.
  expect(found.worst).toEqual([2.1, 3.7]);
  const half = Math.sqrt(0.3 ** 2 + 0.4 ** 2 + 0.1 ** 2);
  expect(found.rss[0]).toBeCloseTo(2.9 - half, 6);
  expect(found.rss[1]).toBeCloseTo(2.9 + half, 6);
  expect(Object.fromEntries(found.contributors.map(({ name, sensitivity }) => [name, Math.round(sensitivity * 1e6) / 1e6]))).toEqual({
    bore: 1,
    shaft: -1,
    washer: -2,
  });
  expect(found.contributors.map(({ name }) => name)).toEqual(['shaft', 'bore', 'washer']);
  expect(found.contributors.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 12);
  expect(stack(HOUSING, 'twice').worst).toEqual([4.2, 7.4]);
});

test('two pieces are off each by itself: the same at worst, less as a root sum square, and as they are drawn', () => {
  const of = (pieces?: number) => {
    const found = stackOf(HOUSING, 'h-gap', NOBODY, {
      random: makeRandom(3),
      reading: pieces === undefined ? {} : { contributors: { 'h-washer': { pieces } } },
    });
    if (!found) throw new Error('no stack');
    return found;
  };
  const [one, two] = [of(), of(2)];
  // What no formula says any more is not believed.
  expect(of(3).rootSumSquare).toEqual(one.rootSumSquare);
  expect(one.contributors.map(mostPieces)).toEqual([1, 1, 2]);
  expect(two.worstCase).toEqual(one.worstCase);
  // Two washers of 0.1 mm, about their middle: 0.05 each, by itself.
  expect((two.rootSumSquare.upper - two.rootSumSquare.lower) / 2 / MM).toBeCloseTo(Math.sqrt(0.3 ** 2 + 0.4 ** 2 + 2 * 0.05 ** 2), 9);
  // A width of w drawn evenly has a variance of w² / 12.
  const variance = (0.6 ** 2 + 0.8 ** 2 + 2 * 0.1 ** 2) / 12;
  expect((two.drawn.deviation / MM) ** 2 / variance).toBeCloseTo(1, 1);
  expect((two.drawn.mean / MM - 2.9) / Math.sqrt(variance)).toBeCloseTo(0, 1);
});

test.each([
  [2, 2],
  [-3, 3],
  [1, 1],
  [2.5, 1],
  [0, 1],
  [NaN, 1],
  [2 + 1e-9, 2],
])('what counts %f times may be %d pieces', (sensitivity, pieces) => {
  expect(mostPieces({ sensitivity })).toBe(pieces);
});

test('what is drawn lies within the worst case and about the root sum square; other numbers, another draw', () => {
  const [one, other] = [stack(HOUSING, 'gap', 1), stack(HOUSING, 'gap', 2)];
  for (const { seen, worst } of [one, other]) {
    expect(seen[0]).toBeGreaterThan(worst[0] ?? NaN);
    expect(seen[1]).toBeLessThan(worst[1] ?? NaN);
    // Even distributions are wider than a third of their half width: by the square root of three, cut off at their ends.
    expect(seen[1]).toBeGreaterThan(one.rss[1] ?? NaN);
  }
  expect(one.seen).not.toEqual(other.seen);
});

test('a value with a tolerance stands for itself: what it was computed from does not count', () => {
  const cut = toleranced(withParameters('part', 'c', { width: '100 mm', long: 'width - 20 mm', gap: 'width - long' }), {
    width: symmetric('1 mm'),
    long: symmetric('0.2 mm'),
  });
  const { contributors, worst } = stack(cut, 'gap');
  expect(Object.fromEntries(contributors.map(({ name, sensitivity }) => [name, sensitivity]))).toMatchObject({ width: 1, long: -1 });
  expect(worst).toEqual([18.8, 21.2]);
});

test('typed numbers without a tolerance are named as exact; nothing is changed; what is no amount has no stack', () => {
  const bare = toleranced(withParameters('part', 'b', { a: '10 mm', b: '4 mm', gap: 'a - b', word: '"x"' }), { a: symmetric('0.1 mm') });
  const before = JSON.stringify(bare);
  const found = stack(bare, 'gap');
  expect([found.exact, found.worst]).toEqual([['b'], [5.9, 6.1]]);
  expect(JSON.stringify(bare)).toBe(before);
  expect(stackOf(bare, 'b-word', NOBODY, { random: makeRandom(1) })).toBeUndefined();
  expect(stackOf(bare, 'nothing', NOBODY, { random: makeRandom(1) })).toBeUndefined();
  expect(stack(bare, 'a').contributors).toEqual([]);
});

test('a taken value brings its tolerance along; a lever that turns is told with its slope', () => {
  const part = linked(withParameters('part', 'p', { gap: 'seat - 5 mm' }), 'm', { seat: 20 });
  const take = Object.values(part.records).find((record) => record.type === 'take');
  if (take?.type !== 'take' || take.value.kind !== 'quantity') throw new Error('no take');
  const wide = { ...part, records: { ...part.records, [take.id]: { ...take, value: { ...take.value, tolerance: { upper: 0.021 * MM, lower: 0 } } } } };
  expect(stack(wide, 'gap').worst).toEqual([15, 15.021]);
  const lever = toleranced(withParameters('part', 'l', { angle: '30 deg', reach: '100 mm * sin(angle)' }, { angle: 'angle' }), { angle: symmetric('1 deg') });
  // The slope of 100 sin at 30 degrees is 100 cos 30°, a degree of it 1.5115 mm.
  expect((stack(lever, 'reach').contributors[0]?.sensitivity ?? NaN) / MM).toBeCloseTo(((100 * Math.PI) / 180) * Math.cos(Math.PI / 6), 3);
});

test('the one-way clutch that K. W. Chase uses as an example: nominal angle, sensitivities, worst case, root sum square', () => {
  // K. W. Chase, Tolerance Analysis of 2-D and 3-D Assemblies (ADCATS report 99-4, Brigham Young University): a hub, a roller of radius c and a ring; the
  // angle of pressure is arccos((a + c) / (e - c)), 7.0184 degrees. Sizes and angle from memory of the report; slopes by the calculus, here.
  const clutch = toleranced(
    withParameters('part', 'c', { hub: '27.645 mm', roller: '11.43 mm', ring: '50.8 mm', phi: 'acos((hub + roller) / (ring - roller))' }),
    { hub: symmetric('0.0125 mm'), roller: symmetric('0.01 mm'), ring: symmetric('0.0125 mm') },
  );
  const found = stackOf(clutch, 'c-phi', NOBODY, { random: makeRandom(1) });
  if (!found) throw new Error('no stack');
  expect(found.nominal).toBeCloseTo(7.0184, 4);
  const [a, c, e] = [27.645, 11.43, 50.8];
  const phi = Math.acos((a + c) / (e - c));
  const steep = Math.sin(phi) * (e - c);
  const slopes = { hub: -1 / steep, roller: -(1 + Math.cos(phi)) / steep, ring: Math.cos(phi) / steep };
  const degrees = 180 / Math.PI;
  for (const one of found.contributors) expect((one.sensitivity * MM) / degrees / slopes[one.name as keyof typeof slopes]).toBeCloseTo(1, 9);
  const parts = [0.0125 * slopes.hub, 0.01 * slopes.roller, 0.0125 * slopes.ring];
  const squares = Math.hypot(...parts) * degrees;
  expect(found.rootSumSquare.upper - found.nominal).toBeCloseTo(squares, 6);
  // The formula bends: at its limits it is not quite what slopes add up to, 0.534 degrees to either side.
  const sum = parts.reduce((whole, part) => whole + Math.abs(part), 0) * degrees;
  expect([found.worstCase.upper - found.nominal, found.nominal - found.worstCase.lower].map((width) => Math.abs(width / sum - 1) < 0.05)).toEqual([true, true]);
  const exact = (sign: 1 | -1) => Math.acos((a + sign * 0.0125 + c + sign * 0.01) / (e - sign * 0.0125 - (c + sign * 0.01))) * degrees;
  expect(found.worstCase.lower).toBeCloseTo(exact(1), 9);
  expect(found.worstCase.upper).toBeCloseTo(exact(-1), 9);
});

test('where all tolerances are off to one side, the nominal is beyond the worst case', () => {
  const plates = toleranced(withParameters('part', 'o', { a: '10 mm', b: '20 mm', both: 'a + b' }), {
    a: { kind: 'deviations', upper: { text: '0.3 mm' }, lower: { text: '0.1 mm' } },
    b: { kind: 'limits', upper: { text: '20.5 mm' }, lower: { text: '20.2 mm' } },
  });
  expect(stack(plates, 'both')).toMatchObject({ worst: [30.3, 30.8] });
});

test('typed lengths without a tolerance have the general one where a class is chosen; numbers and computed values have none', () => {
  const plain = withParameters('part', 'g', { bore: '50 mm', shaft: '41 mm', washer: '3 mm', count: '2', both: 'count * washer', gap: 'bore - shaft - both' });
  const known = toleranced(plain, { shaft: symmetric('0.05 mm') });
  const judge = (general?: 'm' | 'c') => {
    const found = stackOf(known, 'g-gap', NOBODY, { random: makeRandom(1), general });
    if (!found) throw new Error('no stack');
    return {
      worst: [found.worstCase.lower, found.worstCase.upper].map((value) => Number((value / MM).toFixed(6))),
      general: found.contributors
        .filter(({ isGeneral }) => isGeneral)
        .map(({ name }) => name)
        .sort(),
      exact: [...found.exact].sort(),
    };
  };
  expect(judge()).toEqual({ worst: [2.95, 3.05], general: [], exact: ['bore', 'count', 'washer'] });
  // ISO 2768-1 m: 50 mm 0.3, 3 mm 0.1, twice; the shaft keeps its own.
  expect(judge('m')).toEqual({ worst: [2.45, 3.55], general: ['bore', 'washer'], exact: ['count'] });
  expect(judge('c').worst).toEqual([1.75, 4.25]);
  // The class that the document has counts where no other is chosen.
  const medium = edited(known, { type: 'document.setGeneral', general: 'm' });
  expect(stackOf(medium, 'g-gap', NOBODY, { random: makeRandom(1) })?.worstCase.lower).toBeCloseTo(2.45 * MM, 4);
  expect(limitsOf(new DocumentValues(medium), 'g-bore')).toMatchObject({ shown: '49.7 mm to 50.3 mm', isGeneral: true });
  expect(limitsOf(new DocumentValues(medium), 'g-gap')).toBeUndefined();
  expect(edited(medium, { type: 'document.setGeneral', general: null })).toEqual(known);
});

test('a value with limits is typed like any other, and what its limits are made of does not count', () => {
  const plain = withParameters('part', 'l', { bore: '50 mm', wall: '4 mm', room: 'bore - 40 mm' });
  const limited = toleranced(edited(plain, { type: 'parameter.update', id: 'l-bore', changes: { least: { text: '10 * wall' }, most: { text: '90 mm' } } }), {
    wall: symmetric('0.1 mm'),
  });
  const judge = (general?: 'm') => stackOf(limited, 'l-room', NOBODY, { random: makeRandom(1), general });
  expect([judge()?.contributors, judge()?.exact]).toEqual([[], ['bore']]);
  expect(judge('m')?.contributors.map(({ name, isGeneral }) => [name, isGeneral])).toEqual([['bore', true]]);
});
