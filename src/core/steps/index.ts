export { DEFAULT_MATERIAL, listMaterials, massOf } from './materials';
export type { BodyOutcome, Regenerated, SolvedSketch, StepOutcome, StepProblem, StepStatus } from './outcome';
export { Regenerator } from './regenerate';
export { readSketchModel } from './sketch-model';
