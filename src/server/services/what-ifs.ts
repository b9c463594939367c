/** What-ifs of documents: kept beside the document, in no revision; and what one would do to all that takes from it. */
import type { Transaction } from 'sequelize';
import type * as z from 'zod/mini';
import type { CatchUpPreviewReply, changeWhatIfSchema, previewWhatIfSchema, WhatIfsReply } from '@/contract';
import { MOST_WHAT_IFS, type WhatIf, type WhatIfsOfDocument } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { calculate } from '../calculation/run';
import { contentHash } from '../content-hash';
import { DocumentRow, WhatIfRow } from '../db/models';
import { pack, unpack } from '../db/packing';
import { publishWithGeometry } from '../jobs';
import { previewInstead } from './catch-up-preview';
import { lockDocument, readState } from './document-store';
import { inOneTransaction, refuse, RefusedTransaction, type Refusal } from './refusal';
import { readSnapshots } from './snapshots';

const NOT_THERE = refuse('not-found', 'There is no such document.');

export async function readWhatIfs(id: string): Promise<Result<WhatIfsReply, Refusal>> {
  const there = await DocumentRow.findByPk(id, { attributes: ['id'] });
  if (!there) return fail(NOT_THERE);
  const row = await WhatIfRow.findByPk(id);
  return succeed({ whatIfs: row ? unpack<WhatIf[]>(row.body) : [] });
}

/** Those of several documents, in the order of their ids. */
export async function listWhatIfs(documents: readonly string[]): Promise<WhatIfsOfDocument[]> {
  const rows = await WhatIfRow.findAll({ where: { documentId: [...documents] }, order: ['documentId'] });
  return rows.map((row) => ({ document: row.documentId, whatIfs: unpack<WhatIf[]>(row.body) })).filter(({ whatIfs }) => whatIfs.length > 0);
}

export async function insertWhatIfs(all: readonly WhatIfsOfDocument[], transaction: Transaction): Promise<void> {
  await WhatIfRow.bulkCreate(
    all.map(({ document, whatIfs }) => ({ documentId: document, body: pack(whatIfs) })),
    { transaction },
  );
}

export async function changeWhatIf(id: string, change: z.infer<typeof changeWhatIfSchema>): Promise<Result<WhatIfsReply, Refusal>> {
  return inOneTransaction(async (transaction) => {
    const document = await lockDocument(id, transaction);
    if (!document) throw new RefusedTransaction(NOT_THERE);
    const row = await WhatIfRow.findByPk(id, { transaction });
    const known = row ? unpack<WhatIf[]>(row.body) : [];
    const whatIfs = 'put' in change ? putWhatIf(known, change.put) : known.filter((one) => one.id !== change.remove);
    await WhatIfRow.upsert({ documentId: id, body: pack(whatIfs) }, { transaction });
    return { whatIfs };
  });
}

function putWhatIf(known: readonly WhatIf[], put: WhatIf): WhatIf[] {
  if (known.some(({ id }) => id === put.id)) return known.map((one) => (one.id === put.id ? put : one));
  if (known.length >= MOST_WHAT_IFS) throw new RefusedTransaction(refuse('too-large', `There are ${MOST_WHAT_IFS} what-ifs already. Delete one first.`));
  return [...known, put];
}

/** All that takes from the document, as it would be with the what-if: nothing is changed. */
export async function previewWhatIf(id: string, { whatIf, isMeasured }: z.infer<typeof previewWhatIfSchema>): Promise<Result<CatchUpPreviewReply, Refusal>> {
  const row = await DocumentRow.findByPk(id);
  if (!row) return fail(NOT_THERE);
  const present = readState(row);
  const stands = await readSnapshots([present]);
  const document = await calculate('asWhatIf', { document: present, whatIf, together: { stands, built: new Map() } }, row.size);
  const published = await publishWithGeometry(document, row.size);
  const instead = { document, revision: row.revision + 1, hash: contentHash(document), published, isFresh: true };
  return succeed(await previewInstead(row.projectId, instead, isMeasured === true));
}
