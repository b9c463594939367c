/**
 * Register code for formulas, and the loop that runs it.
 *
 * Layout: one Float64Array holds everything an instruction can name. Places 0 to {@link TEMPORARIES}-1 are
 * scratch, reused by every formula; above them lie constants and values, in no fixed order. An instruction
 * is four integers: operation, target place, and two argument places (for lookups the second is the
 * table's number). A wide one is followed by four more, of which the first is the third argument (for lookups
 * the column). Chosen over a closure for each node by the bench: a third
 * of the time on 10,000 formulas, and an eighth of the memory.
 */
import { operationAt, operationCode, type OperationName } from './operations';
import type { LookupTable } from './scope';
import { interpolate, lookUp, type TypedNode } from './typed-tree';

/** Scratch places: the deepest expression that fits. */
export const TEMPORARIES = 256;
export const WIDTH = 4;

// The cases of the loop are literals, in the order of the table of operations: engines make a jump table of
// those, and a chain of comparisons of anything else. A test holds the two together.
export const LOOKUP = operationCode('lookup');
export const INTERPOLATE = operationCode('interpolate');

/** What the loop computes itself, by the literal of its case. */
export const INLINED = {
  add: 0,
  subtract: 1,
  multiply: 2,
  divide: 3,
  negate: 4,
  less: 6,
  lessOrEqual: 7,
  sqrt: 20,
  select: 34,
} as const satisfies Partial<Record<OperationName, number>>;

/** Where emitted instructions, constants and tables go. */
export interface CodeSink {
  /** Appends four integers. */
  emit: (operation: number, target: number, a: number, b: number) => void;
  placeConstant: (value: number) => number;
  placeTable: (table: LookupTable) => number;
}

/** Operations from here on in the table take a third argument. */
export function isWide(operation: number): boolean {
  return operation >= INLINED.select;
}

function emitInstruction(sink: CodeSink, operation: number, target: number, [a = 0, b = 0, c = 0]: readonly number[]): void {
  sink.emit(operation, target, a, b);
  if (isWide(operation)) sink.emit(c, 0, 0, 0);
}

/** Emits code that leaves the value of `node` at `target`. Returns false if it is nested too deeply. */
export function emitCode(node: TypedNode, target: number, sink: CodeSink): boolean {
  return emitInto(node, target, 0, sink);
}

function emitInto(node: TypedNode, target: number, depth: number, sink: CodeSink): boolean {
  if (depth >= TEMPORARIES - 3) return false;
  switch (node.kind) {
    case 'constant':
    case 'slot': {
      // A copy, as a product with 1: it happens only where a formula is a single name.
      emitInstruction(sink, INLINED.multiply, target, [placeOf(node, sink), sink.placeConstant(1)]);
      return true;
    }
    case 'lookup': {
      const key = emitArgument(node.key, depth, sink);
      if (key < 0) return false;
      emitInstruction(sink, node.operation === 'lookup' ? LOOKUP : INTERPOLATE, target, [key, sink.placeTable(node.table), node.column]);
      return true;
    }
    case 'operation': {
      const places: number[] = [];
      let used = depth;
      for (const arg of node.args) {
        const place = emitArgument(arg, used, sink);
        if (place < 0) return false;
        if (place === used) used++;
        places.push(place);
      }
      emitInstruction(sink, operationCode(node.operation), target, places);
      return true;
    }
  }
}

/** The place of an argument: where it lies already, or the scratch place `depth` after emitting it. */
function emitArgument(node: TypedNode, depth: number, sink: CodeSink): number {
  if (node.kind === 'constant' || node.kind === 'slot') return placeOf(node, sink);
  return emitInto(node, depth, depth, sink) ? depth : -1;
}

function placeOf(node: Extract<TypedNode, { readonly kind: 'constant' | 'slot' }>, sink: CodeSink): number {
  return node.kind === 'slot' ? node.slot : sink.placeConstant(node.value);
}

/** Runs the instructions from `from` to before `to` (offsets into `code`). */
export function runCode(code: Int32Array, from: number, to: number, values: Float64Array, tables: readonly LookupTable[]): void {
  for (let at = from; at < to; at += WIDTH) {
    const target = code[at + 1] as number;
    const a = values[code[at + 2] as number] as number;
    const b = values[code[at + 3] as number] as number;
    switch (code[at]) {
      case 0:
        values[target] = a + b;
        break;
      case 1:
        values[target] = a - b;
        break;
      case 2:
        values[target] = a * b;
        break;
      case 3:
        values[target] = b === 0 || b - b !== 0 ? NaN : a / b;
        break;
      case 4:
        values[target] = -a;
        break;
      case 6:
      case 7: {
        const difference = a - b;
        values[target] = difference - difference !== 0 ? NaN : difference < 0 || (difference === 0 && code[at] === 7) ? 1 : 0;
        break;
      }
      case 20:
        values[target] = Math.sqrt(a);
        break;
      case 34:
        values[target] = a === 1 ? b : a === 0 ? (values[code[at + WIDTH] as number] as number) : NaN;
        at += WIDTH;
        break;
      default:
        values[target] = runOther(code, at, values, tables);
        if (isWide(code[at] as number)) at += WIDTH;
    }
  }
}

/** The operations that are rarer, or that compute long enough for a call not to matter. */
function runOther(code: Int32Array, at: number, values: Float64Array, tables: readonly LookupTable[]): number {
  const operation = code[at] as number;
  const a = values[code[at + 2] as number] as number;
  if (operation === LOOKUP || operation === INTERPOLATE) {
    const table = tables[code[at + 3] as number];
    const column = code[at + WIDTH] as number;
    return !table ? NaN : operation === LOOKUP ? lookUp(table, column, a) : interpolate(table, column, a);
  }
  return (
    operationAt(operation)?.apply(a, values[code[at + 3] as number] as number, isWide(operation) ? (values[code[at + WIDTH] as number] as number) : 0) ?? NaN
  );
}
