/** What a plan says, written: the heads are locked, what was read for it must still be so, and its edits and revisions become one change set. */
import type { Transaction } from 'sequelize';
import type { SavedDocument } from '@/contract';
import { listSources, type CatchUpPlan, type LeftBehind } from '@/core/links';
import { ChangeSetRow, type DocumentRow } from '../db/models';
import { pack } from '../db/packing';
import { lockDocuments, type DocumentChange } from './document-store';
import { newId } from './ids';
import type { LoadedDocument } from './planned-documents';
import { refuse, RefusedTransaction, type Refusal } from './refusal';

interface NewChangeSet {
  readonly project: string;
  readonly message: string;
  readonly author: string;
  readonly leftBehind?: readonly LeftBehind[];
  readonly undoes?: string;
}

export async function createChangeSet({ project, message, author, leftBehind = [], undoes }: NewChangeSet, transaction: Transaction): Promise<string> {
  const id = newId();
  await ChangeSetRow.create(
    {
      id,
      projectId: project,
      message,
      author,
      createdAt: new Date(),
      leftBehind: leftBehind.length > 0 ? pack(leftBehind) : null,
      undoes: undoes ?? null,
    },
    { transaction },
  );
  return id;
}

/** Locks what a plan changes and what it takes from: what was read for the plan must still be so. */
export async function lockPlanned(plan: CatchUpPlan, loaded: readonly LoadedDocument[], transaction: Transaction): Promise<Map<string, DocumentRow>> {
  const changing = new Set(plan.documents.map(({ id }) => id));
  const sources = plan.documents.flatMap(({ after }) => listSources(after).map(({ source }) => source));
  const heads = await lockDocuments([...new Set([...changing, ...sources])], transaction);
  for (const { head } of loaded) {
    const locked = heads.get(head.id);
    if (!locked) {
      if (changing.has(head.id)) throw new RefusedTransaction(movedOn(head.name));
      continue;
    }
    // Edits of a source that are in no revision do not matter here.
    const hasMoved = locked.revision !== head.revision || (changing.has(head.id) && locked.seq !== head.seq);
    if (hasMoved) throw new RefusedTransaction(movedOn(head.name));
  }
  return heads;
}

export function planChanges(plan: CatchUpPlan, heads: ReadonlyMap<string, DocumentRow>, changeSet: string, author: string): DocumentChange[] {
  return plan.documents.flatMap((entry) => {
    const row = heads.get(entry.id);
    const envelopes = entry.edits.map((edit) => ({ key: newId(), edit, author }));
    const message = entry.comesAlong ? 'Followed' : 'Caught up';
    return row ? [{ row, envelopes, revision: { published: entry.publishedAfter, message, author, changeSet } }] : [];
  });
}

export function listSaved(plan: CatchUpPlan, heads: ReadonlyMap<string, DocumentRow>): SavedDocument[] {
  return plan.documents.flatMap(({ id }) => {
    const row = heads.get(id);
    return row ? [{ id, revision: row.revision, seq: row.seq }] : [];
  });
}

export function movedOn(name: string): Refusal {
  return refuse('moved-on', `${name} was changed since the preview was made. Nothing was changed; look at the preview again.`);
}
