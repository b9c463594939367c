/**
 * Limits of size against ISO 286. The values of the fits are those tabulated in ISO 286-2:2010 (from memory); the
 * formulas of the standard tolerances are those of ISO 286-1:2010, annex A (from memory): the tolerance factor
 * i = 0.45 * cbrt(D) + 0.001 * D in micrometres with D the geometric mean of the range in millimetres, above 500 mm I = 0.004 * D + 2.1,
 * IT5 = 7 i, IT6 = 10 i and so on along the R5 series. The standard rounds its values, those up to 3 mm most (up to a fifth).
 */
import { fitDeviations, GENERAL_CLASSES, generalDeviation, standardTolerance } from '@/core/tolerance';

const ENDS = [1, 3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500, 3150];
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
      const computed = factor * (mean < 500 ? 0.45 * Math.cbrt(mean) + 0.001 * mean : 0.004 * mean + 2.1);
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
  ['a11', 50, -320, -480],
  ['b11', 65, -190, -380],
  ['c11', 50, -130, -290],
  ['C11', 30, 240, 110],
  ['D10', 45, 180, 80],
  ['j6', 30, 9, -4],
  ['j7', 50, 15, -10],
  ['J7', 50, 14, -11],
  ['J6', 20, 8, -5],
  ['r6', 65, 60, 41],
  ['R7', 65, -30, -60],
  ['s6', 50, 59, 43],
  ['S7', 50, -34, -59],
  ['t6', 50, 70, 54],
  ['u6', 30, 61, 48],
  ['U7', 30, -40, -61],
  ['x8', 16, 72, 45],
  ['z8', 10, 64, 42],
  ['zc8', 6, 98, 80],
  ['H7', 1000, 90, 0],
  ['h7', 800, 0, -80],
  ['g6', 600, -22, -66],
  ['P7', 600, -78, -148],
  ['u7', 3150, 3410, 3200],
] as const)('%s of %d mm', (fit, nominal, upper, lower) => {
  const found = fitDeviations(fit, nominal);
  if ('problem' in found) throw new Error(found.problem);
  expect(found.upper * 1000).toBeCloseTo(upper, 9);
  expect(found.lower * 1000).toBeCloseTo(lower, 9);
});

/**
 * Fundamental deviations by the formulas of ISO 286-1:2010, annex A (from memory), in micrometres with D in millimetres. The standard rounds its
 * values, and sets those of interference fits up to 10 mm, and of c up to 40 mm, otherwise: these are held to the order of letters and sizes alone.
 */
const BY_FORMULA: Readonly<Record<string, (d: number, it: (grade: number) => number) => number>> = {
  a: (d) => (d <= 120 ? 265 + 1.3 * d : 3.5 * d),
  b: (d) => (d <= 160 ? 140 + 0.85 * d : 1.8 * d),
  c: (d) => (d <= 40 ? 52 * d ** 0.2 : 95 + 0.8 * d),
  d: (d) => 16 * d ** 0.44,
  e: (d) => 11 * d ** 0.41,
  f: (d) => 5.5 * d ** 0.41,
  g: (d) => (d <= 500 ? 2.5 * d ** 0.34 : NaN),
  m: (d, it) => (d <= 500 ? it(7) - it(6) : 0.024 * d + 12.6),
  n: (d) => (d <= 500 ? 5 * d ** 0.34 : 0.04 * d + 21),
  p: (d, it) => (d <= 500 ? it(7) + 2 : 0.072 * d + 37.8),
  r: (d, it) =>
    d <= 50 ? Math.sqrt((it(7) + 2) * (it(8) + 2)) : d <= 500 ? Math.sqrt((it(7) + 2) * (it(7) + 0.4 * d)) : Math.sqrt((0.072 * d + 37.8) * (it(7) + 0.4 * d)),
  s: (d, it) => (d <= 50 ? it(8) + 2 : it(7) + 0.4 * d),
  t: (d, it) => it(7) + 0.63 * d,
  u: (d, it) => it(7) + d,
  v: (d, it) => it(7) + 1.25 * d,
  x: (d, it) => it(7) + 1.6 * d,
  y: (d, it) => it(7) + 2 * d,
  z: (d, it) => it(7) + 2.5 * d,
  za: (d, it) => it(8) + 3.15 * d,
  zb: (d, it) => it(9) + 4 * d,
  zc: (d, it) => it(10) + 5 * d,
};
const HALVED = [
  1, 3, 6, 10, 14, 18, 24, 30, 40, 50, 65, 80, 100, 120, 140, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450, 500, 560, 630, 710, 800, 900, 1000, 1120, 1250,
  1400, 1600, 1800, 2000, 2240, 2500, 2800, 3150,
];
const WHOLE = new Set(['d', 'e', 'f', 'g', 'm', 'n', 'p']);

