/** Exact derivatives of formulas: against differences of high order, and rules of calculus. */
import fc from 'fast-check';
import { ANY_SLOT, quantityType, type LookupTable } from '@/core/formula';
import { sampleSheet, Sheet, type Definition } from '@/core/network';
import { kindDimension, MILLIMETRES } from '@/core/units';
import { lengthFormula } from '../support/arbitraries';

const formula = (name: string, text: string): Definition => ({ kind: 'formula', name, text, slot: ANY_SLOT });

function sheetOf(texts: Readonly<Record<string, string>>, more: Readonly<Record<string, Definition>> = {}): Sheet {
  const sheet = new Sheet(MILLIMETRES);
  for (const [id, definition] of Object.entries(more)) sheet.define(id, definition);
  for (const [name, text] of Object.entries(texts)) sheet.define(name, formula(name, text));
  sheet.settle();
  return sheet;
}

/** The samples right beside a place are nearer to it by this than its neighbours. */
const BESIDE = 1_000;

/**
 * Richardson's extrapolation of central differences (L. F. Richardson, The approximate arithmetical solution ..., 1911): of fourth order, and how
 * far it is from that of twice the step; and how far the slopes to both sides are from it right beside the place.
 */
function byDifferences(sheet: Sheet, of: string, step: number): { readonly slope: number; readonly error: number; readonly bend: number } {
  const at = sheet.readNumber('x');
  const samples = Float64Array.from([-4, -2, -1, -1 / BESIDE, 0, 1 / BESIDE, 1, 2, 4], (i) => at + i * step);
  const [found = new Float64Array(9)] = sampleSheet(sheet, new Map([['x', samples]]), [of], 9);
  const [a = NaN, b = NaN, c = NaN, before = NaN, here = NaN, behind = NaN, d = NaN, e = NaN, f = NaN] = found;
  const [wide, middle, narrow] = [(f - a) / (8 * step), (e - b) / (4 * step), (d - c) / (2 * step)];
  const [rough, fine] = [(4 * middle - wide) / 3, (4 * narrow - middle) / 3];
  // A corner between the samples: central differences agree on the mean of its sides. Many steps between them (floor of what is steep): they agree
  // on the trend.
  const bend = Math.max(...[behind - here, here - before].map((difference) => Math.abs((difference * BESIDE) / step - fine)));
  return { slope: fine, error: Math.abs(fine - rough), bend };
}

test('slopes of random formulas are those that differences of fourth order tell', () => {
  let compared = 0;
  fc.assert(
    fc.property(lengthFormula(['x', 'y', 'z']), lengthFormula(['x', 'w']), fc.double({ min: 3, max: 70, noNaN: true }), (text, inner, x) => {
      const sheet = sheetOf({ x: `${x} mm`, w: 'x * 1.25 + 3 mm', y: '17 mm', z: inner, f: text });
      const [slope] = sheet.slopes(['x'], 'f');
      const value = sheet.readNumber('f');
      if (Number.isNaN(value) || !slope || slope.isCorner) return;
      // A step that is far above the noise of the last bits and far below what bends.
      const { slope: seen, error, bend } = byDifferences(sheet, 'f', 2);
      const scale = Math.max(1, Math.abs(seen), (Math.abs(value) / 10_000) * 1e-3);
      // Steps, corners and poles nearby: differences do not tell there.
      if (!(error < 1e-6 * scale) || !(bend < 1e-4 * scale) || !Number.isFinite(slope.value)) return;
      compared++;
      expect([text, inner, x, Math.abs(slope.value - seen) < 1e-4 * scale ? 'equal' : slope.value]).toEqual([text, inner, x, 'equal']);
    }),
    { numRuns: 5_000 },
  );
  expect(compared).toBeGreaterThan(2_500);
}, 60_000);

test.each<[string, string, number, boolean]>([
  // By the rules of calculus; lengths in millimetres, x is 30 mm.
  ['a line', '3 * x - 2 mm', 3, false],
  ['a product', 'x * x / 1 mm', 60, false],
  ['a quotient', '900 mm^2 / x', -1, false],
  ['a power', '(x / 1 mm) ^ 3 * 1 mm', 2_700, false],
  ['a root', 'sqrt(x * 30 mm)', 0.5, false],
  ['a sine of degrees', 'sin(x / 1 mm * 2 deg) * 100 mm', 100 * Math.cos(Math.PI / 3) * 2 * (Math.PI / 180), false],
  ['an exponential', 'exp(x / 30 mm) * 30 mm', Math.E, false],
  ['a hypotenuse', 'hypot(x, 40 mm)', 0.6, false],
  ['the branch that is taken', 'if(x > 20 mm, 2 * x, 5 * x)', 2, false],
  ['the lesser', 'min(2 * x, 100 mm)', 2, false],
  ['what is rounded', 'round(x / 7 mm) * 1 mm', 0, false],
  ['a corner: the steeper side', 'max(x, 3 * x - 60 mm)', 3, true],
  ['a corner: an absolute value', 'abs(x - 30 mm)', 1, true],
  ['a corner: a branch at its limit', 'if(x < 30 mm, 4 * x, x + 90 mm)', 4, true],
  ['a corner: held at a limit', 'clamp(x, 30 mm, 50 mm)', 1, true],
  ['a jump', 'floor(x / 10 mm) * 1 mm', 0, true],
  ['what does not move', '7 mm', 0, false],
])('%s', (_, text, slope, isCorner) => {
  const found = sheetOf({ x: '30 mm', f: text }).slopes(['x'], 'f')[0];
  expect([Math.abs(Math.abs(found?.value ?? NaN) - Math.abs(slope)) < 1e-9 * Math.max(1, Math.abs(slope)), found?.isCorner]).toEqual([true, isCorner]);
});

test('along a table: the slope of the stretch, at a key the steeper one', () => {
  const length = quantityType(kindDimension('length'));
  const table: LookupTable = {
    name: 'bow',
    columns: [
      { name: 'span', type: length, cells: [0, 100_000, 300_000] },
      { name: 'sag', type: length, cells: [0, 10_000, 90_000] },
    ],
  };
  const at = (x: string) => sheetOf({ x, f: 'interp(bow, x, "sag")' }, { bow: { kind: 'table', name: 'bow', table } }).slopes(['x'], 'f')[0];
  expect(at('5 mm')).toEqual({ value: 0.1, isCorner: false });
  expect(at('20 mm')).toEqual({ value: 0.4, isCorner: false });
  expect(at('10 mm')).toEqual({ value: 0.4, isCorner: true });
});

test('several values at once, each with the others held, whatever they are computed from', () => {
  const sheet = sheetOf({ x: '30 mm', y: '2 * x', f: 'x * y / 1 mm' });
  expect(sheet.slopes(['x', 'y'], 'f').map(({ value }) => value)).toEqual([60, 30]);
  expect(sheet.slopes(['x'], 'f').map(({ value }) => value)).toEqual([120]);
  expect(sheet.slopes(['f'], 'f').map(({ value }) => value)).toEqual([1]);
  expect(sheet.slopes(['f'], 'x').map(({ value }) => value)).toEqual([0]);
});
