/** Contents of the files that documents hold: kept once by their hashes, apart from documents, edits and revisions. */
import { Op, type Transaction } from 'sequelize';
import { listHashes, takeContentsOut } from '@/core/document';
import { FileRow, FileUseRow } from '../db/models';
import { refuse, RefusedTransaction } from './refusal';

export async function readFileContent(hash: string): Promise<string | undefined> {
  const row = await FileRow.findByPk(hash);
  return row?.content;
}

export async function readContents(hashes: Iterable<string>): Promise<Map<string, string>> {
  const rows = await FileRow.findAll({ where: { hash: [...hashes] } });
  return new Map(rows.map(({ hash, content }) => [hash, content]));
}

/** Characters of the contents together. */
export async function sizeOfContents(hashes: Iterable<string>, transaction: Transaction): Promise<number> {
  const wanted = [...hashes];
  return wanted.length === 0 ? 0 : (await FileRow.sum('size', { where: { hash: wanted }, transaction })) || 0;
}

/** Keeps the contents that come with data of a document, and gives the data with hashes in their place; refuses a hash of no content. */
export async function stowContents<T>(data: T, documentId: string, transaction: Transaction): Promise<T> {
  const { data: stowed, contents } = takeContentsOut(data);
  await keepContents(documentId, listHashes(stowed), contents, transaction);
  return stowed;
}

/** Keeps contents, and that a document, which has its row, names these hashes. */
export async function keepContents(
  documentId: string,
  named: ReadonlySet<string>,
  contents: ReadonlyMap<string, string>,
  transaction: Transaction,
): Promise<void> {
  const hashes = [...named];
  if (hashes.length === 0) return;
  await FileRow.bulkCreate(
    [...contents].map(([hash, content]) => ({ hash, content, size: content.length })),
    { ignoreDuplicates: true, transaction },
  );
  const known = await FileRow.findAll({ attributes: ['hash'], where: { hash: hashes }, transaction });
  if (known.length < hashes.length) {
    throw new RefusedTransaction(refuse('bad-file', 'A file is named whose content is not kept here: import it again, from the file itself.'));
  }
  await FileUseRow.bulkCreate(
    hashes.map((hash) => ({ documentId, hash })),
    { ignoreDuplicates: true, transaction },
  );
}

/** Lets go of the contents that no document names any more. */
export async function purgeFiles(): Promise<void> {
  const used = await FileUseRow.findAll({ attributes: ['hash'], group: ['hash'] });
  await FileRow.destroy({ where: { hash: { [Op.notIn]: used.map(({ hash }) => hash) } } });
}
