/**
 * The form of a kind of step: what it is called in menus, where it stands in them, and its fields. What the kind is otherwise is in
 * `core/document/step-kinds`.
 */
import type { Body, Component, Step, StoredFile } from '@/core/document';
import type { StepDraft } from '../../state/drafts';

export interface FieldsProps<S extends Step> {
  readonly step: S;
  readonly onChange: (step: Step) => void;
}

export interface FormProps<S extends Step> extends FieldsProps<S> {
  readonly draft: StepDraft;
  /** The file that the step reads. */
  readonly onFile: (file: StoredFile) => void;
  /** The part that the step starts from. */
  readonly onPart: (component: Component, body: Body) => void;
  /** Puts formulas into the boxes of the step. */
  readonly onPreset: (formulas: Readonly<Record<string, string>>) => void;
}

/** The groups of the menu, in the order of work. */
export const GROUPS = ['ground', 'shape', 'dress', 'bodies'] as const;

export interface StepForm<S extends Step> {
  readonly label: string;
  readonly group: (typeof GROUPS)[number];
  /** What must be there before it is of any use. */
  readonly needs: 'nothing' | 'sketch' | 'sketches' | 'body' | 'bodies';
  /** The choices of a step and what it is built on. Its numbers follow below them. */
  Fields(this: void, props: FormProps<S>): React.ReactNode;
}
