/**
 * `applyEdit(document, edit)`: pure, used alike by browser, server, import and command line. Gives the new
 * document, the inverse as a patch, and the difference; or a failure that says what stood in the way.
 * Law, property-tested: applying the inverse gives the original back.
 */
import { assertNever, fail, succeed, type Result } from '../kit';
import { applyLinkEdit } from './apply-link';
import { applyParameterEdit } from './apply-parameter';
import { applySketchEdit } from './apply-sketch';
import { applyStepEdit } from './apply-step';
import { findRecord } from './access';
import { Draft, type Applied } from './draft';
import { notFound, type EditFailure } from './edit-failure';
import type { Edit } from './edit-schema';
import { findReaders, mapFormulas } from './formulas-in';
import { claimName } from './naming';
import type { Document } from './schema';
import { LIMITS } from './schema-parts';

export function applyEdit(document: Document, edit: Edit): Result<Applied, EditFailure> {
  const draft = new Draft(document);
  const failure = change(draft, edit);
  if (failure) return fail(failure);
  const applied = draft.finish();
  if (Object.keys(applied.document.records).length > LIMITS.records) {
    return fail({ code: 'too-large', message: `A document holds at most ${LIMITS.records} records.` });
  }
  return succeed(applied);
}

function change(draft: Draft, edit: Edit): EditFailure | undefined {
  switch (edit.type) {
    case 'document.rename':
      draft.setName(edit.name);
      return undefined;
    case 'document.setUnits':
      return setUnits(draft, edit.units);
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
      if (!findRecord(draft.document, edit.table.id, 'table')) draft.insert('tables', edit.table.id);
      draft.put(edit.table.id, edit.table);
      return undefined;
    }
    case 'table.remove':
      return removeTable(draft, edit.id);
    case 'guard.put':
      if (!findRecord(draft.document, edit.guard.id, 'guard')) draft.insert('guards', edit.guard.id);
      draft.put(edit.guard.id, edit.guard);
      return undefined;
    case 'guard.remove':
      if (!findRecord(draft.document, edit.id, 'guard')) return notFound('This guard');
      draft.put(edit.id, null);
      draft.removeFromList('guards', edit.id);
      return undefined;
    case 'dismissal.put':
      if (!findRecord(draft.document, edit.dismissal.id, 'dismissal')) draft.insert('dismissals', edit.dismissal.id);
      draft.put(edit.dismissal.id, edit.dismissal);
      return undefined;
    case 'dismissal.remove':
      if (!findRecord(draft.document, edit.id, 'dismissal')) return notFound('This dismissal');
      draft.put(edit.id, null);
      draft.removeFromList('dismissals', edit.id);
      return undefined;
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
    case 'step.remove':
    case 'body.put':
      return applyStepEdit(draft, edit);
    case 'sketch.draw':
    case 'sketch.reshape':
    case 'sketch.erase':
    case 'sketch.reconnect':
    case 'dimension.update':
    case 'entity.setConstruction':
      return applySketchEdit(draft, edit);
    case 'batch':
      for (const part of edit.edits) {
        const failure = change(draft, part);
        if (failure) return failure;
      }
      return undefined;
    case 'patch': {
      const replayed = draft.replay(edit.ops);
      return replayed.ok ? undefined : replayed.failure;
    }
    default:
      return assertNever(edit);
  }
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
