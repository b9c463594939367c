/** What one value drives throughout its project. */
import type { ReachReply } from '@/contract';
import { findRecord, findStep, listRecords } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { findReached, reachOf } from '@/core/links';
import { loadPlanned } from './planned-documents';
import { refuse, type Refusal } from './refusal';

/** As of the present states of the documents, saved or not. */
export async function readReach(project: string, document: string, value: string): Promise<Result<ReachReply, Refusal>> {
  const all = (await loadPlanned(project)).map(({ planned }) => planned.document);
  if (!all.some(({ id }) => id === document)) return fail(refuse('not-found', 'There is no such document.'));
  // A value gets nowhere but where its document is taken.
  const nodes = all.map((one) => ({ id: one.id, sources: listRecords(one, 'links', 'link').map(({ source }) => source) }));
  const takers = reachOf(nodes, document, 'takers');
  const near = all.filter(({ id }) => takers.has(id));
  const reached = findReached(near, document, value);
  return succeed({
    documents: near.flatMap((one) => {
      const entry = reached.get(one.id);
      if (!entry) return [];
      const nameOf = (id: string): string => (findRecord(one, id, 'parameter') ?? findRecord(one, id, 'take') ?? findRecord(one, id, 'table'))?.name ?? id;
      return [
        {
          id: one.id,
          name: one.name,
          values: entry.values.map((id) => ({ id, name: nameOf(id) })),
          steps: entry.steps.map((id) => ({ id, name: findStep(one, id)?.name ?? id })),
        },
      ];
    }),
  });
}
