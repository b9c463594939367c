/** A solved sketch with its regions, as steps build on it. */
import type { Frame, Profile } from '../geometry';
import type { SketchSolution } from '../sketch';
import type { SolvedSketch, StepProblem } from './outcome';

export interface SketchResult {
  readonly key: string;
  readonly frame: Frame;
  readonly solution: SketchSolution;
  readonly solved: SolvedSketch;
  readonly profiles: readonly Profile[];
  /** Key of the regions alone: two solutions with equal regions build equal solids. */
  readonly profileKey: string;
  readonly profileProblem: StepProblem | undefined;
  readonly warnings: readonly StepProblem[];
}
