/** All kinds of steps, and what is asked of any step. */
import type { PlaneReference, Step, StepOf, StepType, ValuedStep } from '../step-schema';
import { chamfer } from './chamfer';
import { combine } from './combine';
import { datum } from './datum';
import { draft } from './draft';
import { extrude } from './extrude';
import { fillet } from './fillet';
import { fromPart } from './from-part';
import { hole } from './hole';
import { importedBody } from './import';
import { loft } from './loft';
import { mirror } from './mirror';
import { pattern } from './pattern';
import { place } from './place';
import { revolve } from './revolve';
import { shell } from './shell';
import { sketch } from './sketch';
import { split } from './split';
import { sweep } from './sweep';
import type { AtHand, BlankGround, StepKind, StepNames, StepSlot } from './kind';

export type { StepSlot } from './kind';

/** In the order of work, which is that of menus. */
const KINDS: { readonly [T in StepType]: StepKind<StepOf<T>> } = {
  sketch,
  datum,
  extrude,
  revolve,
  sweep,
  loft,
  hole,
  'from-part': fromPart,
  import: importedBody,
  fillet,
  chamfer,
  shell,
  draft,
  pattern,
  mirror,
  place,
  combine,
  split,
};

function kindOf(type: StepType): StepKind<Step> {
  return KINDS[type];
}

export function isStepType(type: string): type is StepType {
  return Object.hasOwn(KINDS, type);
}

export const STEP_TYPES: readonly StepType[] = Object.keys(KINDS).filter(isStepType);

/** The words for a kind of step. */
export function stepWords(type: StepType): string {
  return kindOf(type).words;
}

/** What a step is and does, in a few words. */
export function stepDetail(step: Step): string {
  return kindOf(step.type).detail?.(step) ?? stepWords(step.type);
}

/** The numbers that a step needs, as its choices are. */
export function slotsOf(step: Step): readonly StepSlot[] {
  return kindOf(step.type).slots?.(step) ?? [];
}

/** The named values of a step, by slot; none for a sketch, whose values belong to its dimensions. */
export function slotValues(step: Step): Readonly<Record<string, string>> {
  return step.type === 'sketch' ? {} : step.values;
}

export function hasSlots(step: Step): step is ValuedStep {
  return step.type !== 'sketch';
}

/** The body that a step makes or changes. */
export function bodyOf(step: Step): string | undefined {
  return step.type === 'sketch' || step.type === 'datum' ? undefined : step.body;
}

/** Whether the body of the step was not there before it. */
export function startsBody(step: Step): boolean {
  return kindOf(step.type).startsBody?.(step) ?? false;
}

/** All bodies that the step brings about. */
export function startedBodies(step: Step): readonly string[] {
  if (step.type === 'split') return step.other === undefined ? [] : [step.other];
  return startsBody(step) ? [bodyOf(step) ?? ''] : [];
}

/** Sketches that it is made from. */
export function sketchesOf(step: Step): readonly string[] {
  return kindOf(step.type).sketches?.(step) ?? [];
}

/** Steps that it is built on, by id: they stand before it. */
export function stepsUnder(step: Step): readonly string[] {
  return kindOf(step.type).under?.(step) ?? sketchesOf(step);
}

/** Bodies that it reads beside the one that it works on. */
export function bodiesUnder(step: Step): readonly string[] {
  return kindOf(step.type).bodiesUnder?.(step) ?? [];
}

/** Whether its work can be repeated: it adds to a body or takes from it. */
export function isRepeatable(step: Step): boolean {
  return kindOf(step.type).isRepeatable === true && !startsBody(step);
}

/** A step with the choices that one usually makes. */
export function blankStep(type: StepType, ground: BlankGround): Step {
  return kindOf(type).blank(ground);
}

/** What the step does to what, for its name; a word alone is told apart by letters. */
export function nameForStep(step: Step, names: StepNames): string | { readonly lettered: string } {
  return kindOf(step.type).nameOf(step, names);
}

/** Whether it stands on a plane, or is made by one. */
export function takesPlane(step: Step): boolean {
  return kindOf(step.type).withPlane !== undefined;
}

/** The step with another plane; as it is where it has none. */
export function withPlane(step: Step, plane: PlaneReference): Step {
  return kindOf(step.type).withPlane?.(step, plane) ?? step;
}

/** What still has to be picked before the step can be built; undefined when nothing is. */
export function missingPick(step: Step, atHand: AtHand): string | undefined {
  return kindOf(step.type).missing?.(step, atHand);
}

/** The step without what its choices have no use for. */
export function tidyStep(step: Step): Step {
  return kindOf(step.type).tidy?.(step) ?? step;
}
