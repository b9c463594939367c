/** Documents in the database: reading them, and writing states, edits, revisions and the link index. */
import { createHash } from 'node:crypto';
import { Op, type Transaction } from 'sequelize';
import type { Envelope, LoggedEdit } from '@/contract';
import { applyEdit, listRecords, stableJson, type Document, type TakenValue } from '@/core/document';
import { DocumentRow, EditRow, LinkRow, RevisionRow } from '../db/models';
import { pack, unpack } from '../db/packing';
import { refuse, RefusedTransaction } from './refusal';

/** Fingerprint of a document's content; equal content, equal hash. */
export function contentHash(document: Document): string {
  return createHash('sha256').update(stableJson(document)).digest('hex').slice(0, 40);
}

export function readState(row: DocumentRow): Document {
  return unpack<Document>(row.body);
}

/** The row, locked until the transaction ends. */
export function lockDocument(id: string, transaction: Transaction): Promise<DocumentRow | null> {
  return DocumentRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
}

/** Applies edits to a locked document and appends them to its log; the first that does not fit refuses them all. */
export async function applyLogged(row: DocumentRow, envelopes: readonly Envelope[], transaction: Transaction): Promise<LoggedEdit[]> {
  let document = readState(row);
  let { seq } = row;
  const logged: LoggedEdit[] = [];
  for (const envelope of envelopes) {
    const result = applyEdit(document, envelope.edit);
    if (!result.ok) throw new RefusedTransaction(refuse('edit-refused', result.failure.message, { key: envelope.key, failure: result.failure }));
    document = result.value.document;
    logged.push({ ...envelope, seq: ++seq, inverse: result.value.inverse });
  }
  if (logged.length > 0) {
    await appendEdits(row.id, logged, transaction);
    await row.update({ body: pack(document), name: document.name, seq }, { transaction });
  }
  return logged;
}

async function appendEdits(documentId: string, edits: readonly LoggedEdit[], transaction: Transaction): Promise<void> {
  await EditRow.bulkCreate(
    edits.map((edit) => ({ documentId, seq: edit.seq, editKey: edit.key, body: pack(edit), author: edit.author, createdAt: new Date() })),
    { transaction },
  );
}

export async function readEdits(documentId: string, afterSeq: number, transaction?: Transaction): Promise<LoggedEdit[]> {
  const rows = await EditRow.findAll({
    where: { documentId, seq: { [Op.gt]: afterSeq } },
    order: [['seq', 'ASC']],
    limit: 5000,
    transaction: transaction ?? null,
  });
  return rows.map((row) => unpack<LoggedEdit>(row.body));
}

export async function findKnownKeys(documentId: string, keys: readonly string[], transaction: Transaction): Promise<Set<string>> {
  const rows = await EditRow.findAll({ attributes: ['editKey'], where: { documentId, editKey: [...keys] }, transaction });
  return new Set(rows.map((row) => row.editKey));
}

export interface NewRevision {
  readonly document: Document;
  readonly published: Readonly<Record<string, TakenValue>>;
  readonly message: string;
  readonly author: string;
  readonly changeSet: string | null;
}

/** Writes the next revision, marks the state as saved, and renews the link index. Gives its number. */
export async function writeRevision(row: DocumentRow, revision: NewRevision, transaction: Transaction): Promise<number> {
  const number = row.revision + 1;
  await RevisionRow.create(
    {
      documentId: row.id,
      number,
      hash: contentHash(revision.document),
      body: pack(revision.document),
      published: pack(revision.published),
      message: revision.message,
      author: revision.author,
      changeSetId: revision.changeSet,
      createdAt: new Date(),
    },
    { transaction },
  );
  await row.update({ revision: number, savedSeq: row.seq }, { transaction });
  await indexLinks(revision.document, transaction);
  return number;
}

async function indexLinks(document: Document, transaction: Transaction): Promise<void> {
  await LinkRow.destroy({ where: { documentId: document.id }, transaction });
  const rows = listRecords(document, 'links', 'link').flatMap((link) =>
    listRecords(document, `${link.id}/takes`, 'take').map((take) => ({
      documentId: document.id,
      linkId: link.id,
      sourceId: link.source,
      parameterId: take.parameter,
      seenRevision: link.revision,
    })),
  );
  // One value can be taken twice through one link, under two names.
  const unique = new Map(rows.map((row) => [`${row.linkId} ${row.parameterId}`, row]));
  if (unique.size > 0) await LinkRow.bulkCreate([...unique.values()], { transaction });
}
