/** Bare numbers beside a value that is shown in a unit of its own: its tolerance, its limits, its choices. */
import { systemUnit, PLAIN, type Unit } from '../units';
import { tryFormula } from './try-formula';
import type { DocumentValues } from './values';

/** Beside which value a formula stands: one of the document, or one that is shown in a unit. */
export type Beside = { readonly id: string } | { readonly unit: Unit | undefined };

/**
 * The formula with the unit that the value is shown in after every bare number, where the document would read these in another one:
 * `0.005` beside a value of `4 in` is `0.005 in`. What cannot be read so is given back as it is.
 */
export function inShownUnit(values: DocumentValues, text: string, beside: Beside): string {
  const unit = unitBeside(values, beside);
  return unit ? withUnits(values, text, unit, unit) : text;
}

/** A formula that stands there already, with the unit that its bare numbers are read in, where the value is shown in another one. */
export function withReadUnit(values: DocumentValues, text: string, beside: Beside): string {
  const unit = unitBeside(values, beside);
  return unit ? withUnits(values, text, unit) : text;
}

/** Undefined where bare numbers mean the same with it and without it. */
function unitBeside(values: DocumentValues, beside: Beside): Unit | undefined {
  const unit = 'unit' in beside ? beside.unit : values.show(beside.id)?.unit;
  return unit && unit.dimension !== PLAIN && !unit.offset && unit.symbol !== systemUnit(values.document.units, unit.dimension).symbol ? unit : undefined;
}

function withUnits(values: DocumentValues, text: string, { dimension }: Unit, bareUnit?: Unit): string {
  return tryFormula(values, text, { kind: 'quantity', dimension, isCount: false, label: 'this', ...(bareUnit ? { bareUnit } : {}) }).reading ?? text;
}
