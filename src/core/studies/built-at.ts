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

/** The same for all values with a tolerance; or each at its own by its path, and at its nominal without one. */
export type BuiltAtEach = BuiltAt | ReadonlyMap<string, BuiltAt>;

export interface AtLimits {
  readonly document: Document;
  /** Values that are elsewhere than at their nominal. */
  readonly count: number;
  /** Values inside components that stay as they are, by name: they have fixed choices, or limits of their own. */
  readonly left: readonly string[];
}

/** A value with a tolerance, of the document or of what stands in it; amounts in internal units. */
export interface TolerancedValue {
  /** Ids of the components on the way and its own, by spaces. */
  readonly path: string;
  /** Names of the components on the way and its own, by dots. */
  readonly name: string;
  readonly nominal: Extract<TakenValue, { readonly kind: 'quantity' }>;
  readonly lower: number;
  readonly upper: number;
  /** Its limits are those of the general tolerance: it has none of its own. */
  readonly isGeneral?: boolean;
  /** Whether it may be this: what is inside a component keeps to its choices and limits. */
  readonly mayBe: (amount: number) => boolean;
}

/** What the geometry measures is as of `measured`; a value that is read off it is a result, and is not set. */
export function builtAt(document: Document, source: InstanceSource, at: BuiltAtEach, measured: Readonly<Record<string, MeasuredValue>> = {}): AtLimits {
  const goals = new Map<string, TakenValue>();
  const left: string[] = [];
  let count = 0;
  for (const one of listToleranced(document, source, measured)) {
    const amount = amountAt(one, typeof at === 'string' ? at : at.get(one.path));
    const isMoved = amount !== one.nominal.value;
    if (!one.mayBe(amount)) left.push(...(isMoved ? [one.name] : []));
    else {
      if (isMoved) count++;
      goals.set(one.path, { ...one.nominal, value: amount });
    }
  }
  return { document: count === 0 ? document : withAmounts(document, goals), count, left };
}

/** Values at amounts, by their paths, whatever their limits say. */
export function withAmounts(document: Document, amounts: ReadonlyMap<string, TakenValue>): Document {
  return withValues(withoutBounds(document, amounts), amounts);
}

export function amountAt({ nominal, lower, upper }: Pick<TolerancedValue, 'nominal' | 'lower' | 'upper'>, at: BuiltAt | undefined): number {
  switch (at) {
    case 'upper':
      return upper;
    case 'middle':
      return (upper + lower) / 2;
    case 'lower':
      return lower;
    case undefined:
      return nominal.value;
  }
}

export function listToleranced(document: Document, source: InstanceSource, measured: Readonly<Record<string, MeasuredValue>> = {}): TolerancedValue[] {
  const values = openValues(document, source);
  values.setMeasured(measured);
  return collect(values, { path: '', names: '' });
}

/** The values of the document, and of what stands in it. */
function collect(values: DocumentValues, under: { readonly path: string; readonly names: string }): TolerancedValue[] {
  const { document } = values;
  const own = Object.values(document.records).flatMap((record): TolerancedValue[] => {
    if (!isNamed(record) || record.type === 'table' || values.isMeasured(record.id)) return [];
    const [limits, shown] = [limitsOf(values, record.id), values.show(record.id)];
    if (!limits || 'problem' in limits || !shown) return [];
    const nominal = values.complete(shown, shown.unit);
    if (nominal?.kind !== 'quantity') return [];
    const { lower, upper, isGeneral } = limits;
    const mayBe = (amount: number): boolean => under.path === '' || mayBeSet(values, record, amount);
    return [{ path: `${under.path}${record.id}`, name: `${under.names}${record.name}`, nominal, lower, upper, mayBe, ...(isGeneral ? { isGeneral } : {}) }];
  });
  const inside = listRecords(document, 'components', 'component').flatMap((component) => {
    // What has no place is a calculation, or sets values for others.
    const its = component.at && values.components?.valuesOf(component.id);
    return its ? collect(its, { path: `${under.path}${component.id} `, names: `${under.names}${component.name}.` }) : [];
  });
  return [...own, ...inside];
}

/** Whether a value of a component can be set to an amount from outside. */
function mayBeSet({ sheet }: DocumentValues, record: NamedRecord, amount: number): boolean {
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
