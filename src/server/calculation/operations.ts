/**
 * What takes long in large projects, as pure functions from data to data: done at once where it is little, in a thread of its own
 * where it is much ({@link ./run}), so that nobody else waits for it.
 */
import {
  findBrokenGuards,
  listHashes,
  listQuestions,
  listRecords,
  readProjectFile,
  takeContentsOut,
  type Answer,
  type Document,
  type FileProblem,
  type MeasuredValue,
  type Question,
  type TakenValue,
  type WhatIf,
  type WhatIfsOfDocument,
} from '@/core/document';
import {
  complete,
  listUnbuilt,
  numberRevisions,
  openValues,
  pinText,
  type BuiltInstance,
  type CompleteDocument,
  type FiledDocument,
  type InstanceSource,
} from '@/core/instances';
import { succeed, type Result } from '@/core/kit';
import { planCatchUp, publishValues, valuesAsPublished, type CatchUpPlan, type PlannedDocument, type PlannedState } from '@/core/links';
import { asWhatIf } from '@/core/studies';
import { computeSpreadsheet } from '@/outside';
import { contentHash } from '../content-hash';
import { pack, packText } from '../db/packing';

export type Published = Readonly<Record<string, TakenValue>>;
export type Measured = Readonly<Record<string, MeasuredValue>>;

/** What the components of documents stand for. */
export interface Together {
  /** Snapshots by `id@revision`, down through sub-assemblies. */
  readonly stands: Readonly<Record<string, Document>>;
  /** What was built of parts with the values that they have there, by their content hashes. */
  readonly built: ReadonlyMap<string, BuiltInstance>;
}

export const ALONE: Together = { stands: {}, built: new Map() };

/** What a project file holds, as far as it is asked before anything is made of it. */
export interface ProjectContents {
  readonly name: string;
  readonly material: string;
  readonly ids: readonly string[];
  readonly whatIfs: readonly WhatIfsOfDocument[];
}

/** A revision as it is kept: packed. */
interface ReadyRevision {
  readonly body: Uint8Array;
  readonly hash: string;
  readonly published: Uint8Array;
}

/** A new document with all that is kept of it and of its revisions. */
export interface ReadyDocument {
  readonly id: string;
  readonly kind: Document['kind'];
  readonly name: string;
  /** The oldest first, at least one: with hashes in the place of the contents of files. */
  readonly revisions: readonly [ReadyRevision, ...ReadyRevision[]];
  /** Characters of the last, without those contents. */
  readonly length: number;
  readonly isDeleted: boolean;
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
  readonly together?: Together;
  /** What outside calculations have answered, by questions. */
  readonly answers?: ReadonlyMap<string, KnownAnswer>;
}

export type KnownAnswer = Pick<Answer, 'outputs' | 'version' | 'at'>;

export interface PlanReply {
  readonly plan: CatchUpPlan;
  /** Documents that measure their geometry, and are not among `measured`. */
  readonly unmeasured: readonly ToBuild[];
  /** Components whose geometry an assembly reads, and that are not among what was built. */
  readonly unbuilt: readonly ToBuild[];
  /** What outside calculations would be asked with the new values, and have not answered. */
  readonly unanswered: readonly { readonly question: Question; readonly document: Document }[];
}

/** A document that is to be built; with what its components stand for, by `id@revision`, where it has any. */
export interface ToBuild {
  readonly document: Document;
  readonly stands: Readonly<Record<string, Document>>;
}

