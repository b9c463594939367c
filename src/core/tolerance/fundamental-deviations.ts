/**
 * Fundamental deviations of shafts after ISO 286-1:2010, tables 4 and 5, in micrometres: the distance of the nearer limit from the nominal
 * size, below it for a to h, above it for k to zc. From memory; checked against the formulas of the same standard and against tabulated
 * fits in tests/reference/tolerances.test.ts.
 */

/** Upper ends of the ranges of nominal size, in millimetres; a range holds its upper end. */
const MAIN = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500, 3150] as const;
/** Most ranges are halved for the letters that are far from the nominal size. */
const WIDE = [3, 6, 10, 18, 30, 40, 50, 65, 80, 100, 120, 140, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450, 500] as const;
const FINE = [3, 6, 10, 14, 18, 24, 30, 40, 50, 65, 80, 100, 120, 140, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450, 500] as const;
const LARGE = [560, 630, 710, 800, 900, 1000, 1120, 1250, 1400, 1600, 1800, 2000, 2240, 2500, 2800, 3150] as const;

interface Column {
  readonly ends: readonly number[];
  /** From the first range that has one. */
  readonly values: readonly number[];
}

const column = (ends: readonly number[], values: readonly number[]): Column => ({ ends: ends.slice(ends.length - values.length), values });

/** Up to 500 mm. */
const wide = (...values: number[]): Column => column(WIDE, values);
const fine = (...values: number[]): Column => column(FINE, values);
/** Up to 3,150 mm. */
const main = (...values: number[]): Column => column(MAIN, values);
const fineToLarge = (...values: number[]): Column => column([...FINE, ...LARGE], values);
const wideToLarge = (...values: number[]): Column => column([...WIDE, ...LARGE], values);

// One line a letter, as in the standard.
// prettier-ignore
const COLUMNS: Readonly<Record<string, Column>> = {
  a: wide(270, 270, 280, 290, 300, 310, 320, 340, 360, 380, 410, 460, 520, 580, 660, 740, 820, 920, 1050, 1200, 1350, 1500, 1650),
  b: wide(140, 140, 150, 150, 160, 170, 180, 190, 200, 220, 240, 260, 280, 310, 340, 380, 420, 480, 540, 600, 680, 760, 840),
  c: wide(60, 70, 80, 95, 110, 120, 130, 140, 150, 170, 180, 200, 210, 230, 240, 260, 280, 300, 330, 360, 400, 440, 480),
  d: main(20, 30, 40, 50, 65, 80, 100, 120, 145, 170, 190, 210, 230, 260, 290, 320, 350, 390, 430, 480, 520),
  e: main(14, 20, 25, 32, 40, 50, 60, 72, 85, 100, 110, 125, 135, 145, 160, 170, 195, 220, 240, 260, 290),
  f: main(6, 10, 13, 16, 20, 25, 30, 36, 43, 50, 56, 62, 68, 76, 80, 86, 98, 110, 120, 130, 145),
  g: main(2, 4, 5, 6, 7, 9, 10, 12, 14, 15, 17, 18, 20, 22, 24, 26, 28, 30, 32, 34, 38),
  h: main(0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0),
  k: main(0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 4, 5, 0, 0, 0, 0, 0, 0, 0, 0),
  m: main(2, 4, 6, 7, 8, 9, 11, 13, 15, 17, 20, 21, 23, 26, 30, 34, 40, 48, 58, 68, 76),
  n: main(4, 8, 10, 12, 15, 17, 20, 23, 27, 31, 34, 37, 40, 44, 50, 56, 66, 78, 92, 110, 135),
  p: main(6, 12, 15, 18, 22, 26, 32, 37, 43, 50, 56, 62, 68, 78, 88, 100, 120, 140, 170, 195, 240),
  r: wideToLarge(10, 15, 19, 23, 28, 34, 34, 41, 43, 51, 54, 63, 65, 68, 77, 80, 84, 94, 98, 108, 114, 126, 132, 150, 155, 175, 185, 210, 220, 250, 260, 300, 330, 370, 400, 440, 460, 550, 580),
  s: wideToLarge(14, 19, 23, 28, 35, 43, 43, 53, 59, 71, 79, 92, 100, 108, 122, 130, 140, 158, 170, 190, 208, 232, 252, 280, 310, 340, 380, 430, 470, 520, 580, 640, 720, 820, 920, 1000, 1100, 1250, 1400),
  t: fineToLarge(41, 48, 54, 66, 75, 91, 104, 122, 134, 146, 166, 180, 196, 218, 240, 268, 294, 330, 360, 400, 450, 500, 560, 620, 680, 780, 840, 960, 1050, 1200, 1350, 1500, 1650, 1900, 2100),
  u: fineToLarge(18, 23, 28, 33, 33, 41, 48, 60, 70, 87, 102, 124, 144, 170, 190, 210, 236, 258, 284, 315, 350, 390, 435, 490, 540, 600, 660, 740, 840, 940, 1050, 1150, 1300, 1450, 1600, 1850, 2000, 2300, 2500, 2900, 3200),
  v: fine(39, 47, 55, 68, 81, 102, 120, 146, 172, 202, 228, 252, 284, 310, 340, 385, 425, 475, 530, 595, 660),
  x: fine(20, 28, 34, 40, 45, 54, 64, 80, 97, 122, 146, 178, 210, 248, 280, 310, 350, 385, 425, 475, 525, 590, 660, 740, 820),
  y: fine(63, 75, 94, 114, 144, 174, 214, 254, 300, 340, 380, 425, 470, 520, 580, 650, 730, 820, 920, 1000),
  z: fine(26, 35, 42, 50, 60, 73, 88, 112, 136, 172, 210, 258, 310, 365, 415, 465, 520, 575, 640, 710, 790, 900, 1000, 1100, 1250),
  za: fine(32, 42, 52, 64, 77, 98, 118, 148, 180, 226, 274, 335, 400, 470, 535, 600, 670, 740, 820, 920, 1000, 1150, 1300, 1450, 1600),
  zb: fine(40, 50, 67, 90, 108, 136, 160, 200, 242, 300, 360, 445, 525, 620, 700, 780, 880, 960, 1050, 1200, 1300, 1500, 1650, 1850, 2100),
  zc: fine(60, 80, 97, 130, 150, 188, 218, 274, 325, 405, 480, 585, 690, 800, 900, 1000, 1150, 1250, 1350, 1550, 1700, 1900, 2100, 2400, 2600),
};

