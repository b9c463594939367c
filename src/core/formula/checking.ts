/** What the check of a formula hands from rule to rule. */
import type { Diagnostic } from '../kit';
import type { Dimension, Rational } from '../units';
import type { FormulaCode } from './messages';
import type { Scope } from './scope';
import type { FormulaNode, Span } from './syntax';
import type { TypedNode } from './typed-tree';
import type { ValueType } from './value-type';

/** A checked node. `amount` is set for bare literals, so that an adopted unit multiplies exactly. */
export interface Checked {
  readonly typed: TypedNode;
  readonly type: ValueType;
  readonly isBare: boolean;
  readonly amount?: Rational;
  readonly span: Span;
}

/** A unit that a bare number took: `text` at `span` was read in `unit`. */
export interface Adoption {
  readonly span: Span;
  readonly unit: string;
  readonly dimension: Dimension;
}

/** Nodes brought to one type. */
export interface Unified {
  readonly nodes: readonly Checked[];
  readonly type: ValueType;
  readonly isBare: boolean;
}

/** The check as the rules of single functions see it. */
export interface Checking {
  readonly scope: Scope;
  check(node: FormulaNode): Checked | undefined;
  checkYesNo(node: FormulaNode): Checked | undefined;
  /** Two nodes of which one will be taken: what one of them waits for does not keep the other from being used. */
  checkBranches(yes: FormulaNode, no: FormulaNode): readonly [Checked | undefined, Checked | undefined];
  give(typed: TypedNode, type: ValueType, span: Span, isBare?: boolean): Checked;
  report(code: FormulaCode, message: string, span: Span, repairs?: Diagnostic['repairs'], hint?: string): undefined;
  textOf(span: Span): string;
  describe(checked: Checked): string;
  convert(checked: Checked, wanted: Dimension): Checked | undefined;
  unify(nodes: readonly Checked[], verb: string, span: Span): Unified | undefined;
}
