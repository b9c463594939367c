/** What was found as the sizes of documents were checked: pages build, this keeps. */
import type { CheckedSize, KeptSizeCheck, SizeChecksReply } from '@/contract';
import { listSizes } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { DocumentRow, SizeCheckRow } from '../db/models';
import { pack, unpack } from '../db/packing';
import { lockDocument, readState } from './document-store';
import { inOneTransaction, refuse, RefusedTransaction, type Refusal } from './refusal';

type Checked = SizeChecksReply['checked'];

export async function readSizeChecks(id: string): Promise<Result<SizeChecksReply, Refusal>> {
  const there = await DocumentRow.findByPk(id, { attributes: ['id'] });
  if (!there) return fail(refuse('not-found', 'There is no such document.'));
  const row = await SizeCheckRow.findByPk(id);
  return succeed({ checked: row ? unpack<Checked>(row.body) : {} });
}

/** In the place of what was known of these sizes; of sizes that are gone nothing is kept. */
export async function keepSizeChecks(id: string, checked: Readonly<Record<string, CheckedSize>>): Promise<Result<SizeChecksReply, Refusal>> {
  return inOneTransaction(async (transaction) => {
    const document = await lockDocument(id, transaction);
    if (!document) throw new RefusedTransaction(refuse('not-found', 'There is no such document.'));
    const row = await SizeCheckRow.findByPk(id, { transaction });
    const known = row ? unpack<Checked>(row.body) : {};
    const at = new Date().toISOString();
    const all: Record<string, KeptSizeCheck> = {};
    for (const { id: size } of listSizes(readState(document))) {
      const fresh = Object.hasOwn(checked, size) ? checked[size] : undefined;
      const kept = fresh ? { ...fresh, revision: document.revision, at } : Object.hasOwn(known, size) ? known[size] : undefined;
      if (kept) all[size] = kept;
    }
    await SizeCheckRow.upsert({ documentId: id, body: pack(all) }, { transaction });
    return { checked: all };
  });
}
