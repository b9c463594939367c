/**
 * The loop that runs instructions over columns. Each does for all lanes of a block what the machine of single values does for one: the two are
 * held together by a property test.
 */
import { INLINED, INTERPOLATE, interpolate, LOOKUP, lookUp, operationAt, type LookupTable } from '../formula';

/** Samples in a block: few enough for the columns of a thousand values to stay near. */
export const LANES = 256;

/** A column by its offset among the lanes; or below 0, -1 - the place of a number that is the same in all samples. */
export type Operand = number;

/** Integers for each instruction: operation, offset of the column of the result, three operands, one to spare. */
export const STEP = 6;

/** An operation of its own: the result is the operand. */
export const COPY = 1_000;

export interface Steps {
  readonly code: Int32Array;
  readonly scalars: Float64Array;
  readonly tables: readonly LookupTable[];
}

/** Runs the instructions from `from` to before `to`, offsets into the code, over the first `n` lanes. */
export function runSteps({ code, scalars, tables }: Steps, from: number, to: number, lanes: Float64Array, n: number): void {
  for (let at = from; at < to; at += STEP) {
    const operation = code[at] as number;
    const target = code[at + 1] as number;
    const a = code[at + 2] as number;
    const b = code[at + 3] as number;
    const c = code[at + 4] as number;
    if (operation <= DIVIDE && a >= 0 && b >= 0) (COLUMNS[operation] as Kernel)(lanes, target, a, b, n);
    else if (operation <= DIVIDE && a >= 0) (WITH_NUMBER[operation] as Kernel)(lanes, target, a, scalars[-1 - b] as number, n);
    else if (operation <= DIVIDE && b >= 0) (FROM_NUMBER[operation] as Kernel)(lanes, target, scalars[-1 - a] as number, b, n);
    else if (operation === SQRT && a >= 0) rootColumn(lanes, target, a, n);
    else if (operation === LOOKUP || operation === INTERPOLATE) {
      const table = tables[b];
      const find = operation === LOOKUP ? lookUp : interpolate;
      for (let i = 0; i < n; i++) lanes[target + i] = table ? find(table, c, operandIn(lanes, scalars, a, i)) : NaN;
    } else if (operation === COPY) for (let i = 0; i < n; i++) lanes[target + i] = operandIn(lanes, scalars, a, i);
    else runOther(operation, lanes, target, [a, b, c], scalars, n);
  }
}

/** The commonest operations, by their codes from 0 on: each a loop of its own, which engines make fast code of. */
type Kernel = (lanes: Float64Array, target: number, a: number, b: number, n: number) => void;

const { divide: DIVIDE, sqrt: SQRT } = INLINED;

/** Of two columns. */
const COLUMNS: readonly Kernel[] = [
  function add(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = (lanes[a + i] as number) + (lanes[b + i] as number);
  },
  function subtract(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = (lanes[a + i] as number) - (lanes[b + i] as number);
  },
  function multiply(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = (lanes[a + i] as number) * (lanes[b + i] as number);
  },
  function divide(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = quotient(lanes[a + i] as number, lanes[b + i] as number);
  },
];

/** Of a column and a number. */
const WITH_NUMBER: readonly Kernel[] = [
  function addNumber(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = (lanes[a + i] as number) + b;
  },
  function subtractNumber(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = (lanes[a + i] as number) - b;
  },
  function multiplyByNumber(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = (lanes[a + i] as number) * b;
  },
  function divideByNumber(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = quotient(lanes[a + i] as number, b);
  },
];

/** Of a number and a column. */
const FROM_NUMBER: readonly Kernel[] = [
  function addToNumber(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = a + (lanes[b + i] as number);
  },
  function subtractFromNumber(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = a - (lanes[b + i] as number);
  },
  function multiplyNumber(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = a * (lanes[b + i] as number);
  },
  function divideNumber(lanes, target, a, b, n) {
    for (let i = 0; i < n; i++) lanes[target + i] = quotient(a, lanes[b + i] as number);
  },
];

function rootColumn(lanes: Float64Array, target: number, a: number, n: number): void {
  for (let i = 0; i < n; i++) lanes[target + i] = Math.sqrt(lanes[a + i] as number);
}

/** As the machine of single values divides: not a number where the divisor is 0 or no number. */
function quotient(a: number, b: number): number {
  return b === 0 || b - b !== 0 ? NaN : a / b;
}

/** The operations that are rarer, or that compute long enough for a call not to matter. */
function runOther(operation: number, lanes: Float64Array, target: number, [a = 0, b = 0, c = 0]: readonly Operand[], scalars: Float64Array, n: number): void {
  const apply = operationAt(operation)?.apply;
  if (!apply) {
    lanes.fill(NaN, target, target + n);
    return;
  }
  for (let i = 0; i < n; i++) lanes[target + i] = apply(operandIn(lanes, scalars, a, i), operandIn(lanes, scalars, b, i), operandIn(lanes, scalars, c, i));
}

function operandIn(lanes: Float64Array, scalars: Float64Array, operand: Operand, lane: number): number {
  return (operand < 0 ? scalars[-1 - operand] : lanes[operand + lane]) as number;
}
