/**
 * A typed tree as one function over the value array: for a formula that is run very often by itself, in
 * sweeps and sampling. A whole network is run by the machine instead, which is smaller and keeps its speed
 * over thousands of different formulas.
 */
import { operationAt, operationCode } from './operations';
import { interpolate, lookUp, type OperationNode, type TypedNode } from './typed-tree';

export type FormulaRun = (values: Float64Array) => number;

export function compileClosure(node: TypedNode): FormulaRun {
  switch (node.kind) {
    case 'constant': {
      const { value } = node;
      return () => value;
    }
    case 'slot': {
      const { slot } = node;
      return (v) => v[slot] as number;
    }
    case 'lookup': {
      const { table, column } = node;
      const key = compileClosure(node.key);
      return node.operation === 'lookup' ? (v) => lookUp(table, column, key(v)) : (v) => interpolate(table, column, key(v));
    }
    case 'operation':
      return compileOperation(node);
  }
}

function compileOperation(node: OperationNode): FormulaRun {
  const direct = compileLinear(node);
  if (direct) return direct;
  const [f, g, h] = node.args.map(compileClosure);
  if (!f) throw new Error(`Bug: ${node.operation} has no arguments`);
  if (g && !h) {
    if (node.operation === 'add') return (v) => f(v) + g(v);
    if (node.operation === 'subtract') return (v) => f(v) - g(v);
    if (node.operation === 'multiply') return (v) => f(v) * g(v);
  }
  const operation = operationAt(operationCode(node.operation));
  if (!operation) throw new Error(`Bug: no operation ${node.operation}`);
  const { apply } = operation;
  if (!g) return (v) => apply(f(v), 0, 0);
  return h ? (v) => apply(f(v), g(v), h(v)) : (v) => apply(f(v), g(v), 0);
}

interface Term {
  readonly place: number;
  readonly factor: number;
}

/** A value, or a value times a number. */
function readTerm(node: TypedNode | undefined): Term | undefined {
  if (node?.kind === 'slot') return { place: node.slot, factor: 1 };
  if (node?.kind !== 'operation' || node.operation !== 'multiply') return undefined;
  const [a, b] = node.args;
  if (a?.kind === 'slot' && b?.kind === 'constant') return { place: a.slot, factor: b.value };
  return b?.kind === 'slot' && a?.kind === 'constant' ? { place: b.slot, factor: a.value } : undefined;
}

/** One term, or the sum or difference of two, the commonest formulas by far, without a call for their parts. */
function compileLinear(node: OperationNode): FormulaRun | undefined {
  const own = readTerm(node);
  if (own) {
    const { place, factor } = own;
    return (v) => (v[place] as number) * factor;
  }
  const [left, right] = node.args.map(readTerm);
  if (!left || !right || (node.operation !== 'add' && node.operation !== 'subtract')) return undefined;
  const { place: p, factor: f } = left;
  const { place: q, factor: g } = right;
  // A product with 1 changes no bit, and x - g y is x + (-g) y to the bit.
  const h = node.operation === 'add' ? g : -g;
  return (v) => (v[p] as number) * f + (v[q] as number) * h;
}
