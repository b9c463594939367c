/** Which snapshots a document stands on. */
import { listRecords, type Component, type Document } from '../document';
import type { InstanceSource } from './source';

export type Pin = Pick<Component, 'source' | 'revision'>;

/** `id@revision`. */
export function pinText({ source, revision }: Pin): string {
  return `${source}@${revision}`;
}

/** Each snapshot that the document stands on, once, through those that are at hand. */
export function listPins(document: Document, source: Pick<InstanceSource, 'snapshot'>): Pin[] {
  const found = new Map<string, Pin>();
  const wave = [document];
  for (let next = wave.pop(); next; next = wave.pop()) {
    for (const { source: id, revision } of listRecords(next, 'components', 'component')) {
      const pin = { source: id, revision };
      if (found.has(pinText(pin))) continue;
      found.set(pinText(pin), pin);
      const inner = source.snapshot(id, revision);
      if (inner) wave.push(inner);
    }
  }
  return [...found.values()];
}
