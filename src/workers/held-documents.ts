/**
 * A document is told to a worker once, and from then on what differs from what was told last: neither side copies or compiles what stays as it is.
 *
 * Two halves of one protocol, one for each worker: {@link DocumentTeller} at its client, {@link HeldDocuments} in it. The teller decides what is held
 * and what is let go of. A document that stands on others is told whole: what is measured on these is no part of it.
 */
import { type DocumentDiff, type DocumentRecord, type DocumentValues, type Document } from '@/core/document';
import { changedFields, diffDocuments, openComplete, type CompleteDocument } from '@/core/instances';
import type { FileNotice, WorkerRequest } from './protocol';

/** What a document differs in from the one that was told last under the same id. */
export interface DocumentChange {
  readonly changes: string;
  readonly name: string;
  readonly units: Document['units'];
  readonly general: Document['general'] | null;
  /** Null for what is gone. */
  readonly records: Readonly<Record<string, DocumentRecord | null>>;
  readonly lists: Readonly<Record<string, readonly string[] | null>>;
}

type Regenerate = Extract<WorkerRequest, { readonly kind: 'regenerate' }>;

/** A request as it is posted. */
export type PostedRequest =
  | Exclude<WorkerRequest, Regenerate>
  | (Omit<Regenerate, 'document'> & {
      readonly document: CompleteDocument | DocumentChange;
      /** The worker is to keep it, and to let go of another, by its id. */
      readonly isHeld?: boolean;
      readonly letGo?: string;
    });

/** Documents that a worker holds at most. */
const MOST_HELD = 12;

/** At the client of one worker. */
export class DocumentTeller {
  private readonly told = new Map<string, Document>();

  /** What is posted in the place of a request; in the order in which it is posted. */
  tell(request: WorkerRequest | FileNotice): PostedRequest | FileNotice {
    if (request.kind !== 'regenerate' || request.document.stands) return request;
    const { document } = request;
    const before = this.told.get(document.id);
    this.told.delete(document.id);
    this.told.set(document.id, document);
    if (before?.kind === document.kind) return { ...request, document: changeOf(before, document) };
    const [oldest] = this.told.keys();
    if (this.told.size <= MOST_HELD || oldest === undefined) return { ...request, isHeld: true };
    this.told.delete(oldest);
    return { ...request, isHeld: true, letGo: oldest };
  }
}

function changeOf(before: Document, after: Document): DocumentChange {
  const { records, lists } = diffDocuments(before, after);
  return {
    changes: after.id,
    name: after.name,
    units: after.units,
    general: after.general ?? null,
    records: Object.fromEntries(records.map((change) => [change.id, change.after])),
    lists: Object.fromEntries(lists.map((list) => [list, after.lists[list] ?? null])),
  };
}

/** A document as it is now, with its values. */
export interface OpenDocument {
  readonly document: CompleteDocument;
  readonly values: DocumentValues;
}

/** In the worker. */
export class HeldDocuments {
  private readonly held = new Map<string, OpenDocument>();

  /** The document of a request, opened or brought up to what it is now. Throws where a change is of what is not held. */
  open({ document, isHeld, letGo }: Extract<PostedRequest, { readonly kind: 'regenerate' }>): OpenDocument {
    if (letGo !== undefined) this.held.delete(letGo);
    if (!('changes' in document)) {
      const open = { document, values: openComplete(document) };
      if (isHeld === true) this.held.set(document.id, open);
      return open;
    }
    const before = this.held.get(document.changes);
    if (!before) throw new Error(`Bug: ${document.name} is not held here.`);
    const open = bringUp(before, document);
    this.held.set(document.changes, open);
    return open;
  }
}

function bringUp({ document: before, values }: OpenDocument, { name, units, general, records, lists }: DocumentChange): OpenDocument {
  const { general: _, ...rest } = before;
  const document: Document = {
    ...rest,
    ...(general === null ? {} : { general }),
    name,
    units: sameUnits(before.units, units) ? before.units : units,
    records: put(before.records, records),
    lists: put(before.lists, lists),
  };
  const diff: DocumentDiff = {
    records: Object.entries(records).map(([id, after]) => ({ id, before: before.records[id] ?? null, after })),
    lists: Object.keys(lists),
    fields: changedFields(before, document),
  };
  // What was measured belongs to the geometry as it was.
  values.forgetMeasured();
  values.apply(document, diff);
  return { document, values };
}

function sameUnits(a: Document['units'], b: Document['units']): boolean {
  return a.length === b.length && a.angle === b.angle && a.mass === b.mass;
}

/** `changes` put into a table; null takes out. */
function put<T>(table: Readonly<Record<string, T>>, changes: Readonly<Record<string, T | null>>): Readonly<Record<string, T>> {
  const entries = Object.entries(changes);
  if (entries.length === 0) return table;
  const next: Record<string, T> = Object.assign(Object.create(null) as Record<string, T>, table);
  for (const [key, value] of entries) {
    if (value === null) Reflect.deleteProperty(next, key);
    else next[key] = value;
  }
  return next;
}
