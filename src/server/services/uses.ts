/** Where the values of a document are taken, from the index of links: one query. */
import { database } from '../db/connect';
import { DocumentRow, LinkRow } from '../db/models';

export interface ValueUse {
  readonly parameter: string;
  readonly document: string;
  readonly name: string;
}

/** As of the present states, saved or not. */
export async function listUses(sourceId: string): Promise<ValueUse[]> {
  database();
  const links = await LinkRow.findAll({
    attributes: ['documentId', 'linkId', 'parameterId'],
    where: { sourceId },
    include: { model: DocumentRow, as: 'document', attributes: ['name'] },
    limit: 20_000,
  });
  return links.map((link) => ({
    parameter: link.parameterId,
    document: link.documentId,
    name: link.document?.name ?? '',
  }));
}
