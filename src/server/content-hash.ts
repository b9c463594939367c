/** Fingerprints of what documents say. */
import { createHash } from 'node:crypto';
import { contentText, type Document } from '@/core/document';

/** Documents never change, so neither do their hashes. */
const hashes = new WeakMap<Document, string>();

/** Fingerprint of a document's content; equal content, equal hash. */
export function contentHash(document: Document): string {
  const known = hashes.get(document);
  if (known !== undefined) return known;
  const hash = createHash('sha256').update(contentText(document)).digest('hex').slice(0, 40);
  hashes.set(document, hash);
  return hash;
}
