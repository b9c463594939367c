/** Where the values of a document are taken, from the index of links: one query. */
import { database } from '../db/connect';
import { DocumentRow, LinkRow } from '../db/models';

export interface ValueUse {
  readonly parameter: string;
  readonly document: string;
  readonly name: string;
}

/** As of the latest revisions: a link that is not saved yet takes nothing from others' view. */
export async function listUses(sourceId: string): Promise<ValueUse[]> {
  database();
  const links = await LinkRow.findAll({ where: { sourceId }, limit: 20_000 });
  const documents = await DocumentRow.findAll({ attributes: ['id', 'name'], where: { id: [...new Set(links.map((link) => link.documentId))] } });
  const names = new Map(documents.map((row) => [row.id, row.name]));
  return links.map((link) => ({ parameter: link.parameterId, document: link.documentId, name: names.get(link.documentId) ?? '' }));
}
