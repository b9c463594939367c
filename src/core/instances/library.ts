/** Snapshots that have been read, and what was built of instances: an {@link InstanceSource} that grows. */
import type { Document, DocumentValues, EarlierState } from '../document';
import type { CompleteDocument } from './complete';
import type { InstanceKey } from './drive-document';
import { listPlaced } from './list-placed';
import { openValues } from './instances';
import { listPins, pinText, type Pin } from './pins';
import type { BuiltInstance, InstanceSource } from './source';

export class InstanceLibrary implements InstanceSource {
  private readonly snapshots = new Map<string, Document>();
  private readonly known = new Map<InstanceKey, BuiltInstance>();

  constructor(snapshots: Readonly<Record<string, Document>> = {}) {
    for (const [pin, document] of Object.entries(snapshots)) this.snapshots.set(pin, document);
  }

  snapshot(source: string, revision: number): Document | undefined {
    return this.snapshots.get(pinText({ source, revision }));
  }

  add(pin: Pin, document: Document): void {
    this.snapshots.set(pinText(pin), document);
  }

  built(key: InstanceKey): BuiltInstance | undefined {
    return this.known.get(key);
  }

  keep(key: InstanceKey, built: BuiltInstance): void {
    this.known.set(key, built);
  }

  /** What the components of a document stand for, down through sub-assemblies, as far as it is not at hand. */
  missing(document: Document): Pin[] {
    return listPins(document, this).filter((pin) => !this.snapshots.has(pinText(pin)));
  }
}

/** The values of a document that was handed on with what it stands on. */
export function openComplete(document: CompleteDocument): DocumentValues {
  const { stands = {} } = document;
  return openValues(document, { snapshot: (source, revision) => stands[pinText({ source, revision })], built: () => undefined });
}

/** Documents as they are, whatever the revision, but for `earlier` ones: where a project is evaluated by itself. */
export function headsOf(
  documents: readonly Document[],
  built: InstanceSource['built'] = () => undefined,
  earlier: readonly EarlierState[] = [],
): InstanceSource {
  const byId = new Map(documents.map((document) => [document.id, document]));
  const byPin = new Map(earlier.map(({ document, revision }) => [pinText({ source: document.id, revision }), document]));
  return { snapshot: (source, revision) => byPin.get(pinText({ source, revision })) ?? byId.get(source), built };
}

/** What an instance without a geometry at hand is built from. */
export interface Unbuilt {
  readonly key: InstanceKey;
  readonly document: CompleteDocument;
}

/** Instances of a document whose geometry decides a value, or is to be seen, and has not been built. */
export function listUnbuilt(document: Document, source: InstanceSource): Unbuilt[] {
  const wanted = new Map<InstanceKey, Unbuilt>();
  for (const { key, document: part } of listPlaced(openValues(document, source))) if (!source.built(key, part)) wanted.set(key, { key, document: part });
  return [...wanted.values()];
}
