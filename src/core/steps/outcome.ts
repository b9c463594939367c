/** What regeneration found, as plain data that crosses workers. */
import type { MeasuredValue, StepDirections } from '../document';
import type { Frame } from '../geometry';
import type { BodyProperties } from '../kernel-port';
import type { SketchStatus } from '../sketch';
import { CUBIC_MILLIMETRE, KILOGRAM } from '../units';

export type StepStatus = 'done' | 'failed' | 'waiting' | 'suppressed';

export interface StepProblem {
  /** In the designer's words and values. */
  readonly message: string;
  /** Sketch geometry, constraints or dimensions that it is about. */
  readonly about: readonly string[];
  /** The face or edge that was looked for and is not there any more. */
  readonly lost?: string;
}

export interface StepOutcome {
  readonly id: string;
  readonly status: StepStatus;
  readonly problem?: StepProblem;
  /** What a careful designer would look at, though it is built: a cut that meets nothing, a body in pieces. */
  readonly warnings?: readonly StepProblem[];
  /** Set for sketches: the solved shape and what can still move. */
  readonly sketch?: SolvedSketch;
  /** Set for datum planes: where it lies. */
  readonly frame?: Frame;
  /** Of a pattern: where its original stands in each of its other places. */
  readonly places?: readonly PatternPlace[];
  /** The directions that it read off geometry, for it to keep to. */
  readonly directions?: StepDirections;
  /** Whether the result was taken from cache. */
  readonly isFromCache: boolean;
}

/** One place of a pattern, from 1 on beside its original: where the part's own axes have come to there, in millimetres. */
export interface PatternPlace {
  readonly place: number;
  readonly frame: Frame;
}

/** A sketch's solution as plain data. Millimetres in the sketch plane. */
export interface SolvedSketch {
  readonly status: SketchStatus;
  /** The plane that it lies in. */
  readonly frame: Frame;
  readonly points: Readonly<Record<string, readonly [number, number]>>;
  readonly radii: Readonly<Record<string, number>>;
  readonly degreesOfFreedom: number;
  readonly free: readonly string[];
  readonly redundant: readonly string[];
  readonly conflicting: readonly string[];
  /** What each dimension reads: millimetres or radians. */
  readonly measured: Readonly<Record<string, number>>;
  /** Area of its closed regions in square millimetres; absent where they are not sound. */
  readonly area?: number;
  /** Its closed regions, the largest first: a curve that bounds each from outside, and its area in square millimetres. */
  readonly regions: readonly { readonly curve: string; readonly area: number }[];
}

export interface BodyOutcome {
  readonly id: string;
  readonly name: string;
  /** Content key of the shape; absent when the body could not be built. */
  readonly key?: string;
  readonly properties?: BodyProperties;
  /** In kilograms. */
  readonly mass?: number;
  /** Why it has no mass though it is built. */
  readonly massProblem?: string;
  /** The step that used the body up. */
  readonly usedBy?: string;
}

/** What an assembly reads of a part that was built, in internal units: all its bodies together. */
export function readWhole({ bodies, measured, steps }: Pick<Regenerated, 'bodies' | 'measured' | 'steps'>) {
  const there = bodies.filter(({ usedBy }) => usedBy === undefined);
  const broken = there.find(({ properties }) => properties === undefined);
  const weightless = there.find(({ mass }) => mass === undefined);
  const sum = (of: (body: BodyOutcome) => number): MeasuredValue => ({ value: there.reduce((total, body) => total + of(body), 0) });
  const notBuilt = broken && { problem: `${broken.name} could not be built.` };
  return {
    measured,
    places: Object.fromEntries(steps.flatMap(({ id, places }) => (places ? [[id, places] as const] : []))),
    volume: notBuilt ?? sum(({ properties }) => (properties?.volume ?? 0) * CUBIC_MILLIMETRE),
    mass: notBuilt ?? (weightless ? { problem: weightless.massProblem ?? `${weightless.name} has no mass.` } : sum(({ mass = 0 }) => mass * KILOGRAM)),
  };
}

export interface Regenerated {
  readonly steps: readonly StepOutcome[];
  readonly bodies: readonly BodyOutcome[];
  /** Values read off the geometry, by the id of their parameter. */
  readonly measured: Readonly<Record<string, MeasuredValue>>;
  /** Milliseconds are not known here: the core has no clock. Counts are. */
  readonly rebuilt: number;
}