export const OPERATIONS = {
  /** Checks a project file. */
  checkProject: (text: string): Result<ProjectContents, readonly FileProblem[]> => {
    const file = readProjectFile(text);
    if (!file.ok) return file;
    const { name, material = '', documents, earlier = [], whatIfs = [] } = file.value;
    return succeed({ name, material, whatIfs, ids: [...new Set([...documents, ...earlier.map(({ document }) => document)].map(({ id }) => id))] });
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
    if (!file.ok) return file;
    const { documents, earlier = [] } = file.value;
    const renamed = {
      documents: documents.map((document) => withFreshIds(document, fresh)),
      earlier: earlier.map((state) => ({ ...state, document: withFreshIds(state.document, fresh) })),
    };
    const filed = numberRevisions(renamed, (document) => contentHash(takeContentsOut(document).data));
    const stands = Object.fromEntries(
      filed.flatMap(({ revisions }) => revisions.map((document, i) => [pinText({ source: document.id, revision: i + 1 }), document])),
    );
    return succeed(filed.map((one) => readyDocument(one, sourceOf({ stands, built: new Map() }))));
  },

  publish: ({
    document,
    measured,
    together = ALONE,
  }: {
    readonly document: Document;
    readonly measured?: Measured | undefined;
    readonly together?: Together;
  }): Published => {
    const values = openValues(document, sourceOf(together));
    if (measured) values.setMeasured(measured);
    return publishValues(values);
  },

  /** The document as a what-if has it; values that cannot be set stay as they are. */
  asWhatIf: ({ document, whatIf, together }: { readonly document: Document; readonly whatIf: WhatIf; readonly together: Together }): Document =>
    asWhatIf(openValues(document, sourceOf(together)), whatIf).document,

  /** Parts with the values that they have in an assembly whose geometry has not been built. */
  listUnbuilt: ({ document, together }: { readonly document: Document; readonly together: Together }): readonly CompleteDocument[] =>
    listUnbuilt(document, sourceOf(together)).map((one) => one.document),

  /** What outside calculations have no answer to, of the document and of what stands in it. */
  listOpenQuestions: ({
    document,
    measured,
    together,
  }: {
    readonly document: Document;
    readonly measured: Measured | undefined;
    readonly together: Together;
  }): readonly Question[] => {
    const values = openValues(document, sourceOf(together));
    if (measured) values.setMeasured(measured);
    return listQuestions(values).flatMap(({ question, state }) => (state === 'answered' ? [] : question));
  },

  computeSpreadsheet,

  /** How many guards do not hold, measured values as they were published. */
  countBrokenGuards: ({
    document,
    published,
    together = ALONE,
  }: {
    readonly document: Document;
    readonly published: Published;
    readonly together?: Together;
  }): number => findBrokenGuards(valuesAsPublished(document, published, sourceOf(together))).length,

  plan: ({ documents, targets, isStrict = false, measured, together = ALONE, answers }: PlanRequest): PlanReply => {
    const unmeasured: ToBuild[] = [];
    const unbuilt = new Map<string, ToBuild>();
    const instances = (planned: (id: string) => PlannedState | undefined): InstanceSource => {
      const kept = sourceOf(together);
      const snapshot: InstanceSource['snapshot'] = (source, revision) => {
        const state = planned(source);
        return state?.isChanged === true && state.revision === revision ? state.document : kept.snapshot(source, revision);
      };
      return {
        snapshot,
        built: (key, document) => {
          const built = kept.built(key, document);
          if (!built) unbuilt.set(contentHash(document), toBuild(document, snapshot));
          return built;
        },
      };
    };
    const measure = (document: Document, snapshot: InstanceSource['snapshot']): Measured | undefined => {
      const known = measured?.get(contentHash(document));
      if (!known) unmeasured.push(toBuild(document, snapshot));
      return known;
    };
    const unanswered: PlanReply['unanswered'][number][] = [];
    const answerTo = (question: Question, document: Document): KnownAnswer | undefined => {
      const known = answers?.get(question.key);
      if (!known) unanswered.push({ question, document });
      return known;
    };
    const plan = planCatchUp(documents, targets, {
      isStrict,
      instances,
      ...(answers ? { answerTo } : {}),
      ...(measured ? { measure, hash: contentHash } : {}),
    });
    return { plan, unmeasured, unbuilt: [...unbuilt.values()], unanswered };
  },
} as const;

export function toBuild(document: Document, snapshot: InstanceSource['snapshot']): ToBuild {
  return { document, stands: complete(document, { snapshot }).stands ?? {} };
}

export function sourceOf({ stands, built }: Together): InstanceSource {
  return {
    snapshot: (source, revision) => stands[pinText({ source, revision })],
    built: (_, document) => (built.size === 0 ? undefined : built.get(contentHash(document))),
  };
}

type Operations = typeof OPERATIONS;
export type OperationName = keyof Operations;
export type Argument<N extends OperationName> = Parameters<Operations[N]>[0];
export type Outcome<N extends OperationName> = Awaited<ReturnType<Operations[N]>>;

/**
 * Every value that a document takes; one that is taken twice through one link, under two names, is told once. A component is told under its own
 * id in the place of the value: its source is kept as long as it stands for it.
 */
export function listLinkedValues(document: Document): LinkedValue[] {
  const rows = listRecords(document, 'links', 'link').flatMap((link) =>
    listRecords(document, `${link.id}/takes`, 'take').map(
      (take) => [`${link.id} ${take.parameter}`, { linkId: link.id, sourceId: link.source, parameterId: take.parameter, seenRevision: link.revision }] as const,
    ),
  );
  const components = listRecords(document, 'components', 'component').map(({ id, source, revision }) => ({
    linkId: id,
    sourceId: source,
    parameterId: id,
    seenRevision: revision,
  }));
  return [...new Map(rows).values(), ...components].map((row) => ({ documentId: document.id, ...row }));
}

/** A document with all that is kept of it and of its revisions. */
export function readyDocument({ revisions, isDeleted }: FiledDocument, among: InstanceSource = sourceOf(ALONE)): ReadyDocument {
  const { data, contents } = takeContentsOut(revisions);
  const texts = data.map((document) => JSON.stringify(document));
  const [first, ...others] = data.map((document, i): ReadyRevision => ({
    body: packText(texts[i] ?? ''),
    hash: contentHash(document),
    published: pack(publishValues(openValues(document, among))),
  }));
  const last = data.at(-1);
  if (!first || !last) throw new Error('Bug: a document without a state');
  return {
    id: last.id,
    kind: last.kind,
    name: last.name,
    revisions: [first, ...others],
    length: texts.at(-1)?.length ?? 0,
    isDeleted,
    fileHashes: listHashes(data),
    contents,
    links: listLinkedValues(last),
  };
}

function withFreshIds(document: Document, fresh: ReadonlyMap<string, string>): Document {
  const records = Object.fromEntries(
    Object.entries(document.records).map(([id, record]) => [
      id,
      record.type === 'link'
        ? { ...record, source: fresh.get(record.source) ?? record.source }
        : record.type === 'component'
          ? { ...record, source: fresh.get(record.source) ?? record.source }
          : record,
    ]),
  );
  return { ...document, id: fresh.get(document.id) ?? document.id, records };
}
