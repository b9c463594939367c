/**
 * The operations that compiled formulas are made of: what each computes, and why it can refuse.
 *
 * Lengths, angles and the rest are doubles in internal base units; angles are degrees. A refusal is NaN:
 * every operation gives NaN for NaN, and for a result that is not finite, so that whoever runs the code
 * checks once at the end and asks {@link findFault} for the reason. Yes and no are 1 and 0; texts are the
 * numbers of their own, see {@link numberOfText}.
 *
 * Transcendental functions come from stdlib (ports of FreeBSD msun): the same bits in every engine.
 */
import acos from '@stdlib/math-base-special-acos';
import asin from '@stdlib/math-base-special-asin';
import atan from '@stdlib/math-base-special-atan';
import atan2 from '@stdlib/math-base-special-atan2';
import cbrt from '@stdlib/math-base-special-cbrt';
import cos from '@stdlib/math-base-special-cos';
import exp from '@stdlib/math-base-special-exp';
import hypot from '@stdlib/math-base-special-hypot';
import ln from '@stdlib/math-base-special-ln';
import log10 from '@stdlib/math-base-special-log10';
import pow from '@stdlib/math-base-special-pow';
import sin from '@stdlib/math-base-special-sin';
import tan from '@stdlib/math-base-special-tan';
import type { FormulaCode } from './messages';
import { DEGREE } from '../units';

export interface Operation {
  readonly name: string;
  readonly arity: 1 | 2 | 3;
  /** Unused arguments are ignored. */
  readonly apply: (a: number, b: number, c: number) => number;
  /** Why finite arguments gave no finite result, where it is not an overflow. */
  readonly fault?: (a: number, b: number, c: number) => Fault | undefined;
}

export interface Fault {
  readonly code: FormulaCode;
  /** Said of the argument at `argument`: `{} is 0`. */
  readonly message: string;
  /** Said instead where the argument is a plain number, which says so itself. */
  readonly plain?: string;
  readonly argument: number;
}

/** Numbers this close to a whole one, relatively, count as whole: `90 mm * 7/cm` is 63. */
const WHOLE_TOLERANCE = 1e-9;
/** But never by more than this: a large number is not whole because it is large. */
const MOST_OFF_WHOLE = 1e-6;

/** The nearest whole number if `x` is within the tolerance of it, else `x`. */
export function snapWhole(x: number): number {
  const nearest = Math.round(x);
  return Math.abs(x - nearest) <= Math.min(WHOLE_TOLERANCE * Math.max(1, Math.abs(x)), MOST_OFF_WHOLE) ? nearest : x;
}

/** Exact results at multiples of 30° and 45°, by 15° steps of the first turn; undefined elsewhere. */
function exactSine(degrees: number): number | undefined {
  const turned = ((degrees % 360) + 360) % 360;
  switch (turned) {
    case 0:
    case 180:
      return 0;
    case 30:
    case 150:
      return 0.5;
    case 45:
    case 135:
      return Math.SQRT1_2;
    case 90:
      return 1;
    case 210:
    case 330:
      return -0.5;
    case 225:
    case 315:
      return -Math.SQRT1_2;
    case 270:
      return -1;
    default:
      return undefined;
  }
}

function sineOfDegrees(degrees: number): number {
  return exactSine(degrees) ?? sin((degrees % 360) * DEGREE);
}

function cosineOfDegrees(degrees: number): number {
  return exactSine(degrees + 90) ?? cos((degrees % 360) * DEGREE);
}

function tangentOfDegrees(degrees: number): number {
  switch (((degrees % 180) + 180) % 180) {
    case 0:
      return 0;
    case 45:
      return 1;
    case 90:
      return NaN;
    case 135:
      return -1;
    default:
      return tan((degrees % 360) * DEGREE);
  }
}

/** Angles whose sine, cosine or tangent is exact come back exact: asin(0.5) is 30°. */
function toDegrees(radians: number): number {
  const degrees = radians / DEGREE;
  const nearest = Math.round(degrees / 15) * 15;
  return Math.abs(degrees - nearest) <= 4e-15 * Math.max(1, Math.abs(nearest)) * 4 ? nearest : degrees;
}

