export { MATE_KINDS, type Mate, type MatedBody, type MateGeometry, type MateKind, type MateSide, type Placements, type PlacementStatus } from './model';
export { evaluate, equationsOf, type Equation } from './residuals';
export { solvePlacements } from './solve';
