/**
 * Limits of size by the ISO code system: standard tolerances IT1 to IT18 and fundamental deviations of the classes in
 * common use, up to 500 mm. Values of the tables of ISO 286-1:2010 (from memory; checked against the formulas of the
 * same standard and against tabulated fits in tests/reference/tolerances.test.ts).
 */

/** Upper ends of the ranges of nominal size, in millimetres; a range holds its upper end. */
const RANGES = [3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500] as const;

/** Standard tolerances in micrometres, by grade, over the ranges. */
const GRADES: Readonly<Record<number, readonly number[]>> = {
  1: [0.8, 1, 1, 1.2, 1.5, 1.5, 2, 2.5, 3.5, 4.5, 6, 7, 8],
  2: [1.2, 1.5, 1.5, 2, 2.5, 2.5, 3, 4, 5, 7, 8, 9, 10],
  3: [2, 2.5, 2.5, 3, 4, 4, 5, 6, 8, 10, 12, 13, 15],
  4: [3, 4, 4, 5, 6, 7, 8, 10, 12, 14, 16, 18, 20],
  5: [4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27],
  6: [6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40],
  7: [10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63],
  8: [14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97],
  9: [25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155],
  10: [40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250],
  11: [60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400],
  12: [100, 120, 150, 180, 210, 250, 300, 350, 400, 460, 520, 570, 630],
  13: [140, 180, 220, 270, 330, 390, 460, 540, 630, 720, 810, 890, 970],
  14: [250, 300, 360, 430, 520, 620, 740, 870, 1000, 1150, 1300, 1400, 1550],
  15: [400, 480, 580, 700, 840, 1000, 1200, 1400, 1600, 1850, 2100, 2300, 2500],
  16: [600, 750, 900, 1100, 1300, 1600, 1900, 2200, 2500, 2900, 3200, 3600, 4000],
  17: [1000, 1200, 1500, 1800, 2100, 2500, 3000, 3500, 4000, 4600, 5200, 5700, 6300],
  18: [1400, 1800, 2200, 2700, 3300, 3900, 4600, 5400, 6300, 7200, 8100, 8900, 9700],
};

/** Shafts: distance of the nearer limit from the nominal size in micrometres; below it for d to h, above it for k to p. */
const DEVIATIONS: Readonly<Record<string, readonly number[]>> = {
  d: [20, 30, 40, 50, 65, 80, 100, 120, 145, 170, 190, 210, 230],
  e: [14, 20, 25, 32, 40, 50, 60, 72, 85, 100, 110, 125, 135],
  f: [6, 10, 13, 16, 20, 25, 30, 36, 43, 50, 56, 62, 68],
  g: [2, 4, 5, 6, 7, 9, 10, 12, 14, 15, 17, 18, 20],
  h: [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0],
  k: [0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 4, 5],
  m: [2, 4, 6, 7, 8, 9, 11, 13, 15, 17, 20, 21, 23],
  n: [4, 8, 10, 12, 15, 17, 20, 23, 27, 31, 34, 37, 40],
  p: [6, 12, 15, 18, 22, 26, 32, 37, 43, 50, 56, 62, 68],
};

const CLASS = /^(js|JS|[defghkmnpDEFGHKMNP])(\d{1,2})$/;
/** The classes that are known, for messages. */
const FIT_LETTERS = 'd e f g h js k m n p, in capitals for holes';

/** Deviations from the nominal size, in millimetres. */
export interface Deviations {
  readonly upper: number;
  readonly lower: number;
}

export type FitProblem = { readonly problem: string };

/** Whether a text has the form of a tolerance class: `H7`, `g6`, `js9`. */
export function isFitClass(text: string): boolean {
  const match = CLASS.exec(text);
  return match !== null && GRADES[Number(match[2])] !== undefined;
}

/** The standard tolerance of a grade for a nominal size in millimetres, in micrometres; undefined out of range. */
export function standardTolerance(grade: number, nominal: number): number | undefined {
  return GRADES[grade]?.[rangeOf(nominal)];
}

/** The limit deviations of a class for a nominal size in millimetres. */
export function fitDeviations(fit: string, nominal: number): Deviations | FitProblem {
  const [, letters = '', digits = ''] = CLASS.exec(fit) ?? [];
  const grade = Number(digits);
  const range = rangeOf(nominal);
  const width = GRADES[grade]?.[range];
  if (letters === '' || GRADES[grade] === undefined) return { problem: `${fit} is not a known tolerance class; letters are ${FIT_LETTERS}, grades 1 to 18.` };
  if (width === undefined) return { problem: 'Tolerance classes are tabulated for sizes above 0 and up to 500 mm.' };
  const letter = letters.toLowerCase();
  const isHole = letters !== letter;
  if (letter === 'js') return { upper: width / 2000, lower: -width / 2000 };
  const distance = shaftDistance(letter, grade, range);
  const isBelow = letter <= 'h';
  if (!isHole) {
    return isBelow ? { upper: minus(distance) / 1000, lower: -(distance + width) / 1000 } : { upper: (distance + width) / 1000, lower: distance / 1000 };
  }
  if (isBelow) return { upper: (distance + width) / 1000, lower: distance / 1000 };
  if (letter === 'k' && grade > 8) return { problem: 'Holes of class K are tabulated up to grade 8.' };
  const upper = holeUpper(letter, grade, range, width);
  return { upper: upper / 1000, lower: (upper - width) / 1000 };
}

/** k keeps its distance for grades 4 to 7 only; it is nothing for the others. */
function shaftDistance(letter: string, grade: number, range: number): number {
  if (letter === 'k' && (grade < 4 || grade > 7)) return 0;
  return DEVIATIONS[letter]?.[range] ?? 0;
}

/**
 * Holes K to N up to grade 8 and P up to grade 7 are raised by the difference of two grades, so that hole and shaft of
 * the same letters fit alike; not below 3 mm.
 */
function holeUpper(letter: string, grade: number, range: number, width: number): number {
  const isRaised = range > 0 && grade >= 3 && grade <= (letter === 'p' ? 7 : 8);
  if (letter === 'n' && grade >= 9 && range > 0) return 0;
  const raise = isRaised ? width - (GRADES[grade - 1]?.[range] ?? width) : 0;
  return minus(DEVIATIONS[letter]?.[range] ?? 0) + raise;
}

function rangeOf(nominal: number): number {
  return nominal > 0 ? RANGES.findIndex((end) => nominal <= end) : -1;
}

/** Without a negative nought. */
function minus(value: number): number {
  return value === 0 ? 0 : -value;
}
