/** Documents in the database: reading them, and writing states, edits, revisions and the link index. */
import { col, fn, Op, type Transaction } from 'sequelize';
import type { Envelope, LoggedEdit } from '@/contract';
import { applyEdit, LIMITS, listFiles, type Document, type TakenValue } from '@/core/document';
import { listSources } from '@/core/links';
import { listLinkedValues, type LinkedValue } from '../calculation/operations';
import { contentHash } from '../content-hash';
import { DocumentRow, EditRow, LinkRow, RevisionRow } from '../db/models';
import { pack, packText, unpack } from '../db/packing';
import { sizeOfContents, stowContents } from './files';
import { refuse, RefusedTransaction, type Refusal } from './refusal';

export function readState(row: DocumentRow): Document {
  return unpack<Document>(row.body);
}

/** The row, locked until the transaction ends. */
export function lockDocument(id: string, transaction: Transaction): Promise<DocumentRow | null> {
  return DocumentRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE, attributes: LOCKED });
}

/** The same for several, locked in the order of their ids: two who want the same documents wait for, not on, each other. */
export async function lockDocuments(ids: readonly string[], transaction: Transaction): Promise<Map<string, DocumentRow>> {
  const rows = await DocumentRow.findAll({ where: { id: [...ids] }, order: [['id', 'ASC']], transaction, lock: transaction.LOCK.UPDATE, attributes: LOCKED });
  return new Map(rows.map((row) => [row.id, row]));
}

const LOCKED = { exclude: ['thumbnail'] };

/** What is to be written of one locked document: edits, then a revision of what they make. */
export interface DocumentChange {
  readonly row: DocumentRow;
  readonly envelopes: readonly Envelope[];
  readonly revision?: NewRevision;
}

export interface NewRevision {
  readonly published: Readonly<Record<string, TakenValue>>;
  readonly message: string;
  readonly author: string;
  readonly changeSet: string | null;
  /** Key of the request, where it is one that may come twice. */
  readonly saveKey?: string;
}

/** Rows that go into one statement: a statement has a greatest size. */
export const CHUNK = 50;

/**
 * Writes the edits, states, revisions and link index of several documents; the first edit that does not fit refuses
 * them all. The rows have the new numbers afterwards. Gives the edits with theirs.
 */
export async function writeChanges(changes: readonly DocumentChange[], transaction: Transaction): Promise<LoggedEdit[]> {
  const logged: LoggedEdit[] = [];
  for (let from = 0; from < changes.length; from += CHUNK) logged.push(...(await writeChunk(changes.slice(from, from + CHUNK), transaction)));
  return logged;
}

async function writeChunk(changes: readonly DocumentChange[], transaction: Transaction): Promise<LoggedEdit[]> {
  const stowed: DocumentChange[] = [];
  for (const change of changes) stowed.push({ ...change, envelopes: await stowContents(change.envelopes, change.row.id, transaction) });
  const applied = stowed.map((change) => ({ ...change, ...applyAll(change) }));
  const now = new Date();
  const edits = applied.flatMap(({ row, logged }) =>
    logged.map((edit) => ({ documentId: row.id, seq: edit.seq, editKey: edit.key, body: pack(edit), author: edit.author, createdAt: now })),
  );
  if (edits.length > 0) await EditRow.bulkCreate(edits, { transaction });
  for (const { row, document, logged, revision } of applied) {
    const text = logged.length > 0 || row.size === 0 ? JSON.stringify(document) : undefined;
    // As it is when it is exported: with the contents of its files.
    const hashes = listFiles(document).flatMap(({ hash }) => hash ?? []);
    const size = text === undefined ? row.size : text.length + (await sizeOfContents(hashes, transaction));
    if (text !== undefined) checkDocumentSize(document.name, size);
    row.set({
      size,
      body: logged.length > 0 && text !== undefined ? packText(text) : row.body,
      name: document.name,
      seq: row.seq + logged.length,
      ...(revision ? { revision: row.revision + 1, savedSeq: row.seq + logged.length } : {}),
    });
  }
  const revisions = applied.flatMap(({ row, document, revision }) => (revision ? [revisionRow(row, document, revision, now)] : []));
  if (revisions.length > 0) await RevisionRow.bulkCreate(revisions, { transaction });
  await DocumentRow.bulkCreate(
    applied.map(({ row }) => row.get({ plain: true })),
    { updateOnDuplicate: ['body', 'name', 'seq', 'revision', 'savedSeq', 'size'], transaction },
  );
  await checkProjectSizes(
    applied.map(({ row }) => row.projectId),
    transaction,
  );
  const relinked = applied.filter(
    ({ before, document, revision }) => revision !== undefined || before.lists !== document.lists || touchesLinks(before, document),
  );
  await indexLinks(
    relinked.map(({ document }) => document),
    transaction,
  );
  return applied.flatMap(({ logged }) => logged);
}

