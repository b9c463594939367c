/** What regeneration found, as plain data that crosses workers. */
import type { BodyProperties } from '../kernel-port';
import type { SketchStatus } from '../sketch';

export type StepStatus = 'done' | 'failed' | 'waiting' | 'suppressed';

export interface StepProblem {
  /** In the designer's words and values. */
  readonly message: string;
  /** Sketch geometry, constraints or dimensions that it is about. */
  readonly about: readonly string[];
}

export interface StepOutcome {
  readonly id: string;
  readonly status: StepStatus;
  readonly problem?: StepProblem;
  /** Set for sketches: the solved shape and what can still move. */
  readonly sketch?: SolvedSketch;
  /** Whether the result was taken from cache. */
  readonly isFromCache: boolean;
}

/** A sketch's solution as plain data. Millimetres in the sketch plane. */
export interface SolvedSketch {
  readonly status: SketchStatus;
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
}

export interface BodyOutcome {
  readonly id: string;
  readonly name: string;
  /** Content key of the shape; absent when the body could not be built. */
  readonly key?: string;
  readonly properties?: BodyProperties;
  /** In kilograms. */
  readonly mass?: number;
}

export interface Regenerated {
  readonly steps: readonly StepOutcome[];
  readonly bodies: readonly BodyOutcome[];
  /** Milliseconds are not known here: the core has no clock. Counts are. */
  readonly rebuilt: number;
}
