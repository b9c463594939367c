/**
 * The words of every diagnostic of the formula language. Detection is elsewhere; here is only how a
 * finding is said, so that wording can be tested and changed in one place.
 */
import { LENGTH, findKind, prettyUnit, systemUnit, MILLIMETRES, type Dimension } from '../units';

export type FormulaCode =
  | 'empty'
  | 'unexpected-character'
  | 'unexpected-token'
  | 'missing-operand'
  | 'missing-bracket'
  | 'missing-operator'
  | 'unclosed-text'
  | 'decimal-comma'
  | 'hyphenated-fraction'
  | 'improper-mixed-number'
  | 'zero-denominator'
  | 'exponent-too-large'
  | 'power-too-high'
  | 'ambiguous-power'
  | 'limits-crossed'
  | 'ambiguous-unit'
  | 'ambiguous-fraction'
  | 'unknown-unit'
  | 'comparison-chain'
  | 'single-equals'
  | 'too-long'
  | 'unknown-name'
  | 'unknown-function'
  | 'unknown-member'
  | 'table-as-value'
  | 'argument-count'
  | 'wrong-argument'
  | 'mixed-dimensions'
  | 'wrong-kind'
  | 'plain-is-no-angle'
  | 'no-root'
  | 'power-of-dimensioned'
  | 'power-not-constant'
  | 'unit-on-quantity'
  | 'needs-yes-no'
  | 'temperature-arithmetic'
  | 'unknown-column'
  | 'unknown-key'
  | 'division-by-zero'
  | 'negative-root'
  | 'out-of-domain'
  | 'overflow'
  | 'not-whole'
  | 'below-limit'
  | 'above-limit'
  | 'not-a-choice'
  | 'cycle'
  | 'waiting';

/** What a result is, for sentences: `a length (mm)`, `a plain number`, `yes or no`. */
export function describeDimension(dimension: Dimension): string {
  if (dimension.key === '') return 'a plain number';
  const unit = prettyUnit(systemUnit(MILLIMETRES, dimension).symbol);
  const kind = findKind(dimension);
  if (!kind) return `a value in ${unit}`;
  return `${/^[aeiou]/.test(kind) ? 'an' : 'a'} ${kind} (${unit})`;
}

/** The same without the unit: `a length`. */
export function nameDimension(dimension: Dimension): string {
  return dimension === LENGTH ? 'a length' : describeDimension(dimension).replace(/ \([^)]*\)$/, '');
}

export function listOr(items: readonly string[]): string {
  if (items.length <= 1) return items.join('');
  return `${items.slice(0, -1).join(', ')} or ${items[items.length - 1] ?? ''}`;
}
