/** What is done with rows of the ledger, several at once where they are marked: copied, pasted, filled down, moved, pinned, deleted. */
import { findRecord, findStep, listIds, listRecords, meantNames, type Edit, type EditOf, type Parameter, type Take } from '@/core/document';
import { COLUMNS, writeTable } from '@/core/value-table';
import { readCsv, writeTabbed } from '@/formats/spreadsheet';
import type { DocumentSession } from '../state/document-session';
import { editOrAsk } from '../state/removal';
import type { WorkspaceStore } from '../state/workspace';

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

/** Marked values, or the one that has the focus, in the order of the ledger. */
export function chosenValues(workspace: WorkspaceStore, id: string, order: readonly string[]): string[] {
  const { marked } = workspace.getState();
  return marked.has(id) ? order.filter((other) => marked.has(other)) : [id];
}

/** Rows as a spreadsheet takes them: columns parted by tabs, with a heading. */
export function copyRows({ values }: DocumentSession, ids: readonly string[]): string {
  const rows = writeTable(values, new Set(ids)).map((row) => COLUMNS.map((column) => row[column]));
  return writeTabbed([[...COLUMNS], ...rows]);
}

/** The table in a text, if it is one of several cells. */
export function pastedCells(text: string): readonly (readonly string[])[] | undefined {
  const read = readCsv(text);
  return read.ok && read.value.some((row) => row.length > 1) ? read.value : undefined;
}

/** The first formula in all of them, as a spreadsheet fills down. */
export function fillDown(session: DocumentSession, ids: readonly string[]): void {
  const [first, ...rest] = ids.flatMap((id) => findRecord(session.document, id, 'parameter') ?? []);
  if (!first) return;
  const { text } = first.formula;
  const edits = rest.flatMap(({ id }): SingleEdit[] =>
    session.values.isMeasured(id) ? [] : [{ type: 'parameter.setFormula', id, formula: { text, names: meantNames(session.document, text) } }],
  );
  if (edits.length > 0) session.edit({ type: 'batch', edits });
}

/** Moves a driving value of this document by one place. */
export function moveValue(session: DocumentSession, id: string, by: 1 | -1): void {
  const order = listIds(session.document, 'parameters');
  const at = order.indexOf(id);
  const to = at + by;
  if (at < 0 || to < 0 || to >= order.length) return;
  session.edit({ type: 'parameter.move', id, after: order[by === 1 ? to : to - 1] ?? null });
}

/** Puts a driving value of this document in front of another one, or behind it when it came from above. */
export function dropValue(session: DocumentSession, id: string, target: string): void {
  const order = listIds(session.document, 'parameters');
  const [from, to] = [order.indexOf(id), order.indexOf(target)];
  if (from < 0 || to < 0 || from === to) return;
  session.edit({ type: 'parameter.move', id, after: (from < to ? order[to] : order[to - 1]) ?? null });
}

/** Pins or offers values, or takes that back, as one edit. */
export function setFlag(session: DocumentSession, records: readonly (Parameter | Take)[], flag: 'pinned' | 'offered', is: boolean): void {
  const edits = records.flatMap((record): SingleEdit[] => {
    if (record.type === 'parameter') return [{ type: 'parameter.update', id: record.id, changes: { [flag]: is } }];
    return flag === 'pinned' ? [{ type: 'take.update', id: record.id, changes: { pinned: is } }] : [];
  });
  const [only] = edits;
  if (only) session.edit(edits.length === 1 ? only : { type: 'batch', edits });
}

/** Values that are no one's own to delete: the words of the first of them. */
function whyNotDeleted({ document }: DocumentSession, ids: readonly string[]): string {
  const [id = ''] = ids;
  const parameter = findRecord(document, id, 'parameter');
  const step = parameter?.owner === undefined ? undefined : findStep(document, parameter.owner);
  if (parameter && step) return `${step.name} needs ${parameter.name}: delete the step, or change it.`;
  const take = findRecord(document, id, 'take');
  return `${take?.name ?? 'This value'} is linked: choose Unlink in its menu.`;
}

/** Deletes values that may be deleted on their own, dimensions of sketches among them. */
export function deleteValues(session: DocumentSession, workspace: WorkspaceStore, ids: readonly string[]): void {
  const { document } = session;
  const free = ids.flatMap((id) => {
    const parameter = findRecord(document, id, 'parameter');
    if (!parameter) return [];
    if (parameter.owner === undefined || parameter.measure !== undefined) return { id, dimension: undefined };
    const dimension = listRecords(document, `${parameter.owner}/constraints`, 'dimension').find((one) => one.parameter === id);
    return dimension ? { id, dimension } : [];
  });
  const [first] = free;
  if (!first) {
    session.notify(whyNotDeleted(session, ids));
    return;
  }
  const title = free.length === 1 ? `Delete ${findRecord(document, first.id, 'parameter')?.name ?? ''}` : `Delete ${free.length} values`;
  editOrAsk(session, workspace, title, (readers) => {
    // Those that read others go first, so that values which only read one another are not asked about.
    const edits = [...free]
      .reverse()
      .map(({ id, dimension }): SingleEdit =>
        dimension ? { type: 'sketch.erase', sketch: dimension.sketch, ids: [dimension.id], readers } : { type: 'parameter.remove', id, readers },
      );
    const [only] = edits;
    return edits.length === 1 && only ? only : { type: 'batch', edits };
  });
}