/** Comparison with a check: NaN and overflowed arguments compare to nothing. */
function compare(a: number, b: number, holds: (difference: number) => boolean): number {
  const difference = a - b;
  return difference - difference === 0 ? (holds(difference) ? 1 : 0) : NaN;
}

const isZero = (argument: number): Fault => ({ code: 'division-by-zero', message: 'Division by zero: {} is 0.', plain: 'Division by zero.', argument });

const OPERATIONS = [
  { name: 'add', arity: 2, apply: (a, b) => a + b },
  { name: 'subtract', arity: 2, apply: (a, b) => a - b },
  { name: 'multiply', arity: 2, apply: (a, b) => a * b },
  {
    name: 'divide',
    arity: 2,
    apply: (a, b) => (b === 0 || b - b !== 0 ? NaN : a / b),
    fault: (_, b) => (b === 0 ? isZero(1) : undefined),
  },
  { name: 'negate', arity: 1, apply: (a) => -a },
  {
    name: 'power',
    arity: 2,
    apply: (a, b) => power(a, b),
    fault: (a, b) =>
      a === 0 && b < 0
        ? isZero(0)
        : a < 0 && !Number.isInteger(b)
          ? { code: 'negative-root', message: '{} is negative: it has no fractional power.', argument: 0 }
          : undefined,
  },
  { name: 'less', arity: 2, apply: (a, b) => compare(a, b, (d) => d < 0) },
  { name: 'lessOrEqual', arity: 2, apply: (a, b) => compare(a, b, (d) => d <= 0) },
  { name: 'equal', arity: 2, apply: (a, b) => compare(a, b, (d) => d === 0) },
  { name: 'unequal', arity: 2, apply: (a, b) => compare(a, b, (d) => d !== 0) },
  // What the other side decides alone is decided, though one side be refused.
  { name: 'and', arity: 2, apply: (a, b) => (a === 0 || b === 0 ? 0 : a * b) },
  { name: 'or', arity: 2, apply: (a, b) => (a === 1 || b === 1 ? 1 : a + b) },
  { name: 'not', arity: 1, apply: (a) => 1 - a },
  { name: 'sin', arity: 1, apply: sineOfDegrees },
  { name: 'cos', arity: 1, apply: cosineOfDegrees },
  {
    name: 'tan',
    arity: 1,
    apply: tangentOfDegrees,
    fault: () => ({ code: 'out-of-domain', message: 'The tangent of {} is infinite.', argument: 0 }),
  },
  { name: 'asin', arity: 1, apply: (a) => toDegrees(asin(a)), fault: outsideUnit },
  { name: 'acos', arity: 1, apply: (a) => toDegrees(acos(a)), fault: outsideUnit },
  { name: 'atan', arity: 1, apply: (a) => (a - a === 0 ? toDegrees(atan(a)) : NaN) },
  { name: 'atan2', arity: 2, apply: (a, b) => (a - a === 0 && b - b === 0 ? toDegrees(atan2(a, b)) : NaN) },
  {
    name: 'sqrt',
    arity: 1,
    apply: Math.sqrt,
    fault: (a) => (a < 0 ? { code: 'negative-root', message: '{} is negative: it has no square root.', argument: 0 } : undefined),
  },
  { name: 'cbrt', arity: 1, apply: (a) => cubeRoot(a) },
  { name: 'hypot', arity: 2, apply: (a, b) => (a - a === 0 && b - b === 0 ? hypot(a, b) : NaN) },
  { name: 'abs', arity: 1, apply: Math.abs },
  { name: 'sign', arity: 1, apply: (a) => (a - a === 0 ? Math.sign(a) : NaN) },
  { name: 'min', arity: 2, apply: (a, b) => (a - a === 0 && b - b === 0 ? Math.min(a, b) : NaN) },
  { name: 'max', arity: 2, apply: (a, b) => (a - a === 0 && b - b === 0 ? Math.max(a, b) : NaN) },
  { name: 'floor', arity: 1, apply: (a) => Math.floor(snapWhole(a)) },
  { name: 'ceil', arity: 1, apply: (a) => Math.ceil(snapWhole(a)) },
  // Halves go away from zero, as the trade rounds.
  { name: 'round', arity: 1, apply: (a) => Math.sign(a) * Math.floor(snapWhole(Math.abs(a) + 0.5)) },
  {
    name: 'mod',
    arity: 2,
    apply: modulo,
    fault: (_, b) => (b === 0 ? isZero(1) : undefined),
  },
  { name: 'exp', arity: 1, apply: (a) => (a - a === 0 ? exp(a) : NaN) },
  { name: 'ln', arity: 1, apply: (a) => (a > 0 ? ln(a) : NaN), fault: notPositive },
  { name: 'log10', arity: 1, apply: (a) => (a > 0 ? log10(a) : NaN), fault: notPositive },
  { name: 'select', arity: 3, apply: (a, b, c) => (a === 1 ? b : a === 0 ? c : NaN) },
  {
    name: 'clamp',
    arity: 3,
    apply: (a, low, high) => (low <= high && a - a === 0 ? Math.min(Math.max(a, low), high) : NaN),
    fault: (_, low, high) =>
      low > high ? { code: 'limits-crossed', message: 'The lower limit of clamp lies above the upper one, {}.', argument: 2 } : undefined,
  },
] as const satisfies readonly Operation[];

