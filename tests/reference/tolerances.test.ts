/**
 * Limits of size against ISO 286. The values of the fits are those tabulated in ISO 286-2:2010 (from memory); the
 * formulas of the standard tolerances are those of ISO 286-1:2010, annex A (from memory): the tolerance factor
 * i = 0.45 * cbrt(D) + 0.001 * D in micrometres with D the geometric mean of the range in millimetres, IT5 = 7 i,
 * IT6 = 10 i and so on along the R5 series. The standard rounds its values, those up to 3 mm most (up to a fifth).
 */
import { fitDeviations, GENERAL_CLASSES, generalDeviation, standardTolerance } from '@/core/tolerance';

const ENDS = [1, 3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500];
const FACTORS: Readonly<Record<number, number>> = {
  5: 7,
  6: 10,
  7: 16,
  8: 25,
  9: 40,
  10: 64,
  11: 100,
  12: 160,
  13: 250,
  14: 400,
  15: 640,
  16: 1000,
  17: 1600,
  18: 2500,
};

test('standard tolerances are those of the formula, rounded', () => {
  const off: string[] = [];
  for (const [grade, factor] of Object.entries(FACTORS)) {
    ENDS.slice(1).forEach((end, i) => {
      const mean = Math.sqrt((ENDS[i] ?? NaN) * end);
      const computed = factor * (0.45 * Math.cbrt(mean) + 0.001 * mean);
      const tabulated = standardTolerance(Number(grade), end) ?? NaN;
      if (Math.abs(tabulated - computed) > Math.max(1, (i === 0 ? 0.2 : 0.09) * computed))
        off.push(`IT${grade} up to ${end} mm: ${tabulated}, by the formula ${computed.toFixed(1)}`);
    });
  }
  expect(off).toEqual([]);
});

test.each([
  // Class, nominal size in millimetres, upper and lower deviation in micrometres.
  ['H7', 45, 25, 0],
  ['H8', 10, 22, 0],
  ['H11', 100, 220, 0],
  ['g6', 45, -9, -25],
  ['f7', 25, -20, -41],
  ['h6', 100, 0, -22],
  ['h9', 20, 0, -52],
  ['e8', 60, -60, -106],
  ['d9', 30, -65, -117],
  ['k6', 40, 18, 2],
  ['m6', 25, 21, 8],
  ['n6', 50, 33, 17],
  ['p6', 60, 51, 32],
  ['js6', 30, 6.5, -6.5],
  ['F8', 40, 64, 25],
  ['G7', 16, 24, 6],
  ['K7', 40, 7, -18],
  ['M7', 40, 0, -25],
  ['N7', 25, -7, -28],
  ['N7', 40, -8, -33],
  ['P7', 40, -17, -42],
  ['N9', 20, 0, -52],
  ['K7', 100, 10, -25],
  ['JS9', 8, 18, -18],
] as const)('%s of %d mm', (fit, nominal, upper, lower) => {
  const found = fitDeviations(fit, nominal);
  if ('problem' in found) throw new Error(found.problem);
  expect(found.upper * 1000).toBeCloseTo(upper, 9);
  expect(found.lower * 1000).toBeCloseTo(lower, 9);
});

test('a size that is a range’s end belongs to the smaller range, as in the standard', () => {
  expect(standardTolerance(7, 50)).toBe(25);
  expect(standardTolerance(7, 50.001)).toBe(30);
});

test('what is not tabulated is refused with a word', () => {
  expect(fitDeviations('H7', 600)).toEqual({ problem: 'Tolerance classes are tabulated for sizes above 0 and up to 500 mm.' });
  expect(fitDeviations('H7', 0)).toHaveProperty('problem');
  expect(fitDeviations('z6', 10)).toHaveProperty('problem');
  expect(fitDeviations('K9', 10)).toEqual({ problem: 'Holes of class K are tabulated up to grade 8.' });
});

describe('general tolerances of ISO 2768-1, table 1 (values from memory)', () => {
  test.each([
    [0.5, 'm', 0.1],
    [3, 'f', 0.05],
    [3.01, 'c', 0.3],
    [6, 'v', 0.5],
    [25, 'm', 0.2],
    [30.5, 'm', 0.3],
    [120, 'f', 0.15],
    [121, 'm', 0.5],
    [400, 'c', 1.2],
    [500, 'm', 0.8],
    [1000, 'v', 4],
    [1500, 'f', 0.5],
    [2500, 'm', 2],
  ] as const)('%d mm, class %s: %d mm', (size, wanted, deviation) => {
    expect(generalDeviation(size, wanted)).toBe(deviation);
    expect(generalDeviation(-size, wanted)).toBe(deviation);
  });

  test('none below half a millimetre, above four metres, and where the table has a dash', () => {
    expect([generalDeviation(0.49, 'm'), generalDeviation(4001, 'm'), generalDeviation(2500, 'f'), generalDeviation(2, 'v')]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });

  test('a coarser class is never narrower, a larger size never narrower in its class', () => {
    const sizes = [1, 5, 20, 100, 300, 800, 1500];
    for (const wanted of GENERAL_CLASSES) {
      const along = sizes.flatMap((size) => generalDeviation(size, wanted) ?? []);
      expect([...along].sort((a, b) => a - b)).toEqual(along);
    }
    for (const size of sizes) {
      const across = GENERAL_CLASSES.flatMap((wanted) => generalDeviation(size, wanted) ?? []);
      expect([...across].sort((a, b) => a - b)).toEqual(across);
    }
  });
});
