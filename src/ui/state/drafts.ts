/** What is being made and is no edit yet: a step with its values, a mate with its picks. Kept by the page, so that a press elsewhere loses nothing. */
import type { MateGeometry } from '@/core/assembly';
import type { Body, Component, MateKind, MateReference, Step, StoredFile } from '@/core/document';

export interface StepDraft {
  readonly step: Step;
  readonly isNew: boolean;
  /** What stands in the value boxes, by slot: a formula, or `name = formula`. */
  readonly formulas: Readonly<Record<string, string>>;
  /** The file that an import reads. */
  readonly file?: StoredFile;
  /** The part that it starts from, not used here yet, and the body of it. */
  readonly part?: { readonly component: Component; readonly body: Body };
  /** Rises when formulas are put in from elsewhere: boxes begin anew with them then. */
  readonly presets?: number;
  /** The step that a new one is put behind; at the end without one. */
  readonly after?: string;
  /** Whether the name follows from what the step does, until somebody gives one. */
  readonly isNamed: boolean;
}

/** A face, an edge or a plane that was picked, where it stands in the assembly. */
export interface MatePick {
  readonly reference: MateReference;
  readonly geometry: MateGeometry;
  /** `side_frame: face` in words. */
  readonly words: string;
}

export interface MateDraft {
  readonly id: string;
  /** The component that it is made for; what fits that is offered. */
  readonly about: string | undefined;
  /** Ids of its values, should it have any. */
  readonly valueIds: readonly [string, string];
  readonly first: MatePick | undefined;
  readonly second: MatePick | undefined;
  /** Where the kind asks for one. */
  readonly third: MatePick | undefined;
  readonly kind: MateKind;
  readonly sense: 1 | -1;
  readonly isLimited: boolean;
  /** What stands in the value boxes, by slots: a formula, or `name = formula`; the usual one where nothing was typed. */
  readonly formulas: Readonly<Record<string, string>>;
}
