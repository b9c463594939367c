/**
 * The revisions that a project file carries. A file has every document as it is, and beside that what components stand for where it is another
 * state of a document; read again, each document gets these as its first revisions, and its components stand for the same content as before.
 */
import { contentText, hasComponents, listRecords, type Document, type EarlierState, type ProjectFile } from '../document';
import { listPins, pinText } from './pins';
import type { InstanceSource } from './source';

/** What the components of documents stand for, down through sub-assemblies, as far as it is not one of these documents as it is. */
export function listEarlierStates(documents: readonly Document[], source: Pick<InstanceSource, 'snapshot'>): EarlierState[] {
  const heads = new Map(documents.map((document) => [document.id, contentText(document)]));
  const states = new Map<string, EarlierState>();
  const pins = new Map(documents.flatMap((document) => listPins(document, source).map((pin) => [pinText(pin), pin])));
  for (const [pin, { source: id, revision }] of pins) {
    const document = source.snapshot(id, revision);
    if (document && contentText(document) !== heads.get(id)) states.set(pin, { revision, document });
  }
  return [...states.values()].sort((a, b) => (a.document.id === b.document.id ? a.revision - b.revision : a.document.id < b.document.id ? -1 : 1));
}

/** A document of a file with all its revisions there, the oldest first: the last is how it is. */
export interface FiledDocument {
  readonly revisions: readonly Document[];
  /** It is not in the project any more, only in assemblies. */
  readonly isDeleted: boolean;
}

/** `hash` is that of a document's content. */
export function numberRevisions({ documents, earlier = [] }: Omit<ProjectFile, 'name'>, hash: (document: Document) => string): FiledDocument[] {
  const filed = new Map<string, { readonly states: Document[]; readonly isDeleted: boolean; readonly numbers: Map<number, number> }>();
  for (const { id } of documents) filed.set(id, { states: [], isDeleted: false, numbers: new Map() });
  for (const { revision, document } of [...earlier].sort((a, b) => a.revision - b.revision)) {
    const entry = filed.get(document.id) ?? { states: [], isDeleted: true, numbers: new Map<number, number>() };
    filed.set(document.id, entry);
    entry.numbers.set(revision, entry.states.push(document));
  }
  for (const document of documents) filed.get(document.id)?.states.push(document);

  const done = new Map<Document, Document>();
  const underWay = new Set<Document>();
  /** With what its components stand for by the numbers that these have now, and the hashes of that. */
  const settle = (document: Document): Document => {
    const known = done.get(document);
    if (known) return known;
    underWay.add(document);
    const records = { ...document.records };
    for (const component of listRecords(document, 'components', 'component')) {
      const entry = filed.get(component.source);
      const revision = entry?.numbers.get(component.revision) ?? entry?.states.length ?? 1;
      const target = entry?.states[revision - 1];
      records[component.id] = { ...component, revision, hash: target && !underWay.has(target) ? hash(settle(target)) : '' };
    }
    underWay.delete(document);
    const settled = hasComponents(document) ? { ...document, records } : document;
    done.set(document, settled);
    return settled;
  };
  return [...filed.values()].map(({ states, isDeleted }) => ({ revisions: states.map(settle), isDeleted }));
}
