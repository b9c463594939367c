/**
 * A document built at its limits: every value with a tolerance at the greatest, the least or the middle of what it may be. Each keeps the nominal that
 * it has from others, so that a value with a tolerance stands for itself; what has none follows the formulas.
 */
import {
  findRecord,
  isNamed,
  limitsOf,
  listRecords,
  type Document,
  type DocumentValues,
  type MeasuredValue,
  type NamedRecord,
  type TakenValue,
} from '../document';
import { openValues, withValues, type InstanceSource } from '../instances';

export const BUILT_AT = ['upper', 'middle', 'lower'] as const;
export type BuiltAt = (typeof BUILT_AT)[number];

export interface AtLimits {
  readonly document: Document;
  /** Values that are elsewhere than at their nominal. */
  readonly count: number;
  /** Values inside components that stay as they are, by name: they have fixed choices, or limits of their own. */
  readonly left: readonly string[];
}

interface Found {
  /** By path. */
  readonly goals: Map<string, TakenValue>;
  readonly left: string[];
  count: number;
}

/** What the geometry measures is as of `measured`; a value that is read off it is a result, and is not set. */
export function builtAt(document: Document, source: InstanceSource, at: BuiltAt, measured: Readonly<Record<string, MeasuredValue>> = {}): AtLimits {
  const values = openValues(document, source);
  values.setMeasured(measured);
  const found: Found = { goals: new Map(), left: [], count: 0 };
  collect(values, at, { path: '', names: '' }, found);
  const { goals, count, left } = found;
  return { document: count === 0 ? document : withValues(withoutBounds(document, goals), goals), count, left };
}

/** The values of the document, and of what stands in it, by their paths. */
function collect(values: DocumentValues, at: BuiltAt, under: { readonly path: string; readonly names: string }, found: Found): void {
  const { document } = values;
  for (const record of Object.values(document.records)) {
    if (!isNamed(record) || record.type === 'table' || values.isMeasured(record.id)) continue;
    const [limits, shown] = [limitsOf(values, record.id), values.show(record.id)];
    if (!limits || 'problem' in limits || !shown) continue;
    const value = values.complete(shown, shown.unit);
    if (value?.kind !== 'quantity') continue;
    const amount = at === 'middle' ? (limits.upper + limits.lower) / 2 : limits[at];
    if (under.path !== '' && !mayBe(values, record, amount)) found.left.push(`${under.names}${record.name}`);
    else {
      if (amount !== value.value) found.count++;
      found.goals.set(`${under.path}${record.id}`, { ...value, value: amount });
    }
  }
  for (const component of listRecords(document, 'components', 'component')) {
    // What has no place is a calculation, or sets values for others.
    const inside = component.at && values.components?.valuesOf(component.id);
    if (inside) collect(inside, at, { path: `${under.path}${component.id} `, names: `${under.names}${component.name}.` }, found);
  }
}

/** Whether a value of a component can be set to an amount from outside. */
function mayBe({ sheet }: DocumentValues, record: NamedRecord, amount: number): boolean {
  if (record.type === 'parameter' && (record.choices?.length ?? 0) > 0) return false;
  return !(amount < sheet.readNumber(`${record.id}/least`)) && !(amount > sheet.readNumber(`${record.id}/most`));
}

/** Limits, choices and tolerances are of nominal sizes: a piece may be off them. */
function withoutBounds(document: Document, goals: ReadonlyMap<string, TakenValue>): Document {
  const records = { ...document.records };
  for (const path of goals.keys()) {
    const parameter = findRecord(document, path, 'parameter');
    if (!parameter) continue;
    const { least: _, most: __, choices: ___, tolerance: ____, ...free } = parameter;
    records[path] = free;
  }
  const { general: _, ...rest } = document;
  return { ...rest, records };
}
