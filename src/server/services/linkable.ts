/** What a document could link: values of the other documents of its project, as of their latest revisions. */
import type { LinkableReply, LinkableValue } from '@/contract';
import { listNamed, showTaken } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { DocumentRow } from '../db/models';
import { loadPlanned } from './planned-documents';
import { refuse, type Refusal } from './refusal';

/** For completion while a formula is typed: more than this nobody looks through. */
const MOST = 3000;

/** User parameters and tables, offered and pinned ones first. */
export async function listLinkable(id: string): Promise<Result<LinkableReply, Refusal>> {
  const row = await DocumentRow.findByPk(id, { attributes: ['projectId'] });
  if (!row) return fail(refuse('not-found', 'There is no such document.'));
  const loaded = await loadPlanned(row.projectId);
  const values = loaded.flatMap(({ head, planned: { document, published, hash, revision } }) => {
    if (head.id === id) return [];
    return listNamed(document).flatMap((record): (LinkableValue & { readonly rank: number })[] => {
      const value = Object.hasOwn(published, record.id) ? published[record.id] : undefined;
      // What the other one takes itself is better linked where it is made.
      if (
        !value ||
        value.kind === 'refused' ||
        record.type === 'take' ||
        (record.type === 'parameter' && record.owner !== undefined && record.offered !== true)
      )
        return [];
      const isOffered = record.type === 'table' || record.offered === true;
      const rank = (isOffered ? 2 : 0) + (record.type === 'parameter' && record.pinned === true ? 1 : 0);
      const { name } = record;
      return [{ document: head.id, documentName: document.name, revision, hash, parameter: record.id, name, shown: showTaken(value), value, isOffered, rank }];
    });
  });
  values.sort((a, b) => b.rank - a.rank);
  return succeed({ values: values.slice(0, MOST).map(({ rank: _, ...value }) => value) });
}
