/**
 * Limits of size by the ISO code system: standard tolerances IT1 to IT18 up to 3,150 mm. Values of the tables of ISO 286-1:2010 (from memory; checked against the formulas of the
 * same standard and against tabulated fits in tests/reference/tolerances.test.ts).
 */
import { deviationOfJ, fitRange, FIT_LETTERS, fundamentalDeviation, isFitLetter, mainRange } from './fundamental-deviations';

/** Standard tolerances in micrometres, by grade, over the ranges. */
const GRADES: Readonly<Record<number, readonly number[]>> = {
  1: [0.8, 1, 1, 1.2, 1.5, 1.5, 2, 2.5, 3.5, 4.5, 6, 7, 8, 9, 10, 11, 13, 15, 18, 22, 26],
  2: [1.2, 1.5, 1.5, 2, 2.5, 2.5, 3, 4, 5, 7, 8, 9, 10, 11, 13, 15, 18, 21, 25, 30, 36],
  3: [2, 2.5, 2.5, 3, 4, 4, 5, 6, 8, 10, 12, 13, 15, 16, 18, 21, 24, 29, 35, 41, 50],
  4: [3, 4, 4, 5, 6, 7, 8, 10, 12, 14, 16, 18, 20, 22, 25, 28, 33, 39, 46, 55, 68],
  5: [4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27, 32, 36, 40, 47, 55, 65, 78, 96],
  6: [6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40, 44, 50, 56, 66, 78, 92, 110, 135],
  7: [10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63, 70, 80, 90, 105, 125, 150, 175, 210],
  8: [14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97, 110, 125, 140, 165, 195, 230, 280, 330],
  9: [25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155, 175, 200, 230, 260, 310, 370, 440, 540],
  10: [40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250, 280, 320, 360, 420, 500, 600, 700, 860],
  11: [60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400, 440, 500, 560, 660, 780, 920, 1100, 1350],
  12: [100, 120, 150, 180, 210, 250, 300, 350, 400, 460, 520, 570, 630, 700, 800, 900, 1050, 1250, 1500, 1750, 2100],
  13: [140, 180, 220, 270, 330, 390, 460, 540, 630, 720, 810, 890, 970, 1100, 1250, 1400, 1650, 1950, 2300, 2800, 3300],
  14: [250, 300, 360, 430, 520, 620, 740, 870, 1000, 1150, 1300, 1400, 1550, 1750, 2000, 2300, 2600, 3100, 3700, 4400, 5400],
  15: [400, 480, 580, 700, 840, 1000, 1200, 1400, 1600, 1850, 2100, 2300, 2500, 2800, 3200, 3600, 4200, 5000, 6000, 7000, 8600],
  16: [600, 750, 900, 1100, 1300, 1600, 1900, 2200, 2500, 2900, 3200, 3600, 4000, 4400, 5000, 5600, 6600, 7800, 9200, 11000, 13500],
  17: [1000, 1200, 1500, 1800, 2100, 2500, 3000, 3500, 4000, 4600, 5200, 5700, 6300, 7000, 8000, 9000, 10500, 12500, 15000, 17500, 21000],
  18: [1400, 1800, 2200, 2700, 3300, 3900, 4600, 5400, 6300, 7200, 8100, 8900, 9700, 11000, 12500, 14000, 16500, 19500, 23000, 28000, 33000],
};

const CLASS = /^([a-z]{1,2}|[A-Z]{1,2})(\d{1,2})$/;

/** Deviations from the nominal size, in millimetres. */
export interface Deviations {
  readonly upper: number;
  readonly lower: number;
}

export type FitProblem = { readonly problem: string };

/** Whether a text has the form of a tolerance class: `H7`, `g6`, `js9`. */
export function isFitClass(text: string): boolean {
  const [, letters = '', digits = ''] = CLASS.exec(text) ?? [];
  return isFitLetter(letters.toLowerCase()) && GRADES[Number(digits)] !== undefined;
}

/** The standard tolerance of a grade for a nominal size in millimetres, in micrometres; undefined out of range. */
export function standardTolerance(grade: number, nominal: number): number | undefined {
  return GRADES[grade]?.[mainRange(nominal)];
}

/** The limit deviations of a class for a nominal size in millimetres. */
export function fitDeviations(fit: string, nominal: number): Deviations | FitProblem {
  const [, letters = '', digits = ''] = CLASS.exec(fit) ?? [];
  const letter = letters.toLowerCase();
  const grade = Number(digits);
  if (!isFitClass(fit)) return { problem: `${fit} is not a known tolerance class; letters are ${FIT_LETTERS}, in capitals for holes, grades 1 to 18.` };
  const width = standardTolerance(grade, nominal);
  if (width === undefined) return { problem: 'Tolerance classes are tabulated for sizes above 0 and up to 3150 mm.' };
  if (letter === 'js') return { upper: width / 2000, lower: -width / 2000 };
  const isHole = letters !== letter;
  const upper = letter === 'j' ? upperOfJ(isHole, grade, nominal, width) : upperOf(letter, isHole, grade, nominal, width);
  return typeof upper === 'number' ? { upper: plain(upper / 1000), lower: plain((upper - width) / 1000) } : upper;
}

function upperOfJ(isHole: boolean, grade: number, nominal: number, width: number): number | FitProblem {
  const deviation = deviationOfJ(isHole, grade, nominal);
  if (deviation === undefined)
    return {
      problem: isHole ? 'Holes of class J are tabulated for grades 6 to 8 up to 500 mm.' : 'Shafts of class j are tabulated for grades 5 to 7 up to 500 mm.',
    };
  return isHole ? deviation : deviation + width;
}

function upperOf(letter: string, isHole: boolean, grade: number, nominal: number, width: number): number | FitProblem {
  if (isHole && letter === 'k' && grade > 8) return { problem: 'Holes of class K are tabulated up to grade 8.' };
  const found = fundamentalDeviation(letter, nominal);
  if (found === undefined) {
    const [above, upTo] = fitRange(letter);
    return { problem: `Class ${isHole ? letter.toUpperCase() : letter} is tabulated for sizes above ${above} and up to ${upTo} mm.` };
  }
  if (letter <= 'h') return isHole ? found + width : -found;
  // k keeps its distance for grades 4 to 7 only.
  const distance = letter === 'k' && !isHole && (grade < 4 || grade > 7) ? 0 : found;
  return isHole ? raise(letter, grade, nominal, width) - distance : distance + width;
}

/**
 * By how much a hole from K on stands higher than the shaft of its letters mirrored: K to N up to grade 8 and P to ZC up to grade 7 by the
 * difference of two grades, so that hole and shaft fit alike; not up to 3 mm, and not above 500 mm.
 */
function raise(letter: string, grade: number, nominal: number, width: number): number {
  if (nominal <= 3 || nominal > 500) return 0;
  if (letter === 'n' && grade >= 9) return fundamentalDeviation(letter, nominal) ?? 0;
  const isRaised = grade >= 3 && grade <= (letter >= 'p' ? 7 : 8);
  return isRaised ? width - (standardTolerance(grade - 1, nominal) ?? width) : 0;
}

/** Without a negative nought. */
function plain(value: number): number {
  return value === 0 ? 0 : value;
}
