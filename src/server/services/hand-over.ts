/** Values handed over from their source: linked in several documents at once, in the name of somebody who works at the source. */
import type * as z from 'zod/mini';
import type { HandOverReply, handOverSchema } from '@/contract';
import { findRecord, listRecords, takenNames, type Document, type Edit, type Link, type Take, type TakenValue } from '@/core/document';
import { checkName } from '@/core/formula';
import { fail, succeed, type Result } from '@/core/kit';
import { DocumentRow, RevisionRow } from '../db/models';
import { unpack } from '../db/packing';
import { publish } from '../events';
import { lockDocuments, readState, writeChanges } from './document-store';
import { MEASURED, publishedOf } from './evaluations';
import { newId } from './ids';
import { offerEdits } from './offers';
import { inOneTransaction, refuse, RefusedTransaction, type Refusal } from './refusal';

type Request = z.infer<typeof handOverSchema>;

interface Source {
  readonly row: DocumentRow;
  readonly hash: string;
  readonly saved: Document;
  readonly published: Readonly<Record<string, TakenValue>>;
}

/** Links values as of the latest revision; an edit in every document, or in none. They become part of its next revision. */
export async function handOver(id: string, request: Request): Promise<Result<HandOverReply, Refusal>> {
  const row = await DocumentRow.findByPk(id);
  const revision = row && (await RevisionRow.findOne({ where: { documentId: id, number: row.revision }, include: MEASURED }));
  if (!row || !revision) return fail(refuse('not-found', 'There is no such document.'));
  const source: Source = {
    row,
    hash: revision.hash,
    saved: unpack<Document>(revision.body),
    published: publishedOf(revision),
  };
  const done = await inOneTransaction(async (transaction) => {
    const heads = await lockDocuments([id, ...request.to.map(({ document }) => document)], transaction);
    const offers = offerEdits(
      readState(heads.get(id) ?? row),
      request.to.flatMap(({ takes }) => takes.map(({ parameter }) => parameter)),
    );
    const changes = request.to.flatMap(({ document, takes }) => {
      const head = heads.get(document);
      if (!head || head.projectId !== row.projectId || document === id)
        throw new RefusedTransaction(refuse('not-found', 'There is no such document in this project.'));
      return [{ row: head, envelopes: [{ key: newId(), edit: linkEdit(readState(head), takes, source, request.policy), author: request.author }] }];
    });
    const own = heads.get(id);
    const offering = own && offers.length > 0 ? [{ row: own, envelopes: offers.map((edit) => ({ key: newId(), edit, author: request.author })) }] : [];
    const problems = request.to.flatMap(({ document, takes }) => {
      const head = heads.get(document);
      return head ? findNameProblems(readState(head), id, takes) : [];
    });
    if (problems.length > 0) return { problems, documents: [] };
    await writeChanges([...changes, ...offering], transaction);
    return { problems, documents: [...changes, ...offering].map(({ row: { id: changed, name, seq } }) => ({ id: changed, name, seq })) };
  });
  if (!done.ok) return done;
  const { documents, problems } = done.value;
  for (const { id: document, seq } of documents) publish({ type: 'edited', project: row.projectId, document, seq });
  return succeed({ problems, documents: documents.filter((entry) => entry.id !== id) });
}

/** Names that are not free where the values are to go, each with one that is. */
function findNameProblems(document: Document, source: string, wanted: Request['to'][number]['takes']) {
  const link = listRecords(document, 'links', 'link').find((one) => one.source === source);
  const kept = link ? listRecords(document, `${link.id}/takes`, 'take') : [];
  return wanted.flatMap(({ parameter, name }) => {
    const problem = checkName(name, takenNames(document, kept.find((take) => take.parameter === parameter)?.id));
    const offer = problem?.repairs?.[0]?.text;
    return problem ? [{ document: document.id, parameter, message: `${document.name}: ${problem.message}`, ...(offer === undefined ? {} : { offer }) }] : [];
  });
}

/** The link to the source with these values added, or changed in name. */
function linkEdit(document: Document, wanted: Request['to'][number]['takes'], { row, hash, saved, published }: Source, policy: Link['policy']): Edit {
  const known = listRecords(document, 'links', 'link').find(({ source }) => source === row.id);
  const link: Link = known ?? { type: 'link', id: newId(), source: row.id, sourceName: row.name, policy, revision: row.revision, hash };
  const kept = known ? listRecords(document, `${known.id}/takes`, 'take') : [];
  const fresh = wanted.map(({ parameter, name }): Take => {
    const before = kept.find((take) => take.parameter === parameter);
    if (before) return { ...before, name };
    const record = findRecord(saved, parameter, 'parameter') ?? findRecord(saved, parameter, 'take') ?? findRecord(saved, parameter, 'table');
    const value = Object.hasOwn(published, parameter) ? published[parameter] : undefined;
    if (!record || !value) throw new RefusedTransaction(refuse('not-found', `A value is in no revision of ${row.name} yet; save it first.`));
    return { type: 'take', id: newId(), link: link.id, parameter, name, sourceName: record.name, value };
  });
  const changed = new Set(fresh.map(({ id }) => id));
  return { type: 'link.put', link, takes: [...kept.filter(({ id }) => !changed.has(id)), ...fresh] };
}
