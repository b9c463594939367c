import { Sheet, type FormulaDefinition, type Reading } from '@/core/network';
import { ANY_SLOT, type Slot } from '@/core/formula';
import { MILLIMETRES, formatExact, parseUnit, type UnitSystem } from '@/core/units';

/** A sheet of formulas by name, settled. Ids are the names. */
export function sheetOf(formulas: Readonly<Record<string, string | Partial<FormulaDefinition>>>, units: UnitSystem = MILLIMETRES): Sheet {
  const sheet = new Sheet(units);
  for (const [name, given] of Object.entries(formulas)) {
    const rest = typeof given === 'string' ? { text: given } : given;
    sheet.define(name, { kind: 'formula', name, text: '0', slot: ANY_SLOT, ...rest });
  }
  sheet.settle();
  return sheet;
}

/** The reading of one formula, in a document that has the values of `others`. */
export function evaluate(text: string, others: Readonly<Record<string, string>> = {}, slot: Slot = ANY_SLOT): Reading {
  const reading = sheetOf({ ...others, result_: { text, slot } }).read('result_');
  if (!reading) throw new Error('not read');
  return reading;
}

/** The value of a formula as the shortest exact decimal in a unit; its first message if it is refused. */
export function valueIn(unit: string, text: string, others: Readonly<Record<string, string>> = {}): string {
  const reading = evaluate(text, others);
  const [problem] = reading.diagnostics;
  if (problem) return problem.message;
  const parsed = parseUnit(unit);
  return formatExact(
    reading.value,
    parsed ?? { symbol: '', dimension: { exponents: [0, 0, 0, 0, 0, 0, 0, 0], key: '' }, factor: { num: 1n, den: 1n }, size: 1 },
  );
}
