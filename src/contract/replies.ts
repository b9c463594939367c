/** Replies of the HTTP interface, and the requests that are not edits. */
import * as z from 'zod/mini';
import type { BrokenGuard, Document, DocumentKind, EditFailure, Link, Snapshot, StepDifference, TakenValue, ValueDifference } from '@/core/document';
import type { LeftBehind, ValueChange } from '@/core/links';
import type { BodyProperties } from '@/core/kernel-port';
import { keySchema, type LoggedEdit } from './envelope';

export interface ProjectCard {
  readonly id: string;
  readonly name: string;
  readonly documents: number;
  /** Absent while it is being found out; a live notice tells when it is known. */
  readonly behind?: number;
  /** Documents with values in error or broken guards. */
  readonly failing?: number;
  /** Its latest change, by whom. */
  readonly changed?: { readonly at: string; readonly author: string };
  /** A document that there is a small picture of. */
  readonly picture?: { readonly document: string; readonly revision: number };
  /** Why it cannot be opened; the counts are zero then. */
  readonly problem?: string;
}

/** Something that was deleted and can be restored for a while. */
export interface DeletedCard {
  readonly id: string;
  readonly name: string;
  readonly at: string;
  /** When it will be gone for good. */
  readonly until: string;
}

export interface DocumentCard {
  readonly id: string;
  readonly name: string;
  readonly kind: DocumentKind;
  readonly revision: number;
  readonly unsavedEdits: number;
  /** Number of taken values that differ at their source. */
  readonly behind: number;
  /** Values with an error at the latest revision. */
  readonly failing: number;
  readonly brokenGuards: number;
  /** The documents that it takes from, and how many values, or how often they stand in it. */
  readonly links: readonly { readonly source: string; readonly policy: Link['policy']; readonly values: number }[];
  readonly bodies: readonly SavedBody[];
  /** Whether there is a small picture of it. */
  readonly hasThumbnail: boolean;
}

export interface SavedBody {
  /** Absent in revisions that were built by older programs. */
  readonly id?: string;
  readonly name: string;
  /** Content key of its shape and mesh. */
  readonly key?: string;
  readonly mass?: number;
  readonly properties?: BodyProperties;
  /** Of an assembly: pairs of parts that stand in one another and were not left on purpose; absent where that was not judged. */
  readonly interfering?: number;
}

export interface ProjectReply {
  readonly id: string;
  readonly name: string;
  /** Of new bodies; empty for none. */
  readonly material: string;
  readonly documents: readonly DocumentCard[];
  /** Documents that cannot be read, and why: the others are as they are. */
  readonly broken: readonly { readonly id: string; readonly name: string; readonly reason: string }[];
  readonly deleted: readonly DeletedCard[];
}

export interface DocumentReply {
  readonly project: { readonly id: string; readonly name: string; readonly material: string };
  readonly document: Document;
  /** What its components stand for, by `id@revision`, down through sub-assemblies. */
  readonly snapshots: Readonly<Record<string, Document>>;
  readonly seq: number;
  readonly revision: number;
  readonly savedSeq: number;
  /** What it takes that has another value at its source now. */
  readonly behind: readonly ValueChange[];
  readonly unsavedSources: readonly UnsavedSource[];
  /** The latest edits, oldest first: what undo can reach after a reload. */
  readonly history: readonly LoggedEdit[];
}

/** A source with edits that are in no revision, so that others do not see them yet. */
export interface UnsavedSource {
  readonly id: string;
  readonly name: string;
  readonly edits: number;
}

/** How an open document stands, without its content. */
export interface StandingReply {
  readonly unsavedSources: readonly UnsavedSource[];
  readonly seq: number;
  readonly savedSeq: number;
  readonly revision: number;
  readonly behind: readonly ValueChange[];
}

export interface EditsReply {
  readonly seq: number;
  /** What this client did not have yet, in order; its own edits come back with their numbers. */
  readonly edits: readonly LoggedEdit[];
}

