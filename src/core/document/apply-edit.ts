/**
 * `applyEdit(document, edit)`: pure, used alike by browser, server, import and command line. Gives the new
 * document, the inverse as a patch, and the difference; or a failure that says what stood in the way.
 * Law, property-tested: applying the inverse gives the original back.
 */
import { assertNever, fail, succeed, type Result } from '../kit';
import { applyComponentEdit, dropUnused } from './apply-component';
import { applyLinkEdit } from './apply-link';
import { applyParameterEdit } from './apply-parameter';
import { applySketchEdit } from './apply-sketch';
import { applyStepEdit } from './apply-step';
import type * as z from 'zod/mini';
import { findAny, findRecord, listIds } from './access';
import { Draft, type Applied } from './draft';
import { notFound, otherKind, type EditFailure } from './edit-failure';
import type { Edit, EditOf } from './edit-schema';
import { applyOutsideEdit } from './apply-outside';
import { applyPageEdit } from './apply-page';
import { applySizeEdit } from './apply-size';
import { findReaders, mapFormulas } from './formulas-in';
import { claimName } from './naming';
import { changesStructure, findBreaches } from './integrity';
import { recordSchema, type Document, type DocumentRecord } from './schema';
import { LIMITS } from './schema-parts';

export function applyEdit(document: Document, edit: Edit): Result<Applied, EditFailure> {
  const draft = new Draft(document);
  const failure = change(draft, edit);
  if (failure) return fail(failure);
  const applied = draft.finish();
  const unsound = findUnsound(applied);
  return unsound ? fail(unsound) : succeed(applied);
}

/** What an edit leaves behind must be a document: whatever the edit says, and however it was made. */
function findUnsound({ document, diff }: Applied): EditFailure | undefined {
  if (Object.keys(document.records).length > LIMITS.records) {
    return { code: 'too-large', message: `A document holds at most ${LIMITS.records} records.` };
  }
  const long = diff.lists.find((list) => listIds(document, list).length > LIMITS.listLength);
  if (long !== undefined) return { code: 'too-large', message: `A list holds at most ${LIMITS.listLength} entries.` };
  for (const { id, after } of diff.records) {
    const parsed = after === null ? undefined : recordSchema.safeParse(after);
    if (parsed?.success === false) return unsound(`${describeRecord(after)}: ${describeIssues(parsed.error)}`, [id]);
  }
  if (!changesStructure(diff.records, diff.lists)) return undefined;
  const [breach] = findBreaches(document, 1);
  return breach && unsound(breach.message, [breach.at]);
}

function unsound(message: string, ids: readonly string[]): EditFailure {
  return { code: 'unsound', message: `This edit would break the document, and was not made. ${message}`, ids };
}

function describeRecord(record: DocumentRecord | null): string {
  return record && 'name' in record ? record.name : (record?.type ?? 'A record');
}

function describeIssues({ issues: [issue] }: z.core.$ZodError): string {
  return issue ? `${issue.path.join('.')} ${issue.message}` : 'it does not fit';
}

function changeFields(draft: Draft, edit: EditOf<'document.rename' | 'document.setUnits' | 'document.setGeneral'>): EditFailure | undefined {
  switch (edit.type) {
    case 'document.rename':
      return void draft.setName(edit.name);
    case 'document.setUnits':
      return setUnits(draft, edit.units);
    case 'document.setGeneral':
      return void draft.setGeneral(edit.general);
  }
}

