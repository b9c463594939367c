import { hashOfContent, type Document } from '@/core/document';
import { meaningText } from '@/core/instances';

/** Documents never change, so neither do their keys: a table asks for them cell by cell. */
const keys = new WeakMap<Document, string>();

/** Equal for documents that are built alike. */
export function keyOfState(document: Document): string {
  const key = keys.get(document) ?? hashOfContent(meaningText(document));
  keys.set(document, key);
  return key;
}
