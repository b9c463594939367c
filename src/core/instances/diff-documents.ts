/** What two states of one document differ in, told by the identity of their records and lists. */
import { findAny, type Document, type DocumentDiff } from '../document';

const FIELDS = ['name', 'units', 'general'] as const;

export function diffDocuments(before: Document, after: Document): DocumentDiff {
  const ids = new Set([...Object.keys(before.records), ...Object.keys(after.records)]);
  const records = [...ids].flatMap((id) => {
    const [one, other] = [findAny(before, id) ?? null, findAny(after, id) ?? null];
    return one === other ? [] : [{ id, before: one, after: other }];
  });
  const lists = [...new Set([...Object.keys(before.lists), ...Object.keys(after.lists)])].filter((list) => before.lists[list] !== after.lists[list]);
  return { records, lists, fields: changedFields(before, after) };
}

export function changedFields(before: Document, after: Document): DocumentDiff['fields'] {
  return FIELDS.filter((field) => before[field] !== after[field]);
}
