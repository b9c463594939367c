/** The ledger as a flat list: driving values, then every step with its values, in regeneration order. */
import { findRecord, listDriving, listIds, listRecords, listSteps, type Document, type Step } from '@/core/document';

export type LedgerRow =
  | { readonly kind: 'heading'; readonly id: string; readonly text: string }
  | { readonly kind: 'value'; readonly id: string; readonly step: string | undefined }
  | { readonly kind: 'step'; readonly id: string; readonly step: Step; readonly values: number }
  | { readonly kind: 'add'; readonly id: string };

export function buildLedgerRows(document: Document, folded: ReadonlySet<string>): LedgerRow[] {
  const rows: LedgerRow[] = [{ kind: 'heading', id: 'driving', text: 'Driving values' }];
  for (const value of listDriving(document)) rows.push({ kind: 'value', id: value.id, step: undefined });
  rows.push({ kind: 'add', id: 'add' });
  for (const step of listSteps(document)) {
    const values = listIds(document, `${step.id}/values`);
    rows.push({ kind: 'step', id: step.id, step, values: values.length });
    if (folded.has(step.id)) continue;
    for (const id of values) rows.push({ kind: 'value', id, step: step.id });
  }
  return rows;
}

/** The dimension that shows a parameter on its sketch, if it is one. */
export function findDimension(document: Document, parameter: string) {
  const owner = findRecord(document, parameter, 'parameter')?.owner;
  if (owner === undefined) return undefined;
  return listRecords(document, `${owner}/constraints`, 'dimension').find((dimension) => dimension.parameter === parameter);
}
