/** Saving revisions. */
import type { z } from 'zod';
import type { SaveRevisionReply, saveRevisionSchema } from '@/contract';
import { fail, succeed, type Result } from '@/core/kit';
import { findBehind, publishValues } from '@/core/links';
import { database } from '../db/connect';
import { DocumentRow } from '../db/models';
import { publish } from '../events';
import { evaluateWithGeometry, scheduleRegeneration } from '../jobs';
import { lockDocument, readEdits, readState, writeRevision } from './document-store';
import { loadPlanned } from './projects';
import { refuse, RefusedTransaction, type Refusal } from './refusal';

/** Makes an immutable revision of the document as the client sees it. */
export async function saveRevision(id: string, request: z.infer<typeof saveRevisionSchema>): Promise<Result<SaveRevisionReply, Refusal>> {
  const known = await DocumentRow.findByPk(id);
  // Measured before the transaction: building the geometry takes its time. The sequence number is checked in it.
  const values = known?.seq === request.seq ? await evaluateWithGeometry(readState(known)) : undefined;
  try {
    const saved = await database().transaction(async (transaction) => {
      const row = await lockDocument(id, transaction);
      if (!row) throw new RefusedTransaction(refuse('not-found', 'There is no such document.'));
      if (row.seq !== request.seq || !values) {
        const edits = await readEdits(id, request.seq, transaction);
        throw new RefusedTransaction(
          refuse('stale', 'Somebody else has changed this document meanwhile; look at it again before saving.', { edits, seq: row.seq }),
        );
      }
      const document = readState(row);
      const published = publishValues(values);
      const revision = await writeRevision(row, { document, published, message: request.message, author: request.author, changeSet: null }, transaction);
      return { revision, project: row.projectId };
    });
    scheduleRegeneration(id, saved.revision);
    publish({ type: 'saved', project: saved.project, document: id, revision: saved.revision });
    return succeed({ revision: saved.revision, nowBehind: await findTakers(saved.project, id) });
  } catch (problem) {
    if (problem instanceof RefusedTransaction) return fail(problem.refusal);
    throw problem;
  }
}

/** Documents that are behind now and take something of `source`, directly. */
async function findTakers(project: string, source: string): Promise<SaveRevisionReply['nowBehind']> {
  const planned = await loadPlanned(project);
  const behind = findBehind(planned.map((entry) => entry.planned));
  return planned.flatMap(({ planned: { document } }) => {
    const values = behind.get(document.id);
    return values === undefined || document.id === source ? [] : [{ id: document.id, name: document.name, values }];
  });
}
