/** Documents as their revisions have them, for the components that stand for these: a revision never changes, so what was read is kept. */
import { LRUCache } from 'lru-cache';
import { Op } from 'sequelize';
import { hasComponents, listRecords, type Document } from '@/core/document';
import { listPins, pinText, type Pin } from '@/core/instances';
import { RevisionRow } from '../db/models';
import { unpack } from '../db/packing';

/** Packed bytes of snapshots that are kept unpacked. */
const MOST_KEPT = 16_000_000;

// On globalThis: route handlers and start-up are separate bundles.
const shared = globalThis as typeof globalThis & { warpbeamSnapshots?: LRUCache<string, Document> };

/** Snapshots by `id@revision`. */
export type Snapshots = Readonly<Record<string, Document>>;

async function readPins(pins: readonly Pin[]): Promise<Snapshots> {
  const kept = (shared.warpbeamSnapshots ??= new LRUCache({ maxSize: MOST_KEPT }));
  const found: Record<string, Document> = {};
  const missing: Pin[] = [];
  for (const pin of pins) {
    const known = kept.get(pinText(pin));
    if (known) found[pinText(pin)] = known;
    else missing.push(pin);
  }
  if (missing.length === 0) return found;
  const rows = await RevisionRow.findAll({
    attributes: ['documentId', 'number', 'body'],
    where: { [Op.or]: missing.map(({ source, revision }) => ({ documentId: source, number: revision })) },
  });
  for (const row of rows) {
    const pin = pinText({ source: row.documentId, revision: row.number });
    const document = unpack<Document>(row.body);
    kept.set(pin, document, { size: Math.max(1, row.body.length) });
    found[pin] = document;
  }
  return found;
}

/** Everything that the components of these documents stand for, down through sub-assemblies; of `also`, too. */
export async function readSnapshots(documents: readonly Document[], also: readonly Pin[] = []): Promise<Snapshots> {
  let found: Snapshots = {};
  const find = { snapshot: (source: string, revision: number) => found[pinText({ source, revision })] };
  for (;;) {
    const roots = [...documents, ...also.flatMap((pin) => find.snapshot(pin.source, pin.revision) ?? [])];
    const wanted = new Map([...also, ...roots.flatMap((document) => listPins(document, find))].map((pin) => [pinText(pin), pin]));
    const missing = [...wanted].flatMap(([text, pin]) => (Object.hasOwn(found, text) ? [] : pin));
    const read = missing.length === 0 ? {} : await readPins(missing);
    if (Object.keys(read).length === 0) return found;
    found = { ...found, ...read };
  }
}

/** What plans of catching up need of a project: what its components stand for, and what they would stand for at the latest revisions. */
export async function readStands(documents: readonly { readonly document: Document; readonly revision: number }[]): Promise<Snapshots> {
  const hosts = documents.flatMap(({ document }) => (hasComponents(document) ? document : []));
  if (hosts.length === 0) return {};
  const sources = new Set(hosts.flatMap((document) => listRecords(document, 'components', 'component').map(({ source }) => source)));
  const latest = documents.flatMap(({ document, revision }) => (sources.has(document.id) && revision > 0 ? { source: document.id, revision } : []));
  return readSnapshots(hosts, latest);
}
