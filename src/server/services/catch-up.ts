/**
 * Bringing documents up to date in one change set. The plan is computed outside the transaction; the transaction locks the heads in the order of
 * their ids, checks that none has moved since, and writes the edits and one new revision of each document: all or none.
 */
import type * as z from 'zod/mini';
import type { CatchUpReply, catchUpSchema } from '@/contract';
import { fail, type Result } from '@/core/kit';
import type { LeftBehind } from '@/core/links';
import { announce } from './announce';
import { writeChanges } from './document-store';
import { loadPlanned, type LoadedDocument } from './planned-documents';
import { leaveFollowers, planMeasured } from './planning';
import { inOneTransaction, refuse, type Refusal } from './refusal';
import { createChangeSet, listSaved, lockPlanned, movedOn, planChanges } from './write-plan';

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
