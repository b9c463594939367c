/** Saving revisions, with the documents whose links follow. */
import type * as z from 'zod/mini';
import type { SaveRevisionReply, saveRevisionSchema } from '@/contract';
import type { Document } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import type { CatchUpPlan, LeftBehind } from '@/core/links';
import type { Published } from '../calculation/operations';
import { contentHash } from '../content-hash';
import { DocumentRow, RevisionRow } from '../db/models';
import { publishWithGeometry } from '../jobs';
import { announce } from './announce';
import { lockDocuments, readEdits, readState, writeChanges } from './document-store';
import { listBehind, loadPlanned, readStanding, type LoadedDocument } from './planned-documents';
import { planMeasured, reasonToAsk } from './planning';
import { inOneTransaction, refuse, RefusedTransaction, type Refusal } from './refusal';
import { createChangeSet, listSaved, lockPlanned, planChanges } from './write-plan';

type Request = z.infer<typeof saveRevisionSchema>;

/** Makes an immutable revision of the document as the client sees it, and brings along what follows it. */
export async function saveRevision(id: string, request: Request): Promise<Result<SaveRevisionReply, Refusal>> {
  const known = await DocumentRow.findByPk(id, { attributes: ['id', 'projectId', 'seq', 'savedSeq', 'body', 'revision', 'size'] });
  if (!known) return fail(refuse('not-found', 'There is no such document.'));
  const before = await findSaved(known, request);
  if (before) return succeed(before);
  // Measured before the transaction: building the geometry takes its time. The sequence number is checked in it.
  const state = known.seq === request.seq ? await publishState(known) : undefined;
  const following = state ? await planFollowers(known, state) : NOBODY;
  let saved = await write(id, request, state?.published, following);
  // Somebody moved on where it would have followed: the revision is saved all the same, and that one is asked.
  const isFollowerMoved = !saved.ok && saved.failure.code === 'moved-on';
  if (isFollowerMoved) saved = await write(id, request, state?.published, NOBODY);
  if (!saved.ok) return saved;
  announce(known.projectId, saved.value.documents);
  const standing = await readStanding(known.projectId);
  return succeed({
    revision: saved.value.revision,
    followed: isFollowerMoved ? [] : following.plan.documents.map(({ name }) => name),
    asked: isFollowerMoved ? [] : following.left.map(({ name, reason }) => ({ name, reason })),
    nowBehind: standing.plan.documents.flatMap((entry) =>
      entry.id === id ? [] : [{ id: entry.id, name: entry.name, values: listBehind(standing, entry.id).length }],
    ),
  });
}

/** The revision that this request has made already, or one that holds all that there is to save. */
async function findSaved(row: DocumentRow, { seq, key }: Request): Promise<SaveRevisionReply | undefined> {
  const nothing = { followed: [], asked: [], nowBehind: [] };
  const made = key === undefined ? null : await RevisionRow.findOne({ attributes: ['number'], where: { documentId: row.id, saveKey: key } });
  if (made) return { revision: made.number, ...nothing };
  const isUnchanged = row.revision > 0 && row.seq === seq && row.savedSeq === seq;
  return isUnchanged ? { revision: row.revision, isUnchanged, ...nothing } : undefined;
}

interface Following {
  readonly plan: CatchUpPlan;
  readonly left: readonly LeftBehind[];
  readonly loaded: readonly LoadedDocument[];
}

const NOBODY: Following = { plan: { documents: [], cycle: [], ring: [] }, left: [], loaded: [] };

interface PublishedState {
  readonly document: Document;
  readonly published: Published;
}

async function publishState(row: DocumentRow): Promise<PublishedState> {
  const document = readState(row);
  return { document, published: await publishWithGeometry(document, row.size) };
}

async function planFollowers({ id, projectId, revision }: DocumentRow, { document, published }: PublishedState): Promise<Following> {
  const loaded = await loadPlanned(projectId);
  const instead = {
    document,
    revision: revision + 1,
    hash: contentHash(document),
    published,
    isFresh: true,
  };
  const { plan, left } = await planMeasured(loaded, new Set(), {
    reasonToLeave: (entry) => (entry.id === id ? 'It is what is being saved.' : reasonToAsk(entry, loaded)),
    checksFollowers: true,
    instead,
  });
  return { plan, left: left.filter((one) => one.id !== id), loaded };
}

function write(id: string, request: Request, published: Published | undefined, { plan, left, loaded }: Following) {
  return inOneTransaction(async (transaction) => {
    // All in the order of their ids, the source among them.
    const heads = plan.documents.length > 0 ? await lockPlanned(plan, loaded, transaction) : await lockDocuments([id], transaction);
    const row = heads.get(id);
    if (!row) throw new RefusedTransaction(refuse('not-found', 'There is no such document.'));
    if (row.seq !== request.seq || !published) {
      const edits = await readEdits(id, request.seq, transaction);
      throw new RefusedTransaction(
        refuse('stale', 'Somebody else has changed this document meanwhile; look at it again before saving.', { edits, seq: row.seq }),
      );
    }
    const { message, author, key } = request;
    const changeSet =
      plan.documents.length > 0
        ? await createChangeSet({ project: row.projectId, message: message === '' ? `${row.name} saved` : message, author, leftBehind: left }, transaction)
        : null;
    const followers = changeSet === null ? [] : planChanges(plan, heads, changeSet, author);
    await writeChanges(
      [{ row, envelopes: [], revision: { published, message, author, changeSet, ...(key === undefined ? {} : { saveKey: key }) } }, ...followers],
      transaction,
    );
    const { revision, seq } = row;
    return { revision, documents: [{ id, revision, seq }, ...listSaved(plan, heads)] };
  });
}
