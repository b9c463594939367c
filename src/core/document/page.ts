/**
 * The page of a calc sheet: its texts, values, tables, checks and charts in one order. What the order does not name stands at the end: first
 * texts, then values, tables, guards, charts.
 */
import { listDriving, listIds, listRecords } from './access';
import type { Document } from './schema';

export const PAGE = 'page';

export type PageLine = ReturnType<typeof lineRecords>[number];

/** Everything that can stand on the page, in the order in which it does. */
export function listLines(document: Document): PageLine[] {
  const lines = new Map(lineRecords(document).map((record) => [record.id, record]));
  const [page] = listRecords(document, 'paging', 'page');
  const ordered = (page?.order ?? []).flatMap((id) => lines.get(id) ?? []);
  const named = new Set(ordered.map(({ id }) => id));
  return [...ordered, ...[...lines.values()].filter(({ id }) => !named.has(id))];
}

function lineRecords(document: Document) {
  return [
    ...listRecords(document, 'paragraphs', 'paragraph'),
    ...listDriving(document),
    ...listRecords(document, 'outsides', 'outside').flatMap(({ id }) => listRecords(document, `${id}/values`, 'parameter')),
    ...listRecords(document, 'tables', 'table'),
    ...listRecords(document, 'guards', 'guard'),
    ...listRecords(document, 'charts', 'chart'),
  ];
}

/** Behind another line, or at the end; before another one; by one place up or down. */
type LinePlace = { readonly after: string | undefined } | { readonly before: string } | { readonly by: 1 | -1 };

/** The order of the page with a line put behind another, or moved by one place. */
export function orderWith(document: Document, id: string, place: LinePlace): string[] {
  const order = listLines(document).map((line) => line.id);
  const at = order.indexOf(id);
  if ('by' in place) {
    const to = at + place.by;
    if (at < 0 || to < 0 || to >= order.length) return order;
    const without = order.filter((other) => other !== id);
    return [...without.slice(0, to), id, ...without.slice(to)];
  }
  const without = order.filter((other) => other !== id);
  const to = 'before' in place ? Math.max(without.indexOf(place.before), 0) : place.after === undefined ? without.length : without.indexOf(place.after) + 1;
  return [...without.slice(0, to), id, ...without.slice(to)];
}

/** Whether a document has a shape: parts and assemblies. */
export function hasShape({ kind }: Pick<Document, 'kind'>): boolean {
  return kind === 'part' || kind === 'assembly';
}

/** Whether anything stands in a document, or is used by it: what it comes to depends on other documents then. */
export function hasComponents(document: Pick<Document, 'lists'>): boolean {
  return listIds(document, 'components').length > 0;
}

/** What documents of each kind are called. */
export const KIND_WORDS: Readonly<Record<Document['kind'], string>> = { master: 'master', calc: 'calc sheet', part: 'part', assembly: 'assembly' };