/** Refuses a document that is larger than what is kept. */
export function checkDocumentSize(name: string, size: number): void {
  if (size > LIMITS.documentSize) throw new RefusedTransaction(tooLarge(name, size, LIMITS.documentSize));
}

/** A project is never larger than what can be exported and read again. */
export async function checkProjectSizes(projects: readonly string[], transaction: Transaction): Promise<void> {
  for (const projectId of new Set(projects)) {
    const size = (await DocumentRow.sum('size', { where: { projectId }, transaction })) || 0;
    if (size > LIMITS.projectSize) throw new RefusedTransaction(tooLarge('The project', size, LIMITS.projectSize));
  }
}

function tooLarge(what: string, size: number, most: number): Refusal {
  const millions = (characters: number): string => `${(characters / 1e6).toFixed(1)} million characters`;
  return refuse('too-large', `${what} would have ${millions(size)}; at most ${millions(most)} are kept. Nothing was changed.`);
}

function applyAll({ row, envelopes }: DocumentChange): { readonly before: Document; readonly document: Document; readonly logged: LoggedEdit[] } {
  const before = readState(row);
  let document = before;
  const logged: LoggedEdit[] = [];
  for (const envelope of envelopes) {
    const result = applyEdit(document, envelope.edit);
    if (!result.ok) throw new RefusedTransaction(refuse('edit-refused', result.failure.message, { key: envelope.key, failure: result.failure }));
    document = result.value.document;
    logged.push({ ...envelope, seq: row.seq + logged.length + 1, inverse: result.value.inverse });
  }
  return { before, document, logged };
}

function revisionRow(row: DocumentRow, document: Document, revision: NewRevision, createdAt: Date) {
  return {
    documentId: row.id,
    number: row.revision,
    hash: contentHash(document),
    body: row.body,
    published: pack(revision.published),
    message: revision.message,
    author: revision.author,
    changeSetId: revision.changeSet,
    seq: row.seq,
    saveKey: revision.saveKey ?? null,
    createdAt,
  };
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

/** The latest edits, oldest first: at most so many, and no more than so many bytes of them, packed; one of them at least. */
export async function readLatestEdits(documentId: string, most: number, bytes: number): Promise<LoggedEdit[]> {
  const sizes = await EditRow.findAll({
    attributes: ['seq', [fn('LENGTH', col('body')), 'size']],
    where: { documentId },
    order: [['seq', 'DESC']],
    limit: most,
  });
  let left = bytes;
  const within = sizes.filter((row, i) => (left -= Number(row.get('size'))) >= 0 || i === 0);
  const oldest = within.at(-1);
  return oldest ? readEdits(documentId, oldest.seq - 1) : [];
}

export async function findKnownKeys(documentId: string, keys: readonly string[], transaction: Transaction): Promise<Set<string>> {
  const rows = await EditRow.findAll({ attributes: ['editKey'], where: { documentId, editKey: [...keys] }, transaction });
  return new Set(rows.map((row) => row.editKey));
}

function touchesLinks(before: Document, after: Document): boolean {
  return listSources(after).some((source) => before.records[source.id] !== source);
}

async function indexLinks(documents: readonly Document[], transaction: Transaction): Promise<void> {
  if (documents.length === 0) return;
  await LinkRow.destroy({ where: { documentId: documents.map(({ id }) => id) }, transaction });
  await writeLinkIndex(documents.flatMap(listLinkedValues), transaction);
}

export async function writeLinkIndex(links: readonly LinkedValue[], transaction: Transaction): Promise<void> {
  if (links.length > 0) await LinkRow.bulkCreate([...links], { transaction });
}
