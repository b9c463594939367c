export { boxAt, closePairs, type Box } from './close-pairs';
export { type Mate, type MatedBody, type MateGeometry, type MateSide, type Placements, type PlacementStatus } from './model';
export { movementsOf } from './movements';
export { matesFor, placeGeometry, readGeometry, type GeometryShape } from './mate-geometry';
export { listWanted, placeComponents, type AssemblyPlacement, type MateOutcome, type ShapeSource, type WantedShape } from './place';
export { placeMesh } from './place-mesh';
export { evaluate, equationsOf, type Equation } from './residuals';
export { solvePlacements } from './solve';
export { assemblyTree, type TreeNode } from './tree';
