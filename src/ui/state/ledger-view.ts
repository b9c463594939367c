/** The ledger filtered, searched or sorted: then it is a flat list of values for the while. */
import {
  findRecord,
  findStep,
  listDriving,
  listIds,
  listSteps,
  stepsOfBody,
  valuesOfBody,
  type Document,
  type DocumentValues,
  type TakenValue,
} from '@/core/document';
import { sameData } from '@/core/kit';
import { publishValue } from '@/core/links';
import type { LedgerRow } from './ledger-rows';

export const FILTERS = {
  all: 'all values',
  driving: 'driving values',
  formulas: 'formulas',
  plain: 'plain numbers',
  linked: 'linked',
  unused: 'read by nothing',
  wrong: 'in error',
  changed: 'changed since the last revision',
} as const;
export type Filter = keyof typeof FILTERS;

export interface LedgerView {
  readonly filter: Filter;
  readonly text: string;
  /** Grouped by body, a value stands with the first body that its step makes. */
  readonly sort: 'order' | 'name' | 'value' | 'body';
  /** Only what drives this body. */
  readonly body?: string | undefined;
}

export const WHOLE_LEDGER: LedgerView = { filter: 'all', text: '', sort: 'order' };

/** Whether a view shows the ledger as it is. */
export function isWhole({ filter, text, sort, body }: LedgerView): boolean {
  return filter === 'all' && text.trim() === '' && sort === 'order' && body === undefined;
}

/** What a view is judged by beside the document itself. */
export interface ViewSurroundings {
  /** The values of the last revision. */
  readonly saved?: Readonly<Record<string, TakenValue>> | undefined;
  /** The documents that take each value. */
  readonly uses?: ReadonlyMap<string, unknown>;
}

/** The rows that a view shows; undefined for the ledger as it is. */
export function viewRows(values: DocumentValues, view: LedgerView, surroundings: ViewSurroundings = {}): LedgerRow[] | undefined {
  if (isWhole(view)) return undefined;
  const { document } = values;
  const wanted = view.text.trim().toLowerCase();
  const ofBody = view.body === undefined ? undefined : valuesOfBody(values, view.body);
  const rows = listAll(document).filter(
    ({ id }) => (ofBody?.has(id) ?? true) && passes(values, id, view.filter, surroundings) && (wanted === '' || matches(document, id, wanted)),
  );
  const nameOf = (id: string): string => recordOf(document, id)?.name ?? '';
  if (view.sort === 'name') rows.sort((a, b) => nameOf(a.id).localeCompare(nameOf(b.id), 'en', { numeric: true }));
  if (view.sort === 'value') rows.sort((a, b) => compareNumbers(values.sheet.readNumber(a.id), values.sheet.readNumber(b.id)));
  return view.sort === 'body' ? groupByBody(document, rows) : rows;
}

/** Driving values first, then the values of each body's steps under its name, then those of steps that no body is made of. */
function groupByBody(document: Document, rows: readonly ValueRow[]): LedgerRow[] {
  const driving = rows.filter(({ step }) => step === undefined);
  const groups: LedgerRow[] = driving.length > 0 ? [{ kind: 'heading', id: 'driving', text: 'Driving values' }, ...driving] : [];
  const placed = new Set(driving.map(({ id }) => id));
  for (const record of Object.values(document.records)) {
    if (record.type !== 'body') continue;
    const steps = new Set(stepsOfBody(document, record.id));
    const own = rows.filter(({ id, step }) => step !== undefined && steps.has(step) && !placed.has(id));
    for (const { id } of own) placed.add(id);
    if (own.length > 0) groups.push({ kind: 'heading', id: `body ${record.id}`, text: record.name }, ...own);
  }
  const rest = rows.filter(({ id }) => !placed.has(id));
  return rest.length > 0 ? [...groups, { kind: 'heading', id: 'no body', text: 'In no body' }, ...rest] : groups;
}

type ValueRow = Extract<LedgerRow, { readonly kind: 'value' }>;

function listAll(document: Document): ValueRow[] {
  return [
    ...listDriving(document).map(({ id }): ValueRow => ({ kind: 'value', id, step: undefined })),
    ...listSteps(document).flatMap((step) => listIds(document, `${step.id}/values`).map((id): ValueRow => ({ kind: 'value', id, step: step.id }))),
  ];
}

function recordOf(document: Document, id: string) {
  return findRecord(document, id, 'parameter') ?? findRecord(document, id, 'take');
}

function passes(values: DocumentValues, id: string, filter: Filter, { saved, uses }: ViewSurroundings): boolean {
  const record = recordOf(values.document, id);
  if (!record) return false;
  const shown = values.show(id);
  switch (filter) {
    case 'all':
      return true;
    case 'driving':
      return record.type === 'take' || record.owner === undefined;
    case 'formulas':
      return record.type === 'parameter' && shown?.isLiteral === false && !values.isMeasured(id);
    case 'plain':
      return record.type === 'parameter' && shown?.isLiteral === true;
    case 'linked':
      return record.type === 'take';
    case 'unused':
      return values.sheet.listReaders(id).length === 0 && uses?.has(id) !== true && (record.type === 'take' || record.owner === undefined);
    case 'wrong':
      return (shown?.diagnostics.length ?? 0) > 0;
    case 'changed':
      return saved !== undefined && !sameData(saved[id], publishValue(values, id));
  }
}

/** In the name, the formula, the note, or the step that owns it. */
function matches(document: Document, id: string, wanted: string): boolean {
  const record = recordOf(document, id);
  if (!record) return false;
  const owner =
    record.type === 'parameter' ? (findStep(document, record.owner ?? '')?.name ?? '') : (findRecord(document, record.link, 'link')?.sourceName ?? '');
  const formula = record.type === 'parameter' ? record.formula.text : '';
  return [record.name, formula, record.note ?? '', owner].some((text) => text.toLowerCase().includes(wanted));
}

function compareNumbers(a: number, b: number): number {
  if (Number.isNaN(a) || Number.isNaN(b)) return Number(Number.isNaN(a)) - Number(Number.isNaN(b));
  return a - b;
}
