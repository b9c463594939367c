/** What studies of a document read at each of its states: driving values, those of steps, and the mass; and how it is written. */
import { findRecord, hasShape, listDriving, listOwned, type DocumentValues, type EditOf } from '@/core/document';
import { quantityType } from '@/core/formula';
import { kindDimension, prettyUnit, type Unit } from '@/core/units';
import { MASS } from '@/workers/study-build';
import { spreadAround } from '../state/amounts';
import type { DocumentSession } from '../state/document-session';

/** Something that can be read at each amount. */
export interface Output {
  readonly id: string;
  readonly name: string;
  readonly unit: Unit | undefined;
}

/** Amounts whose value is a number: driving values, those of steps, and the mass. */
export function listOutputs({ document, values }: DocumentSession): Output[] {
  const named = [...listDriving(document), ...listOwned(document)].flatMap((record): Output[] => {
    const shown = values.show(record.id);
    return shown?.type?.kind === 'quantity' ? [{ id: record.id, name: record.name, unit: shown.unit }] : [];
  });
  const mass = quantityType(kindDimension('mass'));
  return [...(hasShape(document) ? [{ id: MASS, name: 'mass', unit: values.unitOf(undefined, { type: mass, typedUnit: undefined }) }] : []), ...named];
}

/** What reads the value, where something does. */
export function firstOutput({ values }: DocumentSession, value: string, outputs: readonly Output[]): string {
  const readers = new Set(values.sheet.listReaders(value));
  return (outputs.find(({ id }) => readers.has(id)) ?? outputs.find(({ id }) => id !== value))?.id ?? MASS;
}

/** Its limits where it has any; else about what it is now. */
export function firstRange({ values }: DocumentSession, value: string): { readonly from: string; readonly to: string } {
  const shown = values.show(value);
  const [from = '', to = ''] = spreadAround(values, value) ?? [];
  const limit = (what: 'least' | 'most', otherwise: string): string => {
    const amount = values.sheet.readNumber(`${value}/${what}`);
    return shown && !Number.isNaN(amount) ? values.words({ ...shown, value: amount }, shown.unit).shown : otherwise;
  };
  return { from: limit('least', from), to: limit('most', to) };
}

export function shownAmount(amount: number | undefined, { unit }: Output): number | null {
  return amount === undefined || Number.isNaN(amount) ? null : amount / (unit?.size ?? 1);
}

export function writeOutput(values: DocumentValues, { id, unit }: Output, amount: number): string {
  if (Number.isNaN(amount)) return '';
  const type = id === MASS ? quantityType(kindDimension('mass')) : values.show(id)?.type;
  return type ? prettyUnit(values.words({ type, value: amount, diagnostics: [] }, unit).shown) : '';
}

/** The one edit that sets values to amounts, by the shortest texts that read back as just these; undefined where one cannot be written. */
export function setAmounts({ document, values }: DocumentSession, amounts: ReadonlyMap<string, number>): EditOf<'batch'> | undefined {
  const edits = [...amounts].map(([id, value]): EditOf<'parameter.setFormula'> | undefined => {
    const shown = findRecord(document, id, 'parameter') && values.show(id);
    const text = shown && values.words({ ...shown, value }, shown.unit).exact;
    return text ? { type: 'parameter.setFormula', id, formula: { text } } : undefined;
  });
  const all = edits.filter((edit) => edit !== undefined);
  return all.length === edits.length && all.length > 0 ? { type: 'batch', edits: all } : undefined;
}

/** An amount of a value as it is shown. */
export function writeAmount(values: DocumentValues, id: string, amount: number): string {
  const shown = values.show(id);
  return shown ? prettyUnit(values.words({ ...shown, value: amount }, shown.unit).shown) : '';
}
