/** Amounts of values, as they are typed into boxes and stand beside charts. */
import { tryFormula, type DocumentValues } from '@/core/document';
import { prettyUnit, type Unit } from '@/core/units';

/** A formula as an amount in internal units; a plain number is in the unit. Undefined for a formula with an error. */
export function amountIn(values: DocumentValues, unit: Unit | undefined, text: string): number | undefined {
  if (text.trim() === '') return undefined;
  const tried = tryFormula(values, text);
  if (tried.diagnostics.length > 0) return undefined;
  return tried.isPlainNumber ? tried.value * (unit?.size ?? 1) : tried.value;
}

/** The same, of the kind that a value is of, and in its unit. */
export function amountOf(values: DocumentValues, like: string, text: string): number | undefined {
  const shown = values.show(like);
  return shown?.type?.kind === 'quantity' ? amountIn(values, shown.unit, text) : undefined;
}

/** `mass in kg`. */
export function axisLabel(name: string, unit: Unit | undefined): string {
  return unit && unit.symbol !== '' ? `${name} in ${prettyUnit(unit.symbol)}` : name;
}

/** From half of an amount to one and a half, as it would be shown; about nothing, ten of its unit to both sides. */
export function spreadAround(values: DocumentValues, id: string): readonly [from: string, to: string] | undefined {
  const shown = values.show(id);
  if (shown?.type?.kind !== 'quantity' || Number.isNaN(shown.value)) return undefined;
  const spread = shown.value === 0 ? (shown.unit?.size ?? 1) * 10 : Math.abs(shown.value) / 2;
  const write = (amount: number): string => values.words({ ...shown, value: amount }, shown.unit).shown;
  return [write(shown.value - spread), write(shown.value + spread)];
}
