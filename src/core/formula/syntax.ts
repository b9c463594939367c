/**
 * Syntax tree of a formula. Every node carries its half-open range of UTF-16 offsets in the text as typed.
 */
import type { Rational, Unit } from '../units';

export interface Span {
  readonly from: number;
  readonly to: number;
}

/** A number with its unit, if it has one: `25`, `1 5/8 in`, `6' 4"`, `30° 15'`, `-40 °C`. */
export interface LiteralNode extends Span {
  readonly type: 'literal';
  readonly amount: Rational;
  readonly unit: Unit | undefined;
  readonly word?: UnitWord | undefined;
}

/** The one symbol that a unit consists of, where it does: `m` in `2 m` and `2 m^2`, which a value may be called as well. */
export interface UnitWord extends Span {
  readonly symbol: string;
}

export interface TextNode extends Span {
  readonly type: 'text';
  readonly value: string;
}

/** A value by its name; `member` is set for what is read of a component, `length` in `rail.length`, `bearing.bore` in `beam.bearing.bore`. */
export interface NameNode extends Span {
  readonly type: 'name';
  readonly name: string;
  readonly member: string | undefined;
}

export interface CallNode extends Span {
  readonly type: 'call';
  readonly callee: string;
  readonly calleeSpan: Span;
  readonly args: readonly FormulaNode[];
}

export interface UnaryNode extends Span {
  readonly type: 'unary';
  readonly operator: '-' | 'not';
  readonly operand: FormulaNode;
}

export type ArithmeticOperator = '+' | '-' | '*' | '/' | '^';
export type ComparisonOperator = '==' | '!=' | '<' | '<=' | '>' | '>=';
export type LogicalOperator = 'and' | 'or';
export type BinaryOperator = ArithmeticOperator | ComparisonOperator | LogicalOperator;

export interface BinaryNode extends Span {
  readonly type: 'binary';
  readonly operator: BinaryOperator;
  readonly left: FormulaNode;
  readonly right: FormulaNode;
  readonly operatorSpan: Span;
}

/** `(formula) unit`: a plain number made a quantity. The range of the unit term is `unitSpan`. */
export interface UnitedNode extends Span {
  readonly type: 'united';
  readonly inner: FormulaNode;
  readonly unit: Unit;
  readonly unitSpan: Span;
  readonly word?: UnitWord | undefined;
}

/** `(formula)`: kept, so that ranges cover the brackets and printing keeps them. */
export interface GroupNode extends Span {
  readonly type: 'group';
  readonly inner: FormulaNode;
}

export type FormulaNode = GroupNode | LiteralNode | TextNode | NameNode | CallNode | UnaryNode | BinaryNode | UnitedNode;

/** `rail.length`. */
export function fullName({ name, member }: Pick<NameNode, 'name' | 'member'>): string {
  return member === undefined ? name : `${name}.${member}`;
}

/** Symbols of units that could be meant as names, were there values called so. */
export function collectUnitWords(node: FormulaNode, found: string[] = []): string[] {
  switch (node.type) {
    case 'literal':
      if (node.word) found.push(node.word.symbol);
      break;
    case 'text':
    case 'name':
      break;
    case 'call':
      for (const arg of node.args) collectUnitWords(arg, found);
      break;
    case 'unary':
      collectUnitWords(node.operand, found);
      break;
    case 'binary':
      collectUnitWords(node.left, found);
      collectUnitWords(node.right, found);
      break;
    case 'united':
      if (node.word) found.push(node.word.symbol);
      collectUnitWords(node.inner, found);
      break;
    case 'group':
      collectUnitWords(node.inner, found);
      break;
  }
  return found;
}

/** Every name that a formula reads, in order of appearance, with the range of the name alone. */
export function collectNames(node: FormulaNode, found: NameNode[] = []): NameNode[] {
  switch (node.type) {
    case 'literal':
    case 'text':
      break;
    case 'name':
      found.push(node);
      break;
    case 'call':
      for (const arg of node.args) collectNames(arg, found);
      break;
    case 'unary':
      collectNames(node.operand, found);
      break;
    case 'binary':
      collectNames(node.left, found);
      collectNames(node.right, found);
      break;
    case 'group':
    case 'united':
      collectNames(node.inner, found);
      break;
  }
  return found;
}
