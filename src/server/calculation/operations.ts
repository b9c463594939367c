/**
 * What takes long in large projects, as pure functions from data to data: done at once where it is little, in a thread of its own
 * where it is much ({@link ./run}), so that nobody else waits for it.
 */
import {
  DocumentValues,
  findBrokenGuards,
  listHashes,
  listRecords,
  readProjectFile,
  takeContentsOut,
  type Document,
  type FileProblem,
  type MeasuredValue,
  type TakenValue,
} from '@/core/document';
import { succeed, type Result } from '@/core/kit';
import { planCatchUp, publishValues, valuesAsPublished, type CatchUpPlan, type PlannedDocument } from '@/core/links';
import { contentHash } from '../content-hash';
import { pack, packText } from '../db/packing';

export type Published = Readonly<Record<string, TakenValue>>;
export type Measured = Readonly<Record<string, MeasuredValue>>;

/** What a project file holds, as far as it is asked before anything is made of it. */
export interface ProjectContents {
  readonly name: string;
  readonly ids: readonly string[];
}

/** A new document with all that is kept of it and of its first revision. */
export interface ReadyDocument {
  readonly id: string;
  readonly kind: Document['kind'];
  readonly name: string;
  /** Packed, with hashes in the place of the contents of files. */
  readonly body: Uint8Array;
  /** Characters of it, without those contents. */
  readonly length: number;
  readonly hash: string;
  /** Packed. */
  readonly published: Uint8Array;
  readonly fileHashes: ReadonlySet<string>;
  readonly contents: ReadonlyMap<string, string>;
  readonly links: readonly LinkedValue[];
}

/** A value that a document takes, for the index of links. */
export interface LinkedValue {
  readonly documentId: string;
  readonly linkId: string;
  readonly sourceId: string;
  readonly parameterId: string;
  readonly seenRevision: number;
}

export interface PlanRequest {
  readonly documents: readonly PlannedDocument[];
  readonly targets: ReadonlySet<string>;
  readonly isStrict?: boolean;
  /** What was measured on the geometry of documents, by their content hashes. */
  readonly measured?: ReadonlyMap<string, Measured>;
}

export interface PlanReply {
  readonly plan: CatchUpPlan;
  /** Documents that measure their geometry, and are not among `measured`. */
  readonly unmeasured: readonly Document[];
}

export const OPERATIONS = {
  /** Checks a project file. */
  checkProject: (text: string): Result<ProjectContents, readonly FileProblem[]> => {
    const file = readProjectFile(text);
    return file.ok ? succeed({ name: file.value.name, ids: file.value.documents.map(({ id }) => id) }) : file;
  },

  /** The documents of a project file, with the ids that are given in the place of their own. */
  readyProject: ({
    text,
    fresh,
  }: {
    readonly text: string;
    readonly fresh: ReadonlyMap<string, string>;
  }): Result<readonly ReadyDocument[], readonly FileProblem[]> => {
    const file = readProjectFile(text);
    return file.ok ? succeed(file.value.documents.map((document) => readyDocument(withFreshIds(document, fresh)))) : file;
  },

  publish: ({ document, measured }: { readonly document: Document; readonly measured?: Measured | undefined }): Published => {
    const values = new DocumentValues(document);
    if (measured) values.setMeasured(measured);
    return publishValues(values);
  },

  /** How many guards do not hold, measured values as they were published. */
  countBrokenGuards: ({ document, published }: { readonly document: Document; readonly published: Published }): number =>
    findBrokenGuards(valuesAsPublished(document, published)).length,

  plan: ({ documents, targets, isStrict = false, measured }: PlanRequest): PlanReply => {
    const unmeasured: Document[] = [];
    const measure = (document: Document): Measured | undefined => {
      const known = measured?.get(contentHash(document));
      if (!known) unmeasured.push(document);
      return known;
    };
    return { plan: planCatchUp(documents, targets, { isStrict, ...(measured ? { measure, hash: contentHash } : {}) }), unmeasured };
  },
} as const;

type Operations = typeof OPERATIONS;
export type OperationName = keyof Operations;
export type Argument<N extends OperationName> = Parameters<Operations[N]>[0];
export type Outcome<N extends OperationName> = ReturnType<Operations[N]>;

/** Every value that a document takes; one that is taken twice through one link, under two names, is told once. */
export function listLinkedValues(document: Document): LinkedValue[] {
  const rows = listRecords(document, 'links', 'link').flatMap((link) =>
    listRecords(document, `${link.id}/takes`, 'take').map(
      (take) => [`${link.id} ${take.parameter}`, { linkId: link.id, sourceId: link.source, parameterId: take.parameter, seenRevision: link.revision }] as const,
    ),
  );
  return [...new Map(rows).values()].map((row) => ({ documentId: document.id, ...row }));
}

/** A document with all that is kept of it and of its first revision. */
export function readyDocument(whole: Document): ReadyDocument {
  const { data: document, contents } = takeContentsOut(whole);
  const text = JSON.stringify(document);
  return {
    id: document.id,
    kind: document.kind,
    name: document.name,
    body: packText(text),
    length: text.length,
    hash: contentHash(document),
    published: pack(publishValues(new DocumentValues(document))),
    fileHashes: listHashes(document),
    contents,
    links: listLinkedValues(document),
  };
}

function withFreshIds(document: Document, fresh: ReadonlyMap<string, string>): Document {
  const records = Object.fromEntries(
    Object.entries(document.records).map(([id, record]) => [
      id,
      record.type === 'link' ? { ...record, source: fresh.get(record.source) ?? record.source } : record,
    ]),
  );
  return { ...document, id: fresh.get(document.id) ?? document.id, records };
}
