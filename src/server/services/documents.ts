/** One document: reading it, and applying edits to it, one transaction each. */
import type { DocumentReply, EditsReply, PostEdits, StandingReply } from '@/contract';
import { fail, succeed, type Result } from '@/core/kit';
import { DocumentRow, ProjectRow } from '../db/models';
import { publish } from '../events';
import { findKnownKeys, lockDocument, readEdits, readLatestEdits, readState, writeChanges } from './document-store';
import { listBehind, listUnsavedSources, readStandingNear } from './planned-documents';
import { inOneTransaction, refuse, RefusedTransaction, type Refusal } from './refusal';
import { readSnapshots } from './snapshots';

/** How many of the latest edits come with a document, for undo across a reload; and how many bytes of them, packed. */
const HISTORY = 200;
const HISTORY_BYTES = 2_000_000;

export async function readDocument(id: string): Promise<Result<DocumentReply, Refusal>> {
  const row = await DocumentRow.findByPk(id);
  const project = row && (await ProjectRow.findByPk(row.projectId));
  if (!row || !project) return fail(refuse('not-found', 'There is no such document.'));
  const document = readState(row);
  const [history, standing, snapshots] = await Promise.all([
    readLatestEdits(id, HISTORY, HISTORY_BYTES),
    readStandingNear(row.projectId, id),
    readSnapshots([document]),
  ]);
  return succeed({
    project: { id: project.id, name: project.name, material: project.material },
    document,
    snapshots,
    seq: row.seq,
    revision: row.revision,
    savedSeq: row.savedSeq,
    behind: listBehind(standing, id),
    unsavedSources: listUnsavedSources(standing, id),
    history: history.filter((edit) => edit.seq <= row.seq),
  });
}

/** How a document stands, without the document: for pages that have it open. */
export async function readStandingOf(id: string): Promise<Result<StandingReply, Refusal>> {
  const row = await DocumentRow.findByPk(id, { attributes: ['projectId', 'seq', 'savedSeq', 'revision'] });
  if (!row) return fail(refuse('not-found', 'There is no such document.'));
  const { seq, savedSeq, revision, projectId } = row;
  const standing = await readStandingNear(projectId, id);
  return succeed({ seq, savedSeq, revision, behind: listBehind(standing, id), unsavedSources: listUnsavedSources(standing, id) });
}

export async function readEditsAfter(id: string, seq: number): Promise<Result<EditsReply, Refusal>> {
  const row = await DocumentRow.findByPk(id, { attributes: ['seq'] });
  if (!row) return fail(refuse('not-found', 'There is no such document.'));
  const edits = (await readEdits(id, seq)).filter((edit) => edit.seq <= row.seq);
  return succeed({ seq: row.seq, edits });
}

/**
 * Applies edits in order. Those whose key is known were applied before and are skipped. When the document
 * has moved on since `base`, nothing is applied and the missing edits are given back.
 */
export async function postEdits(id: string, { base, envelopes }: PostEdits): Promise<Result<EditsReply, Refusal>> {
  const applied = await inOneTransaction(async (transaction) => {
    const row = await lockDocument(id, transaction);
    if (!row) throw new RefusedTransaction(refuse('not-found', 'There is no such document.'));
    const known = await findKnownKeys(
      id,
      envelopes.map(({ key }) => key),
      transaction,
    );
    const fresh = envelopes.filter(({ key }) => !known.has(key));
    if (fresh.length > 0 && row.seq !== base + known.size) {
      const edits = await readEdits(id, base, transaction);
      throw new RefusedTransaction(refuse('stale', 'Somebody else has changed this document meanwhile.', { edits, seq: row.seq }));
    }
    const logged = fresh.length > 0 ? await writeChanges([{ row, envelopes: fresh }], transaction) : [];
    return { project: row.projectId, seq: row.seq, edits: known.size > 0 ? await readEdits(id, base, transaction) : logged };
  });
  if (!applied.ok) return applied;
  publish({ type: 'edited', project: applied.value.project, document: id, seq: applied.value.seq });
  return succeed({ seq: applied.value.seq, edits: applied.value.edits });
}