test.each(Object.keys(BY_FORMULA))('fundamental deviations of %s are those of the formula, rounded', (letter) => {
  const ends = WHOLE.has(letter) ? ENDS : HALVED;
  const off: string[] = [];
  let checked = 0;
  ends.slice(1).forEach((end, i) => {
    const found = fitDeviations(`${letter}7`, end);
    if ('problem' in found) return;
    const tabulated = 1000 * (letter <= 'h' ? -found.upper : found.lower);
    const mean = Math.sqrt((ends[i] ?? NaN) * end);
    const computed = BY_FORMULA[letter]?.(mean, (grade) => standardTolerance(grade, end) ?? NaN) ?? NaN;
    if (Number.isNaN(computed) || (letter > 'h' && end <= 10)) return;
    checked++;
    if (Math.abs(tabulated - computed) > Math.max(4, (letter === 'c' ? 0.16 : 0.09) * computed))
      off.push(`up to ${end} mm: ${tabulated}, by the formula ${computed.toFixed(1)}`);
  });
  expect(off).toEqual([]);
  expect(checked).toBeGreaterThan(8);
});

test('a later letter is never nearer, a larger size never nearer in its letter', () => {
  const nearer = (letter: string, size: number): number => {
    const found = fitDeviations(`${letter}7`, size);
    return 'problem' in found ? NaN : letter <= 'h' ? -found.upper : found.lower;
  };
  const rows = ['h', 'g', 'f', 'e', 'd', 'c', 'b', 'a'];
  const out = ['k', 'm', 'n', 'p', 'r', 's', 't', 'u', 'v', 'x', 'y', 'z', 'za', 'zb', 'zc'];
  for (const letters of [rows, out]) {
    for (const size of HALVED.slice(1)) {
      const known = letters.map((letter) => nearer(letter, size)).filter((value) => !Number.isNaN(value));
      expect(known).toEqual([...known].sort((a, b) => a - b));
    }
    for (const letter of letters.filter((one) => one !== 'k')) {
      const known = HALVED.slice(1)
        .map((size) => nearer(letter, size))
        .filter((value) => !Number.isNaN(value));
      expect(known).toEqual([...known].sort((a, b) => a - b));
    }
  }
});

test('a size that is a range’s end belongs to the smaller range, as in the standard', () => {
  expect(standardTolerance(7, 50)).toBe(25);
  expect(standardTolerance(7, 50.001)).toBe(30);
});

test('what is not tabulated is refused with a word', () => {
  expect(fitDeviations('H7', 3151)).toEqual({ problem: 'Tolerance classes are tabulated for sizes above 0 and up to 3150 mm.' });
  expect(fitDeviations('H7', 0)).toHaveProperty('problem');
  expect(fitDeviations('q6', 10)).toHaveProperty('problem', expect.stringContaining('letters are a b c d'));
  expect(fitDeviations('t6', 24)).toEqual({ problem: 'Class t is tabulated for sizes above 24 and up to 500 mm.'.replace('500', '3150') });
  expect(fitDeviations('V7', 14)).toEqual({ problem: 'Class V is tabulated for sizes above 14 and up to 500 mm.' });
  expect(fitDeviations('a9', 1)).toEqual({ problem: 'Class a is tabulated for sizes above 1 and up to 500 mm.' });
  expect(fitDeviations('j9', 10)).toHaveProperty('problem');
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
