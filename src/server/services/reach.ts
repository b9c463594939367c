/** What one value drives, and what it is driven by, throughout its project. */
import type { ReachedDocument, ReachReply } from '@/contract';
import { findAny, findStep, isNamed, type Document } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { findReached, linkedNode, reachOf, type Reached } from '@/core/links';
import { loadPlanned } from './planned-documents';
import { refuse, type Refusal } from './refusal';

/** As of the present states of the documents, saved or not. */
export async function readReach(project: string, document: string, value: string): Promise<Result<ReachReply, Refusal>> {
  const all = (await loadPlanned(project)).map(({ planned }) => planned.document);
  if (!all.some(({ id }) => id === document)) return fail(refuse('not-found', 'There is no such document.'));
  // A value gets nowhere but where its document is taken, and comes from nowhere but what that takes.
  const linked = reachOf(all.map(linkedNode), document);
  const near = all.filter(({ id }) => linked.has(id));
  const { drives, reads } = findReached(near, document, value);
  return succeed({ drives: near.flatMap((one) => describe(one, drives.get(one.id))), reads: near.flatMap((one) => describe(one, reads.get(one.id))) });
}

function describe(document: Document, reached: Reached | undefined): ReachedDocument[] {
  if (!reached) return [];
  const nameOf = (id: string): string => {
    const record = findAny(document, id);
    return record && isNamed(record) ? record.name : id;
  };
  return [
    {
      id: document.id,
      name: document.name,
      values: reached.values.map((id) => ({ id, name: nameOf(id) })),
      steps: reached.steps.map((id) => ({ id, name: findStep(document, id)?.name ?? id })),
    },
  ];
}
