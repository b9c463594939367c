/** Values that studies change, between bounds. */
import { findRecord, type DocumentValues } from '../document';
import { amountOf } from './amounts';
import type { Axis } from './minimise';

/** More whole numbers than these are taken for a stretch. */
const MOST_ALLOWED = 2_000;

/** The bounds of a value, typed as formulas, and what alone it may be between them; undefined where they are none. */
export function axisOf(values: DocumentValues, id: string, { from, to }: { readonly from: string; readonly to: string }): Axis | undefined {
  const [low, high] = [amountOf(values, id, from), amountOf(values, id, to)];
  return low === undefined || high === undefined ? undefined : axisBetween(values, id, low, high);
}

/** The same for bounds in internal units. */
export function axisBetween(values: DocumentValues, id: string, low: number, high: number): Axis | undefined {
  if (!(low < high)) return undefined;
  const parameter = findRecord(values.document, id, 'parameter');
  const choices = parameter?.choices?.flatMap((text) => amountOf(values, id, text) ?? []);
  const isWhole = parameter?.kind === 'count' && high - low <= MOST_ALLOWED;
  const all = choices ?? (isWhole ? Array.from({ length: Math.floor(high) - Math.ceil(low) + 1 }, (_, i) => Math.ceil(low) + i) : undefined);
  const allowed = all?.filter((amount) => amount >= low && amount <= high).sort((a, b) => a - b);
  if (allowed?.length === 0) return undefined;
  return { from: low, to: high, allowed };
}
