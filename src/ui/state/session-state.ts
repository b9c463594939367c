/** What the page knows of its open document. */
import type { AskedReply, DocumentReply } from '@/contract';
import type { AssemblyPlacement } from '@/core/assembly';
import type { Document, DocumentValues, Edit } from '@/core/document';
import type { Stance } from '@/core/instances';
import type { BodyMesh } from '@/core/kernel-port';
import type { Regenerated } from '@/core/steps';
import type { RegenerationFailure } from '@/workers/one-worker';
import type { Interference } from '@/core/assembly';
import type { BodyPicture } from './pictures';

/** An edit that could not be made; kept in sight, not away. */
export interface RefusedEdit {
  readonly key: string;
  readonly edit: Edit;
  readonly reason: string;
}

/** A body of a part where it stands in the assembly. */
export interface PlacedBody {
  /** Ids of the components down to the part. */
  readonly path: readonly string[];
  readonly body: string;
  /** Key of its mesh. */
  readonly key: string;
  readonly colour: string;
  readonly at: Stance;
  /** Shown as it was before: it is being built, or could not be. */
  readonly isStale: boolean;
}

/** The document as it is not: at its limits, or as a what-if. Nothing is changed by it. */
export interface ShownAs {
  /** `at upper limits`, `as Wide`. */
  readonly title: string;
  /** What else is to be known of it, a sentence each. */
  readonly words: readonly string[];
  /** It is a what-if. */
  readonly isWhatIf?: true;
  /** What was measured on the geometry as it is. */
  readonly measured: Regenerated['measured'] | undefined;
}

export interface SessionState {
  readonly project: DocumentReply['project'];
  readonly document: Document;
  readonly values: DocumentValues;
  /** Rises with every change: `values` is one object that is kept up to date in place. */
  readonly version: number;
  readonly revision: number;
  readonly unsavedEdits: number;
  /** What it takes that has another value at its source now. */
  readonly behind: DocumentReply['behind'];
  /** Sources with edits that are in no revision yet. */
  readonly unsavedSources: DocumentReply['unsavedSources'];
  readonly pending: number;
  readonly isOffline: boolean;
  readonly tray: readonly RefusedEdit[];
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly regenerated: Regenerated | undefined;
  readonly meshes: ReadonlyMap<string, BodyMesh>;
  /** The shape to show for each body: the present one, or the last good one of a body that failed. */
  readonly pictures: readonly BodyPicture[];
  /** The bodies of all parts of an assembly, where they stand. */
  readonly placed: readonly PlacedBody[];
  /** Where the components of an assembly stand, and what became of its mates. */
  readonly placement: AssemblyPlacement | undefined;
  /** Parts of an assembly that stand in one another; undefined while that is being found out. */
  readonly interference: readonly Interference[] | undefined;
  /** The last step that is built; undefined for all of them. */
  readonly builtTo: string | undefined;
  /** The solid that the step at hand is made on, where that is not the one that is shown. */
  readonly before: readonly BodyPicture[] | undefined;
  /** Whether geometry waits until it is told to go on. */
  readonly isPaused: boolean;
  /** Undefined while the document is shown as it is. */
  readonly shownAs: ShownAs | undefined;
  /** What an edit that is not made yet would lead to. */
  readonly preview: { readonly document: Document; readonly result: Regenerated; readonly pictures: readonly BodyPicture[] } | undefined;
  readonly regeneration: 'idle' | 'running' | RegenerationFailure;
  /** Outside calculations: whether they are being asked, and which gave no answer, by where they stand. */
  readonly outside: { readonly isAsking: boolean; readonly failures: AskedReply['failures'] };
  /** A word for the one who edits, until the next edit. */
  readonly notice: string | undefined;
}