export interface RevisionCard {
  readonly number: number;
  readonly hash: string;
  /** Its name, or what made it; may be empty. */
  readonly message: string;
  readonly author: string;
  readonly at: string;
  readonly changeSet: string | null;
}

export interface HistoryReply {
  /** Newest first; each with what differs from the one before it. */
  readonly revisions: readonly (RevisionCard & {
    readonly differs: readonly ValueDifference[];
    readonly differing: number;
    readonly steps: readonly StepDifference[];
    /** Whether there is a small picture of it. */
    readonly hasThumbnail: boolean;
  })[];
  readonly hasMore: boolean;
}

/** One revision, whole. */
export interface RevisionReply extends RevisionCard, Snapshot {}

export const nameRevisionSchema = z.strictObject({ message: z.string().check(z.trim(), z.maxLength(500)) });

/** What a document has for others to link, as of its latest revision. */
export interface OffersReply {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly hash: string;
  readonly unsavedEdits: number;
  readonly values: readonly OfferedValue[];
  /** Names of values that no revision has yet, which therefore cannot be linked. */
  readonly notSaved: readonly string[];
}

export interface OfferedValue {
  readonly id: string;
  readonly name: string;
  readonly shown: string;
  readonly value: TakenValue;
  readonly isOffered: boolean;
  readonly isPinned: boolean;
  readonly note?: string;
  /** The step that owns it, for a dimension. */
  readonly step?: string;
}

/** A value of another document of the project, complete enough to be linked. */
export interface LinkableValue {
  readonly document: string;
  readonly documentName: string;
  readonly revision: number;
  readonly hash: string;
  readonly parameter: string;
  readonly name: string;
  readonly shown: string;
  readonly value: TakenValue;
  readonly isOffered: boolean;
}

export interface LinkableReply {
  /** Offered and pinned ones first. */
  readonly values: readonly LinkableValue[];
}

export const offerSchema = z.strictObject({
  ids: z.array(z.string().check(z.maxLength(40))).check(z.minLength(1), z.maxLength(5000)),
  author: z.string().check(z.minLength(1), z.maxLength(60)),
});

export const saveRevisionSchema = z.strictObject({
  seq: z.int().check(z.gte(0)),
  message: z.string().check(z.maxLength(500)),
  author: z.string().check(z.minLength(1), z.maxLength(60)),
  /** Made once by the client: sent twice, the request saves once. */
  key: z.optional(keySchema),
});

export const newProjectSchema = z.strictObject({ name: z.string().check(z.trim(), z.minLength(1), z.maxLength(120)) });

/** What is changed about a project. */
export const changeProjectSchema = z.partial(z.extend(newProjectSchema, { material: z.string().check(z.maxLength(60)) }));

export const newDocumentSchema = z.strictObject({
  name: z.string().check(z.trim(), z.minLength(1), z.maxLength(120)),
  kind: z.enum(['master', 'calc', 'part', 'assembly']),
  author: z.string().check(z.minLength(1), z.maxLength(60)),
});

export const copyDocumentSchema = z.strictObject({
  /** Where it goes: its own project, or another one. */
  project: z.string().check(z.minLength(1), z.maxLength(40)),
  name: z.string().check(z.trim(), z.minLength(1), z.maxLength(120)),
  author: z.string().check(z.minLength(1), z.maxLength(60)),
  /** Other formulas of its values, by their ids. */
  formulas: z.record(z.string().check(z.maxLength(40)), z.string().check(z.minLength(1), z.maxLength(4000))),
});

export interface CopyReply {
  readonly id: string;
  readonly name: string;
  /** Names of values that are taken from nowhere any more. */
  readonly kept: readonly string[];
}

export const takeFromShelfSchema = z.strictObject({
  items: z.array(z.string().check(z.minLength(1), z.maxLength(100))).check(z.minLength(1), z.maxLength(100)),
  author: z.string().check(z.minLength(1), z.maxLength(60)),
});

/** A document that ships with the program. */
export interface ShelfItem {
  readonly item: string;
  readonly name: string;
  readonly kind: DocumentKind;
  /** What it is for, in a line. */
  readonly about: string;
}

