/** Documents with all that they stand on, as they are handed to workers: these have no library to look in. */
import type { Document } from '../document';
import { listPins, pinText } from './pins';
import type { InstanceSource } from './source';

/** A document with what its components stand for, by `id@revision`. Nobody keeps it: at rest, documents name their snapshots. */
export interface CompleteDocument extends Document {
  readonly stands?: Readonly<Record<string, Document>>;
}

/** The document itself where it has no components. */
export function complete(document: Document, source: Pick<InstanceSource, 'snapshot'>): CompleteDocument {
  const pins = listPins(document, source);
  if (pins.length === 0) return document;
  const stands: Record<string, Document> = {};
  for (const pin of pins) {
    const snapshot = source.snapshot(pin.source, pin.revision);
    if (snapshot) stands[pinText(pin)] = snapshot;
  }
  return { ...document, stands };
}
