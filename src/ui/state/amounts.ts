/** Amounts of values, as they stand in boxes and beside charts. */
import type { DocumentValues } from '@/core/document';
import { prettyUnit, type Unit } from '@/core/units';

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