export interface ShelfReply {
  readonly items: readonly ShelfItem[];
  readonly broken: readonly { readonly item: string; readonly reason: string }[];
}

/** What a listed service computes; or why it does not tell. */
export interface ServiceCard {
  readonly name: string;
  readonly version: string;
  readonly functions: readonly ServiceFunctionCard[];
  readonly problem?: string;
}

export interface ServiceFunctionCard {
  readonly name: string;
  readonly about?: string | undefined;
  readonly inputs: readonly ServicePort[];
  readonly outputs: readonly ServicePort[];
}

export interface ServicePort {
  readonly key: string;
  /** A kind of quantity. */
  readonly kind: string;
  readonly unit: string;
  readonly about?: string | undefined;
}

export interface ServicesReply {
  readonly services: readonly ServiceCard[];
  /** What is wrong with the list of services. */
  readonly problem?: string;
}

/** Outside calculations that gave no answer, by where they stand; all others have theirs in the document. */
export interface AskedReply {
  readonly failures: readonly { readonly within: readonly string[]; readonly outside: string; readonly kind: string; readonly problem: string }[];
}

/** A copy that a project got. */
export interface TakenFromShelf {
  readonly item: string;
  readonly id: string;
  readonly name: string;
}

/** Where a value is taken: by which document. */
export interface UsesReply {
  readonly uses: readonly { readonly parameter: string; readonly document: string; readonly name: string }[];
}

export interface SaveRevisionReply {
  readonly revision: number;
  /** Nothing has changed since that revision: no new one was made. */
  readonly isUnchanged?: boolean;
  /** Names of documents whose links follow, which have new revisions with it. */
  readonly followed: readonly string[];
  /** Documents whose links follow, but which somebody should look at first. */
  readonly asked: readonly { readonly name: string; readonly reason: string }[];
  /** Documents that take something which has changed. */
  readonly nowBehind: readonly { readonly id: string; readonly name: string; readonly values: number }[];
}

export interface PlannedDocumentReply {
  readonly id: string;
  readonly name: string;
  readonly kind: DocumentKind;
  readonly changes: readonly ValueChange[];
  readonly failures: readonly { readonly id: string; readonly name: string; readonly message: string }[];
  /** Guards that would be broken and are not now. */
  readonly guards: readonly BrokenGuard[];
  /** What it measures is not known before its geometry is built. */
  readonly isProvisional: boolean;
  /** It was not asked for: a link of it follows. */
  readonly comesAlong: boolean;
  /** The documents that it takes from, but for links on hold. */
  readonly sources: readonly string[];
  readonly unsavedEdits: number;
  readonly revision: number;
  readonly hasThumbnail: boolean;
  readonly seq: number;
  /** The document as it would be, for the preview of its solids. */
  readonly after: Document;
  readonly before: Document;
}

export interface CatchUpPreviewReply {
  readonly documents: readonly PlannedDocumentReply[];
  /** Documents that would follow by themselves, but that somebody should look at first. */
  readonly left: readonly LeftBehind[];
  readonly cycle: readonly string[];
  /** What components of these documents stand for, now and then, by `id@revision`; revisions that are not made yet are among the documents. */
  readonly stands: Readonly<Record<string, Document>>;
}

export const catchUpSchema = z.strictObject({
  /** Documents to bring up to date, at the state that the preview showed. */
  documents: z.array(z.strictObject({ id: z.string().check(z.maxLength(40)), seq: z.int().check(z.gte(0)) })).check(z.minLength(1), z.maxLength(5000)),
  /** Documents that stay as they are, and why. */
  left: z.optional(z.array(z.strictObject({ id: z.string().check(z.maxLength(40)), reason: z.string().check(z.maxLength(500)) })).check(z.maxLength(5000))),
  author: z.string().check(z.minLength(1), z.maxLength(60)),
});

/** A document that has a new revision. */
export interface SavedDocument {
  readonly id: string;
  readonly revision: number;
  readonly seq: number;
}