export type OperationName = (typeof OPERATIONS)[number]['name'] | 'lookup' | 'interpolate';

/** Codes are places in this table; lookup and interpolation, which need a table, come after. */
const CODES = new Map<string, number>(OPERATIONS.map((operation, code) => [operation.name, code]));
CODES.set('lookup', OPERATIONS.length);
CODES.set('interpolate', OPERATIONS.length + 1);

export function operationCode(name: OperationName): number {
  const code = CODES.get(name);
  if (code === undefined) throw new Error(`Bug: no operation ${name}`);
  return code;
}

export function operationAt(code: number): Operation | undefined {
  return OPERATIONS[code];
}

/** Computes one operation by name; lookups excepted. */
export function applyOperation(name: OperationName, args: readonly number[]): number {
  const operation: Operation | undefined = OPERATIONS[operationCode(name)];
  if (!operation) throw new Error(`Bug: ${name} needs a table`);
  return operation.apply(args[0] ?? NaN, args[1] ?? NaN, args[2] ?? NaN);
}

export function findFault(name: OperationName, args: readonly number[]): Fault {
  const operation: Operation | undefined = OPERATIONS[operationCode(name)];
  return (
    operation?.fault?.(args[0] ?? NaN, args[1] ?? NaN, args[2] ?? NaN) ?? {
      code: 'overflow',
      message: 'The result is too large.',
      argument: -1,
    }
  );
}

/** Whole powers by repeated squaring, so that `3^2` is 9 and `x^2` is `x*x` to the bit. */
function power(base: number, exponent: number): number {
  if (base - base !== 0 || exponent - exponent !== 0) return NaN;
  if (!Number.isInteger(exponent) || Math.abs(exponent) > 64) {
    const root = exponent === 0.5 ? Math.sqrt(base) : pow(base, exponent);
    return root - root === 0 ? root : NaN;
  }
  let result = 1;
  let square = base;
  for (let n = Math.abs(exponent); n > 0; n = Math.floor(n / 2)) {
    if (n % 2 === 1) result *= square;
    square *= square;
  }
  const value = exponent < 0 ? 1 / result : result;
  return value - value === 0 ? value : NaN;
}

/** What is left of `a`: 0 where `a` is a whole multiple of `b` within the tolerance, with the sign of `b` else. */
function modulo(a: number, b: number): number {
  if (b === 0 || b - b !== 0) return NaN;
  const steps = a / b;
  const snapped = snapWhole(steps);
  if (Number.isInteger(snapped) && snapped !== steps) return 0;
  const rest = a % b;
  return rest !== 0 && rest < 0 !== b < 0 ? rest + b : rest + 0;
}

/** Exact for exact cubes of whole numbers. */
function cubeRoot(x: number): number {
  const root = cbrt(x);
  const nearest = Math.round(root);
  return nearest * nearest * nearest === x ? nearest : root;
}

function outsideUnit(a: number): Fault | undefined {
  return a < -1 || a > 1 ? { code: 'out-of-domain', message: '{} must lie between -1 and 1.', argument: 0 } : undefined;
}

function notPositive(a: number): Fault | undefined {
  return a <= 0 ? { code: 'out-of-domain', message: '{} must be greater than 0.', argument: 0 } : undefined;
}
