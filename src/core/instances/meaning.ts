/** What decides the values and the shape of a document: notes, colours, how values are shown, how stacks are read and where texts stand do not. */
import { stableJson, type Document, type DocumentRecord } from '../document';

/** Documents never change, so neither does what they mean. */
const known = new WeakMap<Document, string>();

/** Equal texts, equal values and equal shapes; of a document that is put into another, that is all that matters. */
export function meaningText(document: Document): string {
  const text = known.get(document) ?? readMeaning(document);
  known.set(document, text);
  return text;
}

const SHOWN_ONLY = ['note', 'pinned', 'offered', 'displayUnit', 'decimals', 'colour', 'stack', 'sourceName', 'policy'] as const;

/** Records that no value and no shape follows from. */
const READ_ONLY_LISTS: ReadonlySet<string> = new Set(['dismissals', 'paragraphs', 'charts', 'paging']);
const READ_ONLY: ReadonlySet<DocumentRecord['type']> = new Set(['dismissal', 'paragraph', 'chart', 'page']);

function readMeaning(document: Document): string {
  const records = Object.entries(document.records).flatMap(([id, record]) => (READ_ONLY.has(record.type) ? [] : [[id, strip(record)] as const]));
  const lists = Object.entries(document.lists).filter(([list]) => !READ_ONLY_LISTS.has(list));
  return stableJson({
    kind: document.kind,
    units: document.units,
    general: document.general,
    records: Object.fromEntries(records),
    lists: Object.fromEntries(lists),
  });
}

function strip(record: DocumentRecord): Record<string, unknown> {
  const rest: Record<string, unknown> = { ...record };
  for (const key of SHOWN_ONLY) Reflect.deleteProperty(rest, key);
  // Where the text of a dimension stands, and which revision a link has seen.
  if (record.type === 'dimension') Reflect.deleteProperty(rest, 'at');
  if (record.type === 'size-table') Reflect.deleteProperty(rest, 'results');
  if (record.type === 'link') return { ...rest, revision: 0, hash: '' };
  return rest;
}