/** j and J lie about the nominal size; j by its lower, J by its upper deviation. */
const J_SHAFTS: Readonly<Record<number, readonly number[]>> = {
  5: [-2, -2, -2, -3, -4, -5, -7, -9, -11, -13, -16, -18, -20],
  6: [-2, -2, -2, -3, -4, -5, -7, -9, -11, -13, -16, -18, -20],
  7: [-4, -4, -5, -6, -8, -10, -12, -15, -18, -21, -26, -28, -32],
};
const J_HOLES: Readonly<Record<number, readonly number[]>> = {
  6: [2, 5, 5, 6, 8, 10, 13, 16, 18, 22, 25, 29, 33],
  7: [4, 6, 8, 10, 12, 14, 18, 22, 26, 30, 36, 39, 43],
  8: [6, 10, 12, 15, 20, 24, 28, 34, 41, 47, 55, 60, 66],
};

/** The letters of shafts, in their order. */
export const FIT_LETTERS = 'a b c d e f g h js j k m n p r s t u v x y z za zb zc';

export function isFitLetter(letter: string): boolean {
  return FIT_LETTERS.split(' ').includes(letter);
}

/** The range of nominal sizes, in millimetres, for which a letter is tabulated: above the first, up to the second. */
export function fitRange(letter: string): readonly [above: number, upTo: number] {
  const { ends = [], values = [] } = COLUMNS[letter] ?? {};
  const all = ends.at(-1) === MAIN.at(-1) ? [...FINE, ...LARGE] : FINE;
  const first = ends[0] ?? 0;
  const above = values.length > 0 && first > 3 ? (all.filter((end) => end < first).at(-1) ?? 0) : 0;
  // Gaps of a and b are wider than sizes up to 1 mm bear.
  return [letter === 'a' || letter === 'b' ? 1 : above, ends.at(-1) ?? 500];
}

/** The fundamental deviation of a shaft for a nominal size in millimetres, in micrometres; undefined where none is tabulated. */
export function fundamentalDeviation(letter: string, nominal: number): number | undefined {
  const found = COLUMNS[letter];
  const [above, upTo] = fitRange(letter);
  if (!found || nominal <= above || nominal > upTo) return undefined;
  return found.values[found.ends.findIndex((end) => nominal <= end)];
}

/** The lower deviation of a shaft j, or the upper one of a hole J, in micrometres; undefined where none is tabulated. */
export function deviationOfJ(isHole: boolean, grade: number, nominal: number): number | undefined {
  const at = mainRange(nominal);
  // The only one of its grade.
  if (!isHole && grade === 8 && at === 0) return -6;
  return (isHole ? J_HOLES : J_SHAFTS)[grade]?.[at];
}

/** The place of a nominal size among the ranges of the standard tolerances; -1 outside. */
export function mainRange(nominal: number): number {
  return nominal > 0 ? MAIN.findIndex((end) => nominal <= end) : -1;
}
