export type { BodyDifference, Overlap } from './differences';
export { isFound, likelyGeometry } from './likely-geometry';
export { colourOf, colourOfBody, listMaterials, massOf, type Mass, type Material } from './materials';
export { nameConstraint } from './messages';
export { readWhole, type BodyOutcome, type Regenerated, type SolvedSketch, type StepOutcome, type StepProblem, type StepStatus } from './outcome';
export { Regenerator, type KeyedPlace, type KeyedProduct } from './regenerate';
export { listThreads } from './thread-sizes';
export { senseInMesh } from './edge-sense';
export { readCopies, readCurves, readSketchModel } from './sketch-model';
