/**
 * A sketch as the solver takes it: geometry at the shape where the solve starts, constraints, and
 * dimensions with their wanted values. Millimetres and radians, in the sketch plane.
 */
export type SketchEntity =
  | { readonly type: 'point'; readonly id: string; readonly x: number; readonly y: number }
  | { readonly type: 'line'; readonly id: string; readonly start: string; readonly end: string }
  | { readonly type: 'circle'; readonly id: string; readonly centre: string; readonly radius: number }
  /** Counter-clockwise from start to end. */
  | { readonly type: 'arc'; readonly id: string; readonly centre: string; readonly start: string; readonly end: string };

export type RelationKind =
  | 'coincident'
  | 'horizontal'
  | 'vertical'
  | 'parallel'
  | 'perpendicular'
  | 'equal'
  | 'concentric'
  | 'tangent'
  | 'fixed'
  | 'midpoint'
  | 'symmetric';

export interface SketchRelation {
  readonly id: string;
  readonly kind: RelationKind;
  readonly on: readonly string[];
}

export type MeasureKind = 'length' | 'horizontal' | 'vertical' | 'radius' | 'diameter' | 'angle' | 'arc-length';

export interface SketchMeasure {
  readonly id: string;
  readonly kind: MeasureKind;
  readonly on: readonly string[];
  /** Millimetres or radians; not finite for a value that has an error, which then constrains nothing. */
  readonly value: number;
  /** Only read, not constrained. */
  readonly isReference: boolean;
  /** Of horizontal and vertical ones: 1 where a positive value puts the second point at the larger coordinate, -1 at the smaller; else as it lies at the start. */
  readonly sense?: 1 | -1;
}

/** Places of points and radii of circles, by id. */
export interface SketchPlaces {
  readonly points: Readonly<Record<string, readonly [number, number]>>;
  readonly radii: Readonly<Record<string, number>>;
}

export interface SketchModel {
  /** Where they lie: sides and turns are those of this shape. */
  readonly entities: readonly SketchEntity[];
  /** Where fixed geometry is to be, as far as it lies elsewhere: it moves there and takes the rest along. */
  readonly held?: SketchPlaces;
  readonly constraints: readonly SketchRelation[];
  readonly dimensions: readonly SketchMeasure[];
}

/** Names that constraints may use for what does not move. */
export const ORIGIN = 'origin';
export const X_AXIS = 'x-axis';
export const Y_AXIS = 'y-axis';

export type SketchStatus =
  /** Every constraint holds; see the degrees of freedom for whether anything can still move. */
  | 'solved'
  /** Some constraints contradict each other. */
  | 'conflicting'
  /** Nothing contradicts, but no shape was found on this side; the start is kept. */
  | 'not-converged';

export interface SketchSolution {
  readonly status: SketchStatus;
  /** Positions of points, by id. */
  readonly points: ReadonlyMap<string, readonly [x: number, y: number]>;
  /** Radii of circles and arcs, by id. */
  readonly radii: ReadonlyMap<string, number>;
  readonly degreesOfFreedom: number;
  /** Entities that can still move. */
  readonly free: ReadonlySet<string>;
  /** Constraints and dimensions that say nothing new. */
  readonly redundant: readonly string[];
  /** A smallest set of constraints and dimensions that cannot hold together; empty unless conflicting. */
  readonly conflicting: readonly string[];
  /** What each dimension reads on the solved shape. */
  readonly measured: ReadonlyMap<string, number>;
  /** Constraints that name geometry of a kind that they do not apply to. */
  readonly invalid: readonly string[];
}
