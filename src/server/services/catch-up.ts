/**
 * Bringing documents up to date: the preview, and the change set. The plan is computed outside the
 * transaction; the transaction locks the heads in the order of their ids, checks that none has moved since,
 * and writes the edits and one new revision of each document: all or none.
 */
import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import type { CatchUpPreviewReply, CatchUpReply, catchUpSchema, SavedDocument } from '@/contract';
import { hasComponents } from '@/core/document';
import { fail, type Result } from '@/core/kit';
import { linkedNode, listSources, planWithout, reachOf, type CatchUpPlan, type DocumentPlan, type LeftBehind } from '@/core/links';
import { calculate } from '../calculation/run';
import { ChangeSetRow, type DocumentRow } from '../db/models';
import { pack } from '../db/packing';
import { publish } from '../events';
import { scheduleRegeneration } from '../jobs';
import { lockDocuments, writeChanges, type DocumentChange } from './document-store';
import { newId } from './ids';
import { loadPlanned, sizeOfPlan, type LoadedDocument } from './planned-documents';
import { planMeasured, reasonToAsk } from './planning';
import { readSnapshots, readStands } from './snapshots';
import { inOneTransaction, refuse, RefusedTransaction, type Refusal } from './refusal';

export interface PreviewRequest {
  /** Only this document, with what follows it by itself. */
  readonly document?: string | undefined;
  /** And all that takes from it, directly or through others. */
  readonly isBranch?: boolean;
  /** Builds the geometry where values are measured on it; what is measured is as of the latest revisions otherwise. */
  readonly isMeasured?: boolean;
}

/** What catching up would do. */
export async function previewCatchUp(project: string, request: PreviewRequest = {}): Promise<CatchUpPreviewReply> {
  const loaded = await loadPlanned(project);
  const targets = chooseTargets(loaded, request);
  const reasonToLeave = leaveFollowers(loaded, targets);
  const documents = loaded.map((entry) => entry.planned);
  const stands = await readStands(documents);
  const { plan, left } = request.isMeasured
    ? await planMeasured(loaded, targets, { reasonToLeave })
    : await planWithout(documents, targets, reasonToLeave, async (among, wanted) => {
        return (await calculate('plan', { documents: among, targets: wanted, together: { stands, built: new Map() } }, sizeOfPlan(loaded))).plan;
      });
  const hosts = plan.documents.flatMap(({ id, after }) => {
    const before = documents.find(({ document }) => document.id === id)?.document;
    return hasComponents(after) && before ? [before, after] : [];
  });
  return {
    cycle: plan.cycle,
    left,
    stands: await readSnapshots(hosts),
    documents: plan.documents.flatMap((entry) => {
      const source = loaded.find(({ head }) => head.id === entry.id);
      return source ? [describePlan(entry, source)] : [];
    }),
  };
}

function chooseTargets(loaded: readonly LoadedDocument[], { document, isBranch }: PreviewRequest): ReadonlySet<string> {
  if (document === undefined) return new Set(loaded.map(({ head }) => head.id));
  if (!isBranch) return new Set([document]);
  return reachOf(
    loaded.map(({ planned }) => linkedNode(planned.document)),
    document,
    'takers',
  );
}

/** Those that come along by themselves are not published when somebody should look at them first. */
function leaveFollowers(loaded: readonly LoadedDocument[], targets: ReadonlySet<string>): (entry: DocumentPlan) => string | undefined {
  return (entry) => (targets.has(entry.id) ? undefined : reasonToAsk(entry, loaded));
}

function describePlan(entry: DocumentPlan, { head, planned }: LoadedDocument): CatchUpPreviewReply['documents'][number] {
  const { id, name, changes, failures, guards, isProvisional, comesAlong, after } = entry;
  return {
    id,
    name,
    kind: planned.document.kind,
    changes,
    failures,
    guards,
    isProvisional,
    comesAlong,
    sources: listSources(after).flatMap(({ policy, source }) => (policy === 'hold' ? [] : source)),
    unsavedEdits: head.seq - head.savedSeq,
    seq: head.seq,
    before: planned.document,
    after,
  };
}

/** Brings the named documents up to date in one change set, and with them those that follow by themselves. */
export async function commitCatchUp(project: string, request: z.infer<typeof catchUpSchema>): Promise<Result<CatchUpReply, Refusal>> {
  const loaded = await loadPlanned(project);
  const wanted = new Map(request.documents.map(({ id, seq }) => [id, seq]));
  const moved = loaded.find(({ head }) => wanted.has(head.id) && wanted.get(head.id) !== head.seq);
  if (moved) return fail(movedOn(moved.head.name));
  const reasons = new Map(request.left?.map(({ id, reason }) => [id, reason]));
  const leave = leaveFollowers(loaded, new Set(wanted.keys()));
  const { plan, left } = await planMeasured(loaded, new Set(wanted.keys()), {
    reasonToLeave: (entry) => reasons.get(entry.id) ?? leave(entry),
    checksFollowers: true,
  });
  if (plan.documents.length === 0) return fail(refuse('moved-on', 'These documents are up to date already.'));
  const leftBehind = [...left, ...nameLeft(loaded, reasons, left)];
  return inOneTransaction(async (transaction) => {
    const changeSet = await createChangeSet({ project, message: 'Caught up', author: request.author, leftBehind }, transaction);
    const heads = await lockPlanned(plan, loaded, transaction);
    await writeChanges(planChanges(plan, heads, changeSet, request.author), transaction);
    return { changeSet, documents: listSaved(plan, heads) };
  }).then((done) => {
    if (done.ok) announce(project, done.value.documents);
    return done;
  });
}

/** Those that were left before any plan was made. */
function nameLeft(loaded: readonly LoadedDocument[], reasons: ReadonlyMap<string, string>, left: readonly LeftBehind[]): LeftBehind[] {
  return [...reasons].flatMap(([id, reason]) => {
    const name = loaded.find(({ head }) => head.id === id)?.head.name;
    return name === undefined || left.some((one) => one.id === id) ? [] : [{ id, name, reason }];
  });
}

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

/** Tells open pages of new revisions, and has the geometry built. */
export function announce(project: string, documents: readonly SavedDocument[]): void {
  for (const { id, revision } of documents) scheduleRegeneration(id, revision);
  publish({ type: 'saved', project, documents });
}

export function movedOn(name: string): Refusal {
  return refuse('moved-on', `${name} was changed since the preview was made. Nothing was changed; look at the preview again.`);
}
