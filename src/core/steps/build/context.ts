/**
 * What the builders of steps are given, and what they give back. A builder looks up everything that its step is
 * made of and returns the content key of the result with the way to make it; or why it cannot be made.
 */
import {
  findRecord,
  slotsOf,
  slotValues,
  type AxisReference,
  type Document,
  type DocumentValues,
  type Feature,
  type PlaneReference,
  type Step,
  type StepDirections,
} from '../../document';
import type { Frame, Point3 } from '../../geometry';
import type { Axis, BodyHandle, KernelFailure, KernelPort } from '../../kernel-port';
import { fail, succeed, type Result } from '../../kit';
import type { PatternPlace, StepProblem } from '../outcome';
import type { SketchResult } from '../sketch-result';
import { toMillimetres } from '../sketch-model';
import type { Prism } from './prism';

export interface BodyState {
  readonly key: string;
  readonly handle: BodyHandle;
  /** What it is as a profile drawn out straight, if it is nothing else. */
  readonly prisms?: readonly Prism[];
}

/** What a step does to its body, kept so that it can be repeated elsewhere. */
export interface Tool {
  readonly key: string;
  readonly operation: 'add' | 'remove' | 'keep';
  readonly prisms?: readonly Prism[];
  /** Set for what goes through everything: in another place it goes through what is there. */
  readonly through?: Through;
  /** Made only when it is needed: what goes through a plain profile is taken out of that. */
  readonly solid: () => Buildable<BodyState>;
}

export interface Through {
  /** The plane that heights are over. */
  readonly frame: Frame;
  readonly low: number;
  readonly high: number;
  /** The same tool through everything from `low` to `high` over the plane. */
  readonly reaching: (low: number, high: number) => Tool;
}

/** Why a step is not built: it waits for something, or has failed itself. */
export interface Unbuilt {
  readonly problem: StepProblem;
  readonly isFailure: boolean;
}

export type Buildable<T> = Result<T, Unbuilt>;

export interface BuildContext {
  readonly document: Document;
  readonly values: DocumentValues;
  readonly port: KernelPort;
  /** The body as it is before this step; waits when it is not there. */
  readonly body: (id: string) => Buildable<BodyState>;
  /** Whether a step has started the body already. */
  readonly hasBody: (id: string) => boolean;
  readonly sketch: (id: string) => Buildable<SketchResult>;
  readonly frame: (plane: PlaneReference) => Buildable<Frame>;
  readonly axis: (axis: AxisReference) => Buildable<Axis>;
  /** The direction that the step at hand keeps to, or the one that is chosen now; it is told with the outcome. */
  readonly keepTo: (slot: keyof StepDirections, choose: () => Buildable<Point3>) => Buildable<Point3>;
  /** A body of a part that this one uses, with the values that it has here. */
  readonly bodyOfPart: (component: string, body: string) => Buildable<BodyState>;
  /** The content of a file by its hash, as far as it has been brought here. */
  readonly file: (hash: string) => string | undefined;
  /** What an earlier step did, for patterns and mirrors. */
  readonly tools: (step: string) => Buildable<readonly Tool[]>;
  /** The profile that a cut comes to, by the key of the result: remembered, or found now. */
  readonly cutProfile: (key: string, find: () => Prism | undefined) => Prism | undefined;
  /** A body by its key: from cache, or made now. */
  readonly make: (key: string, make: () => Result<BodyHandle, KernelFailure>) => Buildable<BodyState>;
}

/** The result of a step that makes or changes a body. */
export interface BuiltStep {
  readonly state: BodyState;
  readonly tools: readonly Tool[];
  /** Further bodies that it brings about. */
  readonly started?: readonly { readonly body: string; readonly state: BodyState }[];
  /** What is hardly meant, though it is built. */
  readonly warnings?: readonly StepProblem[];
  /** Of a pattern: where the original stands in each of its places beside its own, from 1. */
  readonly places?: readonly PatternPlace[];
  /** Bodies that are used up by it. */
  readonly consumed?: readonly string[];
}

export type Builder<T extends Feature> = (context: BuildContext, step: T) => Buildable<BuiltStep>;

export function wait(message: string, about: readonly string[] = []): { readonly ok: false; readonly failure: Unbuilt } {
  return fail({ problem: { message, about }, isFailure: false });
}

export function refuse(problem: StepProblem): { readonly ok: false; readonly failure: Unbuilt } {
  return fail({ problem, isFailure: true });
}

/** No part is larger, in millimetres; the coordinates of a sketch have the same limit. */
export const LARGEST = 1e7;

/** The numbers of a step by slot: millimetres, radians, or counts. */
export function readNumbers({ document, values }: BuildContext, step: Step): Buildable<Readonly<Record<string, number>>> {
  const numbers: Record<string, number> = {};
  for (const { slot, kind, label } of slotsOf(step)) {
    const parameter = findRecord(document, slotValues(step)[slot] ?? '', 'parameter');
    const value = values.sheet.readNumber(parameter?.id ?? '');
    if (!parameter || Number.isNaN(value)) return wait(`Waiting on ${parameter?.name ?? label.toLowerCase()}.`, parameter ? [parameter.id] : []);
    if (kind === 'length' && Math.abs(toMillimetres(value)) > LARGEST) {
      return refuse({
        message: `${step.name}: ${nameNumber({ document, values }, step, slot).text} is too large; the most is ${LARGEST / 1e6} km.`,
        about: [parameter.id],
      });
    }
    numbers[slot] = kind === 'angle' ? (value * Math.PI) / 180 : kind === 'length' ? toMillimetres(value) : value;
  }
  return succeed(numbers);
}

/** `Rim fillet: radius = 12 mm`, for messages about a number of a step. */
export function nameNumber(
  { document, values }: Pick<BuildContext, 'document' | 'values'>,
  step: Step,
  slot: string,
): { readonly text: string; readonly id: string } {
  const parameter = findRecord(document, slotValues(step)[slot] ?? '', 'parameter');
  return { text: `${parameter?.name ?? slot} = ${values.show(parameter?.id ?? '')?.shown ?? '?'}`, id: parameter?.id ?? '' };
}

/** Refuses a number that must be above zero. */
export function requirePositive(context: BuildContext, step: Step, numbers: Readonly<Record<string, number>>, slots: readonly string[]): Buildable<undefined> {
  for (const slot of slots) {
    if ((numbers[slot] ?? 0) > 1e-6) continue;
    const { text, id } = nameNumber(context, step, slot);
    return refuse({ message: `${step.name}: ${text}, but must be above zero.`, about: [id] });
  }
  return succeed(undefined);
}
