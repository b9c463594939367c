/**
 * Bringing documents up to date: the preview, and the change set. The plan is computed outside the
 * transaction; the transaction locks the heads in the order of their ids, checks that none has moved since,
 * and writes the edits and one new revision of each document: all or none.
 */
import type { z } from 'zod';
import type { CatchUpPreviewReply, CatchUpReply, catchUpSchema } from '@/contract';
import { fail, succeed, type Result } from '@/core/kit';
import { planCatchUp, type DocumentPlan } from '@/core/links';
import type { Transaction } from 'sequelize';
import { database } from '../db/connect';
import { ChangeSetRow, type DocumentRow } from '../db/models';
import { publish } from '../events';
import { scheduleRegeneration } from '../jobs';
import { applyLogged, lockDocument, readState, writeRevision } from './document-store';
import { loadPlanned, newId, type LoadedDocument } from './projects';
import { refuse, RefusedTransaction, type Refusal } from './refusal';

/** What catching up would do; with `documentId`, to that document alone. */
export async function previewCatchUp(project: string, documentId?: string): Promise<CatchUpPreviewReply> {
  const loaded = await loadPlanned(project);
  const all = loaded.map((entry) => entry.planned);
  const plan = planCatchUp(all, new Set(documentId === undefined ? all.map(({ document }) => document.id) : [documentId]));
  return {
    cycle: plan.cycle,
    documents: plan.documents.flatMap((entry) => {
      const source = loaded.find(({ row }) => row.id === entry.id);
      return source ? [describePlan(entry, source)] : [];
    }),
  };
}

function describePlan(entry: DocumentPlan, { row, planned }: LoadedDocument) {
  return {
    id: entry.id,
    name: entry.name,
    kind: planned.document.kind,
    changes: entry.changes,
    failures: entry.failures,
    unsavedEdits: row.seq - row.savedSeq,
    seq: row.seq,
    before: planned.document,
    after: entry.after,
  };
}

/** Brings the named documents up to date in one change set. */
export async function commitCatchUp(project: string, request: z.infer<typeof catchUpSchema>): Promise<Result<CatchUpReply, Refusal>> {
  const loaded = await loadPlanned(project);
  const wanted = new Map(request.documents.map(({ id, seq }) => [id, seq]));
  const moved = loaded.find(({ row }) => wanted.has(row.id) && wanted.get(row.id) !== row.seq);
  if (moved) return fail(movedOn(moved.row.name));
  const plan = planCatchUp(
    loaded.map((entry) => entry.planned),
    new Set(wanted.keys()),
  );
  if (plan.documents.length === 0) return fail(refuse('moved-on', 'These documents are up to date already.'));
  const changeSet = newId();
  try {
    const done = await database().transaction(async (transaction) => {
      await ChangeSetRow.create({ id: changeSet, projectId: project, message: 'Caught up', author: request.author, createdAt: new Date() }, { transaction });
      const heads = await lockHeads(loaded, transaction);
      const saved: { id: string; revision: number; seq: number }[] = [];
      for (const entry of plan.documents) {
        const row = heads.get(entry.id);
        if (row) saved.push(await writePlanned(row, entry, changeSet, request.author, transaction));
      }
      return saved;
    });
    for (const { id, revision, seq } of done) {
      scheduleRegeneration(id, revision);
      publish({ type: 'edited', project, document: id, seq });
      publish({ type: 'saved', project, document: id, revision });
    }
    return succeed({ changeSet, documents: done });
  } catch (problem) {
    if (problem instanceof RefusedTransaction) return fail(problem.refusal);
    throw problem;
  }
}

/** Locks every head of the project in id order: what was read for the plan must still be so. */
async function lockHeads(loaded: readonly LoadedDocument[], transaction: Transaction): Promise<Map<string, DocumentRow>> {
  const heads = new Map<string, DocumentRow>();
  for (const { row } of [...loaded].sort((a, b) => (a.row.id < b.row.id ? -1 : 1))) {
    const locked = await lockDocument(row.id, transaction);
    if (!locked || locked.seq !== row.seq || locked.revision !== row.revision) throw new RefusedTransaction(movedOn(row.name));
    heads.set(row.id, locked);
  }
  return heads;
}

async function writePlanned(
  row: DocumentRow,
  entry: DocumentPlan,
  changeSet: string,
  author: string,
  transaction: Transaction,
): Promise<{ id: string; revision: number; seq: number }> {
  await applyLogged(
    row,
    entry.edits.map((edit) => ({ key: newId(), edit, author })),
    transaction,
  );
  const revision = await writeRevision(
    row,
    { document: readState(row), published: entry.publishedAfter, message: 'Caught up', author, changeSet },
    transaction,
  );
  return { id: row.id, revision, seq: row.seq };
}

function movedOn(name: string): Refusal {
  return refuse('moved-on', `${name} was changed since the preview was made. Nothing was changed; look at the preview again.`);
}
