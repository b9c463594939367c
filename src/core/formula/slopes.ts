/**
 * Derivatives of the operations, for values that move along one line: forward mode, an operation at a time.
 *
 * Where a function has a corner (a minimum of equals, an absolute value at 0) the slope is that of one side: `direction` is 1 for the way
 * up and -1 for the way down. A comparison of equals is what it would be a hair along that way. Rules of calculus; angles are degrees.
 */
import cos from '@stdlib/math-base-special-cos';
import ln from '@stdlib/math-base-special-ln';
import sin from '@stdlib/math-base-special-sin';
import { applyOperation, operationCode, snapWhole, type OperationName } from './operations';
import { findRow, interpolate, lookUp } from './typed-tree';
import type { LookupTable } from './scope';
import { DEGREE } from '../units';

/** A value, and how fast it moves. */
export interface Moving {
  readonly value: number;
  readonly slope: number;
  /** Whether the other side has another slope, or another value. */
  readonly isCorner: boolean;
}

const moving = (value: number, slope: number, isCorner = false): Moving => ({ value, slope, isCorner });

/** Nothing moves by what does not: 0 times infinity is 0 here. */
const times = (slope: number, factor: number): number => (slope === 0 ? 0 : slope * factor);

type Rule = (value: number, a: Moving, b: Moving, c: Moving, direction: 1 | -1) => Moving;

const linear =
  (slope: (a: number, b: number) => number): Rule =>
  (value, a, b) =>
    moving(value, slope(a.slope, b.slope));

/** Of one argument, by its derivative. */
const smooth =
  (derivative: (a: number, value: number) => number): Rule =>
  (value, a) =>
    moving(value, times(a.slope, derivative(a.value, value)));

/** What stays the same until it jumps. */
const stepped =
  (jumps: (a: number, b: number) => boolean): Rule =>
  (value, a, b) =>
    moving(value, 0, (a.slope !== 0 || b.slope !== 0) && jumps(a.value, b.value));

/** What the difference of two does a hair along the way decides between equals. */
const compared =
  (whenEqual: (difference: number) => boolean): Rule =>
  (value, a, b, _, direction) => {
    const difference = (a.slope - b.slope) * direction;
    return a.value !== b.value || difference === 0 ? moving(value, 0) : moving(whenEqual(difference) ? 1 : 0, 0, true);
  };

/** The lesser or the greater of two. */
const chosen =
  (sign: 1 | -1): Rule =>
  (value, a, b, _, direction) => {
    if (a.value !== b.value) return moving(value, (a.value - b.value) * sign < 0 ? a.slope : b.slope);
    const isFirst = (a.slope - b.slope) * direction * sign < 0;
    return moving(value, isFirst ? a.slope : b.slope, a.slope !== b.slope);
  };

const least = chosen(1);
const greatest = chosen(-1);

const isWhole = (a: number): boolean => Number.isInteger(snapWhole(a));

