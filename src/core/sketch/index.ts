export {
  type MeasureKind,
  type RelationKind,
  type SketchEntity,
  type SketchMeasure,
  type SketchModel,
  type SketchRelation,
  type SketchSolution,
  type SketchStatus,
} from './model';
export { SketchDragger, type DragTarget } from './drag';
export { readingSlopes } from './slopes';
export { solveSketch } from './solve';
