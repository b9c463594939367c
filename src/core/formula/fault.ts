/**
 * Why a formula that compiled gave no value: a walk over its typed tree with the present values. Also how a formula is computed that is no part
 * of a network, such as one that is being typed.
 */
import type { FormulaDiagnostic } from './compile';
import { applyOperation, findFault } from './operations';
import { findRow, interpolate, lookUp, type OperationNode, type TypedNode } from './typed-tree';

/** The value; else the operation that refused; or, where none did, the slot that was read and has no value. */
export type Fault = { readonly value: number } | { readonly diagnostic: FormulaDiagnostic } | { readonly waitsOn: number | undefined };

/** `read` gives the value at a slot, NaN where that value itself is refused. */
export function diagnoseFault(text: string, typed: TypedNode, read: (slot: number) => number): Fault {
  const walk = new Walk(text, read);
  const value = walk.evaluate(typed);
  if (value - value === 0) return { value };
  return walk.found ? { diagnostic: walk.found } : { waitsOn: walk.waitsOn };
}

class Walk {
  found: FormulaDiagnostic | undefined;
  waitsOn: number | undefined;

  constructor(
    private readonly text: string,
    private readonly read: (slot: number) => number,
  ) {}

  evaluate(node: TypedNode): number {
    switch (node.kind) {
      case 'constant':
        return node.value;
      case 'slot':
        return this.readSlot(node.slot);
      case 'lookup':
        return this.lookUp(node);
      case 'operation':
        return this.operate(node);
    }
  }

  private readSlot(slot: number): number {
    const value = this.read(slot);
    if (value - value !== 0) this.waitsOn ??= slot;
    return value;
  }

  private operate(node: OperationNode): number {
    if (node.operation === 'select') {
      const [condition, yes, no] = node.args;
      const holds = condition ? this.evaluate(condition) : NaN;
      const branch = holds === 1 ? yes : holds === 0 ? no : undefined;
      return branch ? this.evaluate(branch) : NaN;
    }
    const args = node.args.map((arg) => this.evaluate(arg));
    const value = applyOperation(node.operation, args);
    if (value - value === 0 || this.found || args.some((arg) => arg - arg !== 0)) return value;
    const fault = findFault(node.operation, args);
    const span = node.argSpans[fault.argument] ?? node.span;
    const isPlain = node.args[fault.argument]?.kind === 'constant';
    this.found = {
      code: fault.code,
      message: isPlain && fault.plain !== undefined ? fault.plain : fault.message.replace('{}', this.text.slice(span.from, span.to)),
      from: span.from,
      to: span.to,
    };
    return NaN;
  }

  private lookUp(node: Extract<TypedNode, { readonly kind: 'lookup' }>): number {
    const key = this.evaluate(node.key);
    if (key - key !== 0) return NaN;
    const value = node.operation === 'lookup' ? lookUp(node.table, node.column, key) : interpolate(node.table, node.column, key);
    if (value - value !== 0 && !this.found) {
      const isMissing = node.operation === 'lookup' && findRow(node.table, key) < 0;
      this.found = {
        code: 'unknown-key',
        message: isMissing ? `${node.table.name} has no row for this key.` : `The value lies outside the keys of ${node.table.name}.`,
        from: node.span.from,
        to: node.span.to,
      };
    }
    return value;
  }
}