const RULES: Readonly<Record<Exclude<OperationName, 'lookup' | 'interpolate'>, Rule>> = {
  add: linear((a, b) => a + b),
  subtract: linear((a, b) => a - b),
  multiply: (value, a, b) => moving(value, times(a.slope, b.value) + times(b.slope, a.value)),
  divide: (value, a, b) => moving(value, a.slope / b.value - times(b.slope, value / b.value)),
  negate: linear((a) => -a),
  power: (value, a, b) => {
    const byBase = b.value === 0 ? 0 : times(a.slope, b.value * applyOperation('power', [a.value, b.value - 1]));
    return moving(value, byBase + times(b.slope, value === 0 ? 0 : value * ln(a.value)));
  },
  less: compared((difference) => difference < 0),
  lessOrEqual: compared((difference) => difference < 0),
  equal: compared(() => false),
  unequal: compared(() => true),
  and: linear(() => 0),
  or: linear(() => 0),
  not: linear(() => 0),
  sin: smooth((a) => cos((a % 360) * DEGREE) * DEGREE),
  cos: smooth((a) => -sin((a % 360) * DEGREE) * DEGREE),
  tan: smooth((_, value) => (1 + value * value) * DEGREE),
  asin: smooth((a) => 1 / (DEGREE * Math.sqrt(1 - a * a))),
  acos: smooth((a) => -1 / (DEGREE * Math.sqrt(1 - a * a))),
  atan: smooth((a) => 1 / (DEGREE * (1 + a * a))),
  atan2: (value, y, x) => moving(value, (times(y.slope, x.value) - times(x.slope, y.value)) / (DEGREE * (x.value * x.value + y.value * y.value))),
  sqrt: smooth((_, value) => 1 / (2 * value)),
  cbrt: smooth((_, value) => 1 / (3 * value * value)),
  hypot: (value, a, b, _, direction) =>
    value === 0
      ? moving(value, Math.hypot(a.slope, b.slope) * direction, a.slope !== 0 || b.slope !== 0)
      : moving(value, (times(a.slope, a.value) + times(b.slope, b.value)) / value),
  abs: (value, a, _, __, direction) =>
    a.value === 0 ? moving(value, Math.abs(a.slope) * direction, a.slope !== 0) : moving(value, a.value < 0 ? -a.slope : a.slope),
  sign: stepped((a) => a === 0),
  min: least,
  max: greatest,
  floor: stepped(isWhole),
  ceil: stepped(isWhole),
  round: stepped((a) => isWhole(Math.abs(a) + 0.5)),
  mod: (value, a, b) => {
    const turns = (a.value - value) / b.value;
    return moving(value, a.slope - times(b.slope, Math.round(turns)), value === 0 && (a.slope !== 0 || b.slope !== 0));
  },
  exp: smooth((_, value) => value),
  ln: smooth((a) => 1 / a),
  log10: smooth((a) => 1 / (a * Math.LN10)),
  select: (value, condition, yes, no) => moving(value, condition.value === 1 ? yes.slope : no.slope),
  clamp: (value, a, low, high, direction) => {
    const raised = greatest(Math.max(a.value, low.value), a, low, low, direction);
    const held = least(value, raised, high, high, direction);
    return moving(value, held.slope, raised.isCorner || held.isCorner);
  },
};

const BY_CODE = new Map(Object.entries(RULES).map(([name, rule]) => [operationCode(name as keyof typeof RULES), { name: name as keyof typeof RULES, rule }]));

/** One operation by its code, lookups excepted. */
export function moveOperation(code: number, a: Moving, b: Moving, c: Moving, direction: 1 | -1): Moving {
  const found = BY_CODE.get(code);
  if (!found) throw new Error(`Bug: no operation ${code}`);
  return found.rule(applyOperation(found.name, [a.value, b.value, c.value]), a, b, c, direction);
}

/** A cell stays the same until another row is found. */
export function moveLookup(table: LookupTable, column: number, key: Moving): Moving {
  return moving(lookUp(table, column, key.value), 0, key.slope !== 0 && findRow(table, key.value) < 0);
}

export function moveInterpolation(table: LookupTable, column: number, key: Moving, direction: 1 | -1): Moving {
  const value = interpolate(table, column, key.value);
  const keys = table.columns[0]?.cells ?? [];
  const cells = table.columns[column]?.cells ?? [];
  const steep = (row: number): number => ((cells[row + 1] ?? NaN) - (cells[row] ?? NaN)) / ((keys[row + 1] ?? NaN) - (keys[row] ?? NaN));
  const at = keys.indexOf(key.value);
  if (at < 0) return moving(value, times(key.slope, steep(keys.findIndex((low, row) => key.value > low && key.value < (keys[row + 1] ?? NaN)))));
  const isUp = key.slope * direction > 0;
  const inside = (row: number): boolean => row >= 0 && row + 1 < keys.length;
  const [ahead, behind] = isUp ? [at, at - 1] : [at - 1, at];
  const row = inside(ahead) ? ahead : behind;
  return moving(value, times(key.slope, steep(row)), key.slope !== 0 && steep(at) !== steep(at - 1));
}
