/**
 * What a kind of step is to all that treats steps alike: its words, its numbers, what it stands on, how one begins and what it is called. Each kind is a file
 * beside this one, entered in `index.ts`; how it is built is in `core/steps/build`, its form in `ui/steps/kinds`.
 */
import type { QuantityKind } from '../../units';
import type { AxisReference, PathReference, PlaneReference, Step } from '../step-schema';

/** A number of a step: its slot, what it is, and the words for it. */
export interface StepSlot {
  readonly slot: string;
  readonly kind: QuantityKind;
  readonly label: string;
  /** A formula to begin with. */
  readonly initial: string;
}

/** What there is where a new step is put. */
export interface BlankGround {
  readonly base: { readonly id: string; readonly name: string };
  /** The sketch that was asked for, or the last one; empty where there is none. */
  readonly sketch: string;
  /** All sketches, in their order. */
  readonly sketches: readonly string[];
  /** The body that was made last; empty where there is none. */
  readonly body: string;
  readonly bodies: readonly string[];
  readonly newId: () => string;
}

/** Names that the name of a step is put together of. */
export interface StepNames {
  /** Of a step; empty for one that is not there. */
  readonly step: (id: string | undefined) => string;
  /** Of the body that it works on, or another one. */
  readonly body: (id?: string) => string;
  /** Of the document that a component stands for. */
  readonly part: (component: string) => string | undefined;
}

/** What was picked for a step elsewhere than in it. */
export interface AtHand {
  readonly hasFile: boolean;
  readonly hasPart: boolean;
}

export interface StepKind<S extends Step> {
  /** As in a sentence: `datum plane`. */
  readonly words: string;
  /** What one is and does, in a few words; its words where they say it. */
  detail?(step: S): string;
  /** One with the choices that one usually makes. */
  blank(ground: BlankGround): S;
  /** What it does to what; a word alone is told apart by letters. */
  nameOf(step: S, names: StepNames): string | { readonly lettered: string };
  /** The numbers that it needs, as its choices are. */
  slots?(step: S): readonly StepSlot[];
  /** Whether its body was not there before it. */
  startsBody?(step: S): boolean;
  /** Sketches that it is made from. */
  sketches?(step: S): readonly string[];
  /** Steps beside its sketches that it is built on, by id. */
  under?(step: S): readonly string[];
  /** Bodies that it reads beside the one that it works on. */
  bodiesUnder?(step: S): readonly string[];
  /** The step with another plane, where it stands on one or is made by one. */
  withPlane?(step: S, plane: PlaneReference): S;
  /** Whether its work can be repeated or mirrored, where it starts no body. */
  readonly isRepeatable?: true;
  /** What still has to be picked before it can be built. */
  missing?(step: S, atHand: AtHand): string | undefined;
  /** The step without what its choices have no use for. */
  tidy?(step: S): S;
}

/** What is done to the body that a step works on, or begins. */
export const OPERATION_WORDS = { start: 'starts a body', add: 'adds', remove: 'removes', keep: 'keeps common' } as const;

export const length = (slot: string, label: string, initial: string): StepSlot => ({ slot, kind: 'length', label, initial });
export const angle = (slot: string, label: string, initial: string): StepSlot => ({ slot, kind: 'angle', label, initial });

export function stepsOfPlane(plane: PlaneReference): readonly string[] {
  return typeof plane === 'object' && 'datum' in plane ? [plane.datum] : [];
}

export function bodiesOfPlane(plane: PlaneReference): readonly string[] {
  return typeof plane === 'object' && 'body' in plane ? [plane.body] : [];
}

export function stepsOfAxis(axis: AxisReference | PathReference): readonly string[] {
  if (typeof axis !== 'object') return [];
  return 'sketch' in axis ? [axis.sketch] : 'path' in axis ? [axis.path] : [];
}

export function bodiesOfAxis(axis: AxisReference | PathReference): readonly string[] {
  return typeof axis === 'object' && 'body' in axis ? [axis.body] : [];
}
