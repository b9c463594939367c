/** What a document takes from others: through links, and as components. */
import { listRecords, type Component, type Document, type Link } from '../document';

/** Links and components, in the order of the document. */
export function listSources(document: Document): readonly (Link | Component)[] {
  return [...listRecords(document, 'links', 'link'), ...listRecords(document, 'components', 'component')];
}
