/** What two states of one document differ in, told by the identity of their records and lists. */
import { findAny, type Document, type DocumentDiff } from '../document';

export function diffDocuments(before: Document, after: Document): DocumentDiff {
  const ids = new Set([...Object.keys(before.records), ...Object.keys(after.records)]);
  const records = [...ids].flatMap((id) => {
    const [one, other] = [findAny(before, id) ?? null, findAny(after, id) ?? null];
    return one === other ? [] : [{ id, before: one, after: other }];
  });
  const lists = [...new Set([...Object.keys(before.lists), ...Object.keys(after.lists)])].filter((list) => before.lists[list] !== after.lists[list]);
  return { records, lists, fields: [...(before.name === after.name ? [] : ['name' as const]), ...(before.units === after.units ? [] : ['units' as const])] };
}
