/** What a document has for others to link, and offering more of it. */
import type { OffersReply } from '@/contract';
import { findRecord, findStep, listNamed, showTaken, type Document, type Edit } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { DocumentRow, RevisionRow } from '../db/models';
import { unpack } from '../db/packing';
import { publish } from '../events';
import { lockDocument, readState, writeChanges } from './document-store';
import { MEASURED, publishedOf } from './evaluations';
import { newId } from './ids';
import { inOneTransaction, refuse, RefusedTransaction, type Refusal } from './refusal';

/**
 * Every value of the latest revision, which is what others see; whether it is offered is read from the present
 * state, and values that were not saved yet are told too.
 */
export async function listOffers(id: string): Promise<Result<OffersReply, Refusal>> {
  const row = await DocumentRow.findByPk(id);
  const revision = row && (await RevisionRow.findOne({ where: { documentId: id, number: row.revision }, include: MEASURED }));
  if (!row || !revision) return fail(refuse('not-found', 'There is no such document.'));
  const [saved, present] = [unpack<Document>(revision.body), readState(row)];
  const published = publishedOf(revision);
  return succeed({
    id,
    name: present.name,
    revision: row.revision,
    hash: revision.hash,
    unsavedEdits: row.seq - row.savedSeq,
    values: listNamed(saved).flatMap((record) => {
      const value = Object.hasOwn(published, record.id) ? published[record.id] : undefined;
      if (!value) return [];
      const now = findRecord(present, record.id, 'parameter');
      const owner = record.type === 'parameter' && record.owner !== undefined ? findStepName(saved, record.owner) : undefined;
      return [
        {
          id: record.id,
          name: record.name,
          shown: showTaken(value),
          value,
          // Taken values and tables are always to be had.
          isOffered: now?.offered === true || record.type !== 'parameter',
          isPinned: record.type !== 'table' && record.pinned === true,
          ...(record.type === 'table' || record.note === undefined ? {} : { note: record.note }),
          ...(owner === undefined ? {} : { step: owner }),
        },
      ];
    }),
    notSaved: listNamed(present).flatMap((record) => (Object.hasOwn(saved.records, record.id) ? [] : record.name)),
  });
}

function findStepName(document: Document, id: string): string | undefined {
  return findStep(document, id)?.name;
}

/**
 * Marks values as offered, in the name of somebody who links them. The latest revision stays as it is: what is
 * offered decides what is put forward, not what a value is.
 */
export async function offerValues(
  id: string,
  request: { readonly ids: readonly string[]; readonly author: string },
): Promise<Result<{ readonly seq: number }, Refusal>> {
  const done = await inOneTransaction(async (transaction) => {
    const row = await lockDocument(id, transaction);
    if (!row) throw new RefusedTransaction(refuse('not-found', 'There is no such document.'));
    const envelopes = offerEdits(readState(row), request.ids).map((edit) => ({ key: newId(), edit, author: request.author }));
    if (envelopes.length > 0) await writeChanges([{ row, envelopes }], transaction);
    return { project: row.projectId, seq: row.seq };
  });
  if (!done.ok) return done;
  publish({ type: 'edited', project: done.value.project, document: id, seq: done.value.seq });
  return succeed({ seq: done.value.seq });
}

/** What makes values offered that are not yet. */
export function offerEdits(document: Document, ids: Iterable<string>): Edit[] {
  return [...new Set(ids)].flatMap((id): Edit[] => {
    const parameter = findRecord(document, id, 'parameter');
    return parameter && parameter.offered !== true ? [{ type: 'parameter.update', id, changes: { offered: true } }] : [];
  });
}