function change(draft: Draft, edit: Edit): EditFailure | undefined {
  switch (edit.type) {
    case 'document.rename':
    case 'document.setUnits':
    case 'document.setGeneral':
      return changeFields(draft, edit);
    case 'parameter.add':
    case 'measure.add':
    case 'parameter.setFormula':
    case 'parameter.update':
    case 'parameter.move':
    case 'parameter.remove':
    case 'value.rename':
      return applyParameterEdit(draft, edit);
    case 'table.put': {
      const failure = claimName(draft, edit.table.id, edit.table.name);
      if (failure) return failure;
      return putListed(draft, 'tables', edit.table);
    }
    case 'table.remove':
      return removeTable(draft, edit.id);
    case 'paragraph.put':
    case 'paragraph.remove':
    case 'chart.put':
    case 'chart.remove':
    case 'page.order':
      return applyPageEdit(draft, edit);
    case 'size.put':
    case 'sizes.put':
    case 'size.remove':
    case 'size.move':
    case 'sizes.columns':
    case 'sizes.results':
    case 'sizes.use':
      return applySizeEdit(draft, edit);
    case 'guard.put':
    case 'guard.remove':
    case 'goal.put':
    case 'goal.remove':
    case 'dismissal.put':
    case 'dismissal.remove':
      return applyListedEdit(draft, edit);
    case 'link.put':
    case 'link.catchUp':
    case 'link.remove':
    case 'take.update':
    case 'takes.move':
      return applyLinkEdit(draft, edit);
    case 'step.add':
    case 'step.update':
    case 'step.rename':
    case 'step.move':
    case 'body.put':
      return applyStepEdit(draft, edit);
    case 'step.remove':
      return removeStep(draft, edit);
    case 'sketch.draw':
    case 'sketch.reshape':
    case 'sketch.erase':
    case 'sketch.reconnect':
    case 'dimension.update':
    case 'entity.setConstruction':
      return applySketchEdit(draft, edit);
    case 'component.put':
    case 'component.remove':
    case 'component.place':
    case 'component.catchUp':
    case 'component.repeat':
    case 'drive.put':
    case 'drive.remove':
    case 'mate.put':
    case 'mate.remove':
      return applyComponentEdit(draft, edit);
    case 'outside.put':
    case 'outside.remove':
    case 'outside.answer':
      return applyOutsideEdit(draft, edit);
    case 'batch':
      return changeAll(draft, edit.edits);
    case 'patch': {
      const replayed = draft.replay(edit.ops);
      return replayed.ok ? undefined : replayed.failure;
    }
    default:
      return assertNever(edit);
  }
}

function changeAll(draft: Draft, edits: readonly Edit[]): EditFailure | undefined {
  for (const edit of edits) {
    const failure = change(draft, edit);
    if (failure) return failure;
  }
  return undefined;
}

type ListedEdit = EditOf<'guard.put' | 'guard.remove' | 'goal.put' | 'goal.remove' | 'dismissal.put' | 'dismissal.remove'>;

function applyListedEdit(draft: Draft, edit: ListedEdit): EditFailure | undefined {
  switch (edit.type) {
    case 'guard.put':
      return putListed(draft, 'guards', edit.guard);
    case 'guard.remove':
      return removeListed(draft, 'guards', 'guard', edit.id);
    case 'goal.put':
      return putListed(draft, 'goals', edit.goal);
    case 'goal.remove':
      return removeListed(draft, 'goals', 'goal', edit.id);
    case 'dismissal.put':
      return putListed(draft, 'dismissals', edit.dismissal);
    default:
      return removeListed(draft, 'dismissals', 'dismissal', edit.id);
  }
}

function removeListed(draft: Draft, list: string, type: 'guard' | 'goal' | 'dismissal', id: string): EditFailure | undefined {
  if (!findRecord(draft.document, id, type)) return notFound(`This ${type}`);
  draft.put(id, null);
  draft.removeFromList(list, id);
  return undefined;
}

/** Adds or replaces a record of its kind, never one of another. */
function putListed(draft: Draft, list: string, record: DocumentRecord): EditFailure | undefined {
  const before = findAny(draft.document, record.id);
  if (before && before.type !== record.type) return otherKind(record.id);
  if (!before) draft.insert(list, record.id);
  draft.put(record.id, record);
  return undefined;
}

function removeTable(draft: Draft, id: string): EditFailure | undefined {
  const table = findRecord(draft.document, id, 'table');
  if (!table) return notFound('This table');
  const readers = findReaders(draft.document, new Set([table.name]));
  if (readers.length > 0) {
    return {
      code: 'still-read',
      message: `${table.name} is still read by ${readers.length} formula${readers.length === 1 ? '' : 's'}; change those first.`,
      ids: readers.map((record) => record.id),
    };
  }
  draft.put(id, null);
  draft.removeFromList('tables', id);
  return undefined;
}

/** Changing the units changes no size: every formula so far goes on reading its bare numbers as before. */
function setUnits(draft: Draft, units: Document['units']): EditFailure | undefined {
  const before = draft.document.units;
  for (const record of Object.values(draft.document.records)) {
    const kept = mapFormulas(record, (formula) => (formula.readIn ? formula : { ...formula, readIn: before }));
    draft.put(record.id, kept.type === 'table' ? { ...kept, readIn: kept.readIn ?? before } : kept);
  }
  draft.setUnits(units);
  return undefined;
}

/** With the part that it started from, if nothing else does. */
function removeStep(draft: Draft, edit: EditOf<'step.remove'>): EditFailure | undefined {
  const step = findRecord(draft.document, edit.id, 'from-part');
  const failure = applyStepEdit(draft, edit);
  if (step && !failure) dropUnused(draft, step.component);
  return failure;
}