export interface CatchUpReply {
  readonly changeSet: string;
  readonly documents: readonly SavedDocument[];
}

/** Revisions that were made together. */
export interface ChangeSetCard {
  readonly id: string;
  readonly message: string;
  readonly author: string;
  readonly at: string;
  readonly isUndone: boolean;
  /** The change set that it takes back. */
  readonly undoes: string | null;
  readonly leftBehind: readonly LeftBehind[];
  readonly documents: readonly { readonly id: string; readonly name: string; readonly revision: number }[];
}

export interface ChangeSetsReply {
  /** Newest first. */
  readonly changeSets: readonly ChangeSetCard[];
  readonly hasMore: boolean;
}

export interface ChangeSetReply {
  readonly documents: readonly {
    readonly id: string;
    readonly name: string;
    readonly differs: readonly ValueDifference[];
    /** The revision before and the one that was made, where there is a small picture of it. */
    readonly pictured: { readonly before?: number; readonly after?: number };
  }[];
}

export const undoChangeSetSchema = z.strictObject({ author: z.string().check(z.minLength(1), z.maxLength(60)) });

export interface UndoChangeSetReply extends CatchUpReply {
  readonly nowBehind: SaveRevisionReply['nowBehind'];
}

/** Values of one document that another value is tied to, with the steps that they belong to. */
export interface ReachedDocument {
  readonly id: string;
  readonly name: string;
  readonly values: readonly { readonly id: string; readonly name: string }[];
  readonly steps: readonly { readonly id: string; readonly name: string }[];
}

/** What one value drives and reads, directly or through others, in its own document and in others. */
export interface ReachReply {
  readonly drives: readonly ReachedDocument[];
  readonly reads: readonly ReachedDocument[];
}

/** What a value was over the revisions, newest first; only those in which it became another. */
export interface ValueHistoryReply {
  readonly changes: readonly {
    readonly revision: number;
    readonly author: string;
    readonly at: string;
    /** Absent where it was not there. */
    readonly shown?: string;
    readonly formula?: string;
  }[];
}

/** Values of one document to be linked in others, under local names. */
export const handOverSchema = z.strictObject({
  policy: z.enum(['follow', 'ask', 'hold']),
  author: z.string().check(z.minLength(1), z.maxLength(60)),
  to: z
    .array(
      z.strictObject({
        document: z.string().check(z.maxLength(40)),
        takes: z
          .array(z.strictObject({ parameter: z.string().check(z.maxLength(40)), name: z.string().check(z.maxLength(200)) }))
          .check(z.minLength(1), z.maxLength(2000)),
      }),
    )
    .check(z.minLength(1), z.maxLength(2000)),
});

export interface HandOverReply {
  /** Names that are not free, each with one that is: nothing was handed over then. */
  readonly problems: readonly { readonly document: string; readonly parameter: string; readonly message: string; readonly offer?: string }[];
  readonly documents: readonly { readonly id: string; readonly name: string; readonly seq: number }[];
}

/** Every refusal of the server, whatever the route. */
export interface ErrorReply {
  readonly error: {
    readonly code: ErrorCode;
    readonly message: string;
    /** With `stale`: the edits that were missed. */
    readonly edits?: readonly LoggedEdit[];
    readonly seq?: number;
    /** With `edit-refused`: which one, and why. */
    readonly key?: string;
    readonly failure?: EditFailure;
    readonly problems?: readonly { readonly message: string; readonly path?: string }[];
  };
}

export type ErrorCode =
  | 'bad-request'
  | 'too-large'
  | 'not-found'
  | 'stale'
  | 'edit-refused'
  | 'bad-file'
  | 'moved-on'
  | 'forbidden'
  | 'database-unavailable'
  | 'failed';

/** What the event stream tells. */
export type LiveEvent =
  | { readonly type: 'edited'; readonly project: string; readonly document: string; readonly seq: number }
  /** New revisions, of several documents when they were made in one change set. */
  | { readonly type: 'saved'; readonly project: string; readonly documents: readonly SavedDocument[] }
  | { readonly type: 'project'; readonly project: string };
