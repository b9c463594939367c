/**
 * Formula text to something that can be run: parse, check dimensions against a scope, fit the result to
 * the slot that it fills. Errors are collected as diagnostics; nothing here throws for any text.
 */
import type { Diagnostic } from '../kit';
import { prettyUnit, systemUnit, type Unit } from '../units';
import { Checker } from './check';
import type { Adoption, Checked } from './checking';
import { describeDimension, type FormulaCode } from './messages';
import { parseFormula } from './parse';
import type { Scope, Slot } from './scope';
import { collectNames, collectUnitWords, type FormulaNode, type NameNode } from './syntax';
import type { TypedNode } from './typed-tree';
import { PLAIN_NUMBER, TEXT, YES_NO, type ValueType } from './value-type';

export type FormulaDiagnostic = Diagnostic<FormulaCode>;

export interface Compiled {
  readonly typed: TypedNode;
  readonly type: ValueType;
  readonly adopted: readonly Adoption[];
  /** The first unit typed that has the dimension of the result: what the value is best shown in. */
  readonly typedUnit: Unit | undefined;
  /** Whether the formula is one number, with or without unit or sign. */
  readonly isLiteral: boolean;
}

export type CompileResult = { readonly ok: true; readonly compiled: Compiled } | { readonly ok: false; readonly diagnostics: readonly FormulaDiagnostic[] };

/** The parsed formula and the names it reads: all that the dependency graph needs of it. */
export type ParsedFormula =
  | {
      readonly ok: true;
      readonly node: FormulaNode;
      readonly names: readonly NameNode[];
      /** Symbols of units that would be read otherwise, were a value of their kind called so. */
      readonly unitWords: readonly string[];
    }
  | { readonly ok: false; readonly diagnostics: readonly FormulaDiagnostic[] };

export function readFormula(text: string, isName: (name: string) => boolean): ParsedFormula {
  const parsed = parseFormula(text, { isName });
  if (!parsed.ok) return { ok: false, diagnostics: [parsed.diagnostic] };
  const { node } = parsed;
  return { ok: true, node, names: collectNames(node), unitWords: collectUnitWords(node) };
}

/** Checks a parsed formula in a scope and fits its result to a slot. */
export function compileFormula(text: string, node: FormulaNode, scope: Scope, slot: Slot): CompileResult {
  const checker = new Checker(text, scope, slot.kind === 'quantity' ? slot.bareUnit : undefined);
  const checked = checker.check(node);
  const fitted = checked && fit(checker, checked, slot);
  if (!fitted || checker.diagnostics.length > 0) return { ok: false, diagnostics: checker.diagnostics };
  return {
    ok: true,
    compiled: {
      typed: fitted.typed,
      type: fitted.type,
      adopted: checker.adopted,
      typedUnit: findTypedUnit(node, fitted.type),
      isLiteral: isLiteral(node),
    },
  };
}

function fit(checker: Checker, checked: Checked, slot: Slot): Checked | undefined {
  switch (slot.kind) {
    case 'any':
      return checked;
    case 'yes-no':
      if (checked.type === YES_NO) return checked;
      return checker.report('wrong-kind', `This is ${checker.describe(checked)}; ${slot.label} needs yes or no.`, checked.span);
    case 'text':
      if (checked.type === TEXT) return checked;
      return checker.report('wrong-kind', `This is ${checker.describe(checked)}; ${slot.label} needs a text in quotation marks.`, checked.span);
    case 'quantity': {
      const fitted = checker.convert(checked, slot.dimension);
      if (fitted) return fitted;
      return reportMisfit(checker, checked, slot);
    }
  }
}

function reportMisfit(checker: Checker, checked: Checked, slot: Extract<Slot, { readonly kind: 'quantity' }>): undefined {
  const wanted = slot.isCount ? 'a whole number without unit' : describeDimension(slot.dimension).replace(/ \(.*\)$/, '');
  const { text } = checker;
  const whole = { from: 0, to: text.length };
  const unit = systemUnit(checker.scope.units, slot.dimension).symbol;
  const repairs =
    checked.type === PLAIN_NUMBER && unit !== '' ? [{ label: `Add the unit ${prettyUnit(unit)}`, ...whole, text: `(${text.trim()}) ${unit}` }] : [];
  return checker.report('wrong-kind', `This is ${checker.describe(checked)}; ${slot.label} needs ${wanted}.`, checked.span, repairs);
}

function findTypedUnit(node: FormulaNode, type: ValueType): Unit | undefined {
  switch (node.type) {
    case 'literal':
      return node.unit && unitFits(node.unit, type) ? node.unit : undefined;
    case 'united':
      return unitFits(node.unit, type) ? node.unit : findTypedUnit(node.inner, type);
    case 'unary':
      return findTypedUnit(node.operand, type);
    case 'group':
      return findTypedUnit(node.inner, type);
    case 'binary':
      return findTypedUnit(node.left, type) ?? findTypedUnit(node.right, type);
    case 'call':
      return node.args.map((arg) => findTypedUnit(arg, type)).find((unit) => unit !== undefined);
    default:
      return undefined;
  }
}

function unitFits(unit: Unit, type: ValueType): boolean {
  if (type.kind === 'temperature') return unit.offset !== undefined;
  return type.kind === 'quantity' && type.dimension === unit.dimension && unit.offset === undefined;
}

function isLiteral(node: FormulaNode): boolean {
  if (node.type === 'unary' && node.operator === '-') return node.operand.type === 'literal';
  return node.type === 'literal' || node.type === 'text';
}

/** A formula of no names, computed at once: for choices, table cells and limits typed as literals. */
export function evaluateConstant(
  text: string,
  scope: Scope,
  slot: Slot,
): { readonly ok: true; readonly value: number; readonly compiled: Compiled } | { readonly ok: false; readonly diagnostics: readonly FormulaDiagnostic[] } {
  const parsed = readFormula(text, () => false);
  if (!parsed.ok) return parsed;
  const result = compileFormula(text, parsed.node, scope, slot);
  if (!result.ok) return result;
  const { typed } = result.compiled;
  if (typed.kind === 'constant') return { ok: true, value: typed.value, compiled: result.compiled };
  return {
    ok: false,
    diagnostics: [{ code: 'wrong-argument', message: 'A fixed value is wanted here.', from: 0, to: text.length }],
  };
}
