/**
 * Sizes of a document: rows of a table whose columns are values of it. A cell is a formula that counts instead of the value's own while the
 * document has that size; an empty one leaves it to that.
 */
import { findAny, findRecord, listRecords } from './access';
import type { Document, Formula, Parameter, Size, SizeTable } from './schema';

/** The id of the table, of which a document has one at most. */
export const SIZE_TABLE = 'size-table';

export function sizeTable(document: Document): SizeTable | undefined {
  return findRecord(document, SIZE_TABLE, 'size-table');
}

export function listSizes(document: Document): Size[] {
  return listRecords(document, 'sizes', 'size');
}

/** The size that the document has; undefined while it is as written. */
export function usedSize(document: Document): Size | undefined {
  const used = sizeTable(document)?.used;
  return used === undefined ? undefined : findRecord(document, used, 'size');
}

export function findSize(document: Document, name: string): Size | undefined {
  const wanted = name.trim().toLowerCase();
  return listSizes(document).find((size) => size.name.toLowerCase() === wanted);
}

/** The values that sizes may set, in the order of the columns. */
export function sizeColumns(document: Document): Parameter[] {
  return (sizeTable(document)?.columns ?? []).flatMap((id) => findRecord(document, id, 'parameter') ?? []);
}

/** The formula that counts now: that of the used size, or the value's own. */
export function formulaNow(document: Document, parameter: Parameter): Formula {
  return cellOf(document, parameter.id) ?? parameter.formula;
}

/** What the used size says of a value; undefined where it leaves it as written. */
export function cellOf(document: Document, id: string): Formula | undefined {
  const cells = usedSize(document)?.cells;
  return cells && Object.hasOwn(cells, id) ? cells[id] : undefined;
}

/** The document in one of its sizes, or as written: a view of it, in which nothing else is another. */
export function inSize(document: Document, size: string | undefined): Document {
  const table = sizeTable(document);
  if (!table || table.used === size || (size !== undefined && findAny(document, size)?.type !== 'size')) return document;
  const { used: _, ...rest } = table;
  return { ...document, records: { ...document.records, [table.id]: size === undefined ? rest : { ...rest, used: size } } };
}
