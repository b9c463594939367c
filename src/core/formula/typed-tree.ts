/**
 * The typed form of a formula, between the dimension check and the code: constants are folded, names are
 * value slots, units are gone. Nodes keep the range of the text they come from, for faults at run time.
 */
import { applyOperation, type OperationName } from './operations';
import type { LookupTable } from './scope';
import type { Span } from './syntax';

export type TypedNode =
  | { readonly kind: 'constant'; readonly value: number }
  | { readonly kind: 'slot'; readonly slot: number; readonly name: string }
  | OperationNode
  | {
      readonly kind: 'lookup';
      readonly operation: 'lookup' | 'interpolate';
      readonly table: LookupTable;
      readonly column: number;
      readonly key: TypedNode;
      readonly span: Span;
    };

export interface OperationNode {
  readonly kind: 'operation';
  readonly operation: OperationName;
  readonly args: readonly TypedNode[];
  readonly span: Span;
  /** Ranges of the arguments as typed, where one is to be named in a fault. */
  readonly argSpans: readonly Span[];
}

export function constant(value: number): TypedNode {
  return { kind: 'constant', value };
}

/** An operation, folded to a constant when its arguments are constants and it does not refuse. */
export function operation(name: OperationName, args: readonly TypedNode[], span: Span, argSpans: readonly Span[]): TypedNode {
  const values: number[] = [];
  for (const arg of args) {
    if (arg.kind !== 'constant') return { kind: 'operation', operation: name, args, span, argSpans };
    values.push(arg.value);
  }
  const value = applyOperation(name, values);
  return value - value === 0 ? constant(value) : { kind: 'operation', operation: name, args, span, argSpans };
}

/** The row of `key` in the table's first column, or -1. Keys equal within a relative 1e-12 are the same. */
export function findRow(table: LookupTable, key: number): number {
  const keys = table.columns[0]?.cells ?? [];
  return keys.findIndex((cell) => cell === key || Math.abs(cell - key) <= 1e-12 * Math.abs(key));
}

/** The cell of `column` in the row of `key`; NaN where there is no such row. */
export function lookUp(table: LookupTable, column: number, key: number): number {
  return table.columns[column]?.cells[findRow(table, key)] ?? NaN;
}

/**
 * Piecewise linear interpolation of `column` over the first column, whose keys must ascend; NaN outside
 * the first and the last key.
 */
export function interpolate(table: LookupTable, column: number, key: number): number {
  const keys = table.columns[0]?.cells ?? [];
  const cells = table.columns[column]?.cells ?? [];
  for (let row = 0; row + 1 < keys.length; row++) {
    const [low, high] = [keys[row] ?? NaN, keys[row + 1] ?? NaN];
    if (key >= low && key <= high) {
      const [below, above] = [cells[row] ?? NaN, cells[row + 1] ?? NaN];
      if (key === low) return below;
      return key === high ? above : below + ((above - below) * (key - low)) / (high - low);
    }
  }
  return keys.length === 1 && keys[0] === key ? (cells[0] ?? NaN) : NaN;
}
