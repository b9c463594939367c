export { boxAt, closePairs, type Box } from './close-pairs';
export { explodeShifts, type MateDirection } from './explode';
export { freeMotions, type FreeMotion } from './free-motions';
export { candidatePairs, dismissalOf, interferenceKey, LEAST_VOLUME, placeText, type CandidatePair, type Interference } from './interference';
export {
  clearancePairs,
  listMeasured,
  measureInterference,
  measureSize,
  measuresOf,
  measureStill,
  type ClearancePair,
  type MeasuredAssembly,
  type OneMeasure,
} from './measures';
export { type Mate, type MatedBody, type MateGeometry, type MateSide, type Placements, type PlacementStatus, type Pull, type Yielding } from './model';
export { movementsOf } from './movements';
export { datumGeometry, matesFor, thirdFor, placeGeometry, readGeometry, readInMirror, reflectGeometry } from './mate-geometry';
export { groupByMake, listParts, listPartsByLevel, partsTable, type PartsRow } from './parts-list';
export { patternProblem } from './copies';
export { isFlexible, type MateOutcome, type ShapeSource, type StartAt, type WantedShape } from './gather';
export { listWanted, placeComponents, standingIn, type AssemblyPlacement } from './place';
export { placeMesh } from './place-mesh';
export { across, evaluate, type Equation } from './equations';
export { equationsOf } from './mate-equations';
export { readingSlopesByMates, slopesOfMeasure, type PairReading } from './mate-slopes';
export { solvePlacements } from './solve';
export { listSolids, type JudgedBody, type PlacedSolid } from './solids';
export { assemblyTree, type TreeNode } from './tree';
