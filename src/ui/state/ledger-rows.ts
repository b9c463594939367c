/** The ledger as a flat list: driving values, then every step with its values, in regeneration order. */
import { findRecord, hasComponents, listIds, listRecords, type Document } from '@/core/document';

/** The row in which a new value is typed. */
export const NEW_VALUE = 'add';

export type LedgerRow =
  | { readonly kind: 'heading'; readonly id: string; readonly text: string }
  | { readonly kind: 'value'; readonly id: string; readonly step: string | undefined }
  | { readonly kind: 'step'; readonly id: string; readonly values: number }
  | { readonly kind: 'component'; readonly id: string; readonly drives: number }
  | { readonly kind: 'drive'; readonly id: string }
  | { readonly kind: 'outside'; readonly id: string; readonly values: number }
  | { readonly kind: 'add-component'; readonly id: string }
  | { readonly kind: 'mate'; readonly id: string }
  | { readonly kind: 'add'; readonly id: string };

/** What stands where, from the lists of a document alone: an edit of a value changes no row's place. */
export function buildLedgerRows(document: Pick<Document, 'lists' | 'kind'>, folded: ReadonlySet<string>): LedgerRow[] {
  const rows: LedgerRow[] = [{ kind: 'heading', id: 'driving', text: 'Driving values' }];
  const taken = listIds(document, 'links').flatMap((link) => listIds(document, `${link}/takes`));
  for (const id of [...taken, ...listIds(document, 'parameters')]) rows.push({ kind: 'value', id, step: undefined });
  rows.push({ kind: 'add', id: NEW_VALUE });
  if (document.kind === 'assembly') rows.push(...componentRows(document, folded), { kind: 'add-component', id: 'add component' }, ...mateRows(document));
  else if (hasComponents(document)) rows.push(...componentRows(document, folded));
  rows.push(...outsideRows(document, folded));
  for (const step of listIds(document, 'steps')) {
    const values = listIds(document, `${step}/values`);
    rows.push({ kind: 'step', id: step, values: values.length });
    if (folded.has(step)) continue;
    for (const id of values) rows.push({ kind: 'value', id, step });
  }
  return rows;
}

/** The components, or the calc sheets that are used, each with what is set in it. */
function componentRows(document: Pick<Document, 'lists' | 'kind'>, folded: ReadonlySet<string>): LedgerRow[] {
  const text = { assembly: 'Components', part: 'Used here', master: 'Calculations', calc: 'Calculations' }[document.kind];
  const rows: LedgerRow[] = [{ kind: 'heading', id: 'components', text }];
  for (const id of listIds(document, 'components')) {
    const drives = listIds(document, `${id}/drives`);
    const values = listIds(document, `${id}/values`);
    rows.push({ kind: 'component', id, drives: drives.length + values.length });
    if (folded.has(id)) continue;
    for (const value of values) rows.push({ kind: 'value', id: value, step: id });
    for (const drive of drives) rows.push({ kind: 'drive', id: drive });
  }
  return rows;
}

/** The outside calculations, each with what it hands back. */
function outsideRows(document: Pick<Document, 'lists'>, folded: ReadonlySet<string>): LedgerRow[] {
  const outsides = listIds(document, 'outsides');
  const rows: LedgerRow[] = outsides.length > 0 ? [{ kind: 'heading', id: 'outsides', text: 'Outside calculations' }] : [];
  for (const id of outsides) {
    const values = listIds(document, `${id}/values`);
    rows.push({ kind: 'outside', id, values: values.length });
    if (!folded.has(id)) rows.push(...values.map((value): LedgerRow => ({ kind: 'value', id: value, step: id })));
  }
  return rows;
}

function mateRows(document: Pick<Document, 'lists'>): LedgerRow[] {
  const mates = listIds(document, 'mates');
  const rows: LedgerRow[] = mates.length > 0 ? [{ kind: 'heading', id: 'mates', text: 'Mates' }] : [];
  for (const id of mates) {
    rows.push({ kind: 'mate', id });
    for (const value of listIds(document, `${id}/values`)) rows.push({ kind: 'value', id: value, step: id });
  }
  return rows;
}

/** The dimension that shows a parameter on its sketch, if it is one. */
export function findDimension(document: Document, parameter: string) {
  const owner = findRecord(document, parameter, 'parameter')?.owner;
  if (owner === undefined) return undefined;
  return listRecords(document, `${owner}/constraints`, 'dimension').find((dimension) => dimension.parameter === parameter);
}
