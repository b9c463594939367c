/**
 * The steps of a part's build history. Every number of a step is a named value of the document: `values`
 * maps the step's slots (`depth`, `taper` ...) to the ids of parameters that the step owns. Which slots a step
 * has follows from its choices: see `step-kinds.ts`.
 *
 * Faces and edges are named as the kernel port names them: by where they came from.
 */
import * as z from 'zod/mini';
import { formulaSchema, id, name } from './schema-parts';

export const PLANES = ['front', 'top', 'side'] as const;

/** The name of a face or edge of a body, such as `<step>/side(<curve>)`. */
const geometryName = z.string().check(z.minLength(1), z.maxLength(1000));

/** Where a sketch lies: a datum plane, one made by a step, or a plane face of a body. */
export const planeSchema = z.union([z.enum(PLANES), z.strictObject({ datum: id }), z.strictObject({ body: id, face: geometryName })]);

/** A line in space: an axis of the document, a line of a sketch, or an edge or the axis of a round face of a body. */
export const axisSchema = z.union([
  z.enum(['x', 'y', 'z']),
  z.strictObject({ sketch: id, line: id }),
  z.strictObject({ body: id, edge: geometryName }),
  z.strictObject({ body: id, face: geometryName }),
]);

const direction = z.tuple([z.number(), z.number(), z.number()]);

/**
 * Directions that a step read off its geometry when it was last changed by hand: it keeps to them as the geometry moves. In space the `x` of
 * the plane that it lies on, and `along` the edge or round face that gives it an axis; seen from its sketch, `into` the body that it drills.
 */
const directionsSchema = z.strictObject({ x: z.optional(direction), along: z.optional(direction), into: z.optional(direction) });

const base = { id, name, suppressed: z.optional(formulaSchema), directions: z.optional(directionsSchema) };
const values = z.record(z.string().check(z.maxLength(30)), id);
const operation = z.enum(['start', 'add', 'remove', 'keep']);
const names = z.array(geometryName).check(z.minLength(1), z.maxLength(500));
const steps = z.array(id).check(z.minLength(1), z.maxLength(200));

export const sketchSchema = z.strictObject({ type: z.literal('sketch'), ...base, plane: planeSchema });

/** A plane at an offset from another, turned about one of the other's own axes first. */
export const datumSchema = z.strictObject({ type: z.literal('datum'), ...base, from: planeSchema, turn: z.enum(['none', 'x', 'y']), values });

export const extrudeSchema = z.strictObject({
  type: z.literal('extrude'),
  ...base,
  sketch: id,
  operation,
  extent: z.enum(['forward', 'both', 'centred', 'through', 'up-to']),
  isReversed: z.optional(z.boolean()),
  isTapered: z.optional(z.boolean()),
  /** The face of the body that it reaches up to. */
  upTo: z.optional(geometryName),
  /** The body that it starts, or works on. */
  body: id,
  values,
});

export const revolveSchema = z.strictObject({
  type: z.literal('revolve'),
  ...base,
  sketch: id,
  /** A line of the sketch, or `x-axis` or `y-axis` of its plane. */
  axis: id,
  operation,
  extent: z.enum(['full', 'angle']),
  isReversed: z.optional(z.boolean()),
  body: id,
  values,
});

/** The profile of a sketch drawn along the one chain of curves of another. */
export const sweepSchema = z.strictObject({
  type: z.literal('sweep'),
  ...base,
  sketch: id,
  /** The sketch of the path. */
  path: id,
  operation,
  body: id,
  values,
});

/** A solid through the outlines of sketches, in their order. */
export const loftSchema = z.strictObject({
  type: z.literal('loft'),
  ...base,
  sketches: z.array(id).check(z.minLength(2), z.maxLength(50)),
  /** Straight from one outline to the next, or smooth through all. */
  isRuled: z.optional(z.boolean()),
  operation,
  body: id,
  values,
});

/** A body cut in two by a plane. */
export const splitSchema = z.strictObject({
  type: z.literal('split'),
  ...base,
  plane: planeSchema,
  /** What stays: both parts, the one on the side that the plane looks to, or the other. */
  keep: z.enum(['both', 'front', 'back']),
  /** The body that the part behind the plane becomes, when both stay. */
  other: z.optional(id),
  body: id,
  values,
});

/** A body read from a file that the document holds. */
export const importSchema = z.strictObject({ type: z.literal('import'), ...base, file: id, body: id, values });

/** A body begun as one of another part: of the component that uses it, with the values that it is given here. */
export const fromPartSchema = z.strictObject({
  type: z.literal('from-part'),
  ...base,
  component: id,
  /** The body, by its id in the other part. */
  of: id,
  body: id,
  values,
});

/** Holes at the points of a sketch that no line ends in, into the plane of the sketch. */
export const holeSchema = z.strictObject({
  type: z.literal('hole'),
  ...base,
  sketch: id,
  form: z.enum(['simple', 'counterbore', 'countersink']),
  extent: z.enum(['blind', 'through']),
  isReversed: z.optional(z.boolean()),
  body: id,
  values,
});

export const filletSchema = z.strictObject({ type: z.literal('fillet'), ...base, edges: names, body: id, values });

export const chamferSchema = z.strictObject({
  type: z.literal('chamfer'),
  ...base,
  edges: names,
  form: z.enum(['equal', 'two-distances', 'distance-angle']),
  body: id,
  values,
});

/** Hollows a body; `faces` are left open. */
export const shellSchema = z.strictObject({ type: z.literal('shell'), ...base, faces: names, body: id, values });

/** Faces turned about where they meet a plane. */
export const draftSchema = z.strictObject({ type: z.literal('draft'), ...base, faces: names, plane: planeSchema, body: id, values });

/** What other steps did to the body, repeated in a row, round an axis, or along the one chain of curves of a sketch. */
export const patternSchema = z.strictObject({
  type: z.literal('pattern'),
  ...base,
  form: z.enum(['linear', 'circular', 'path']),
  of: steps,
  along: z.union([axisSchema, z.strictObject({ path: id })]),
  /** Along a path: whether copies turn with it. */
  isTurning: z.optional(z.boolean()),
  /** Whether the slot `span` holds the distance or angle from the first to the last, or from one to the next. */
  spread: z.enum(['spacing', 'span']),
  isReversed: z.optional(z.boolean()),
  /** Places left out; 0 is the original and never is. */
  skip: z.optional(z.array(z.int().check(z.gte(1), z.lte(5000))).check(z.maxLength(2000))),
  body: id,
  values,
});

export const mirrorSchema = z.strictObject({
  type: z.literal('mirror'),
  ...base,
  /** Steps whose work is mirrored; none for the body as it is. */
  of: z.array(id).check(z.maxLength(200)),
  plane: planeSchema,
  body: id,
  values,
});

/** One body out of several; the others are used up. */
export const combineSchema = z.strictObject({
  type: z.literal('combine'),
  ...base,
  operation: z.enum(['add', 'remove', 'keep']),
  tools: z.array(id).check(z.minLength(1), z.maxLength(100)),
  body: id,
  values,
});

/** Moves or mirrors a body, or with `from` makes such a copy of that one. */
export const placeSchema = z.strictObject({
  type: z.literal('place'),
  ...base,
  from: z.optional(id),
  /** The plane that it is mirrored in, instead of being moved: the body is another then, its faces called as before. */
  mirror: z.optional(planeSchema),
  /** The line that it turns about; not turned without one. */
  about: z.optional(axisSchema),
  body: id,
  values,
});

export const stepSchema = z.discriminatedUnion('type', [
  sketchSchema,
  datumSchema,
  extrudeSchema,
  revolveSchema,
  sweepSchema,
  loftSchema,
  importSchema,
  fromPartSchema,
  holeSchema,
  filletSchema,
  chamferSchema,
  shellSchema,
  draftSchema,
  patternSchema,
  mirrorSchema,
  combineSchema,
  splitSchema,
  placeSchema,
]);

export type PlaneName = (typeof PLANES)[number];
export type StepDirections = Readonly<z.infer<typeof directionsSchema>>;
export type PlaneReference = Readonly<z.infer<typeof planeSchema>>;
export type AxisReference = Readonly<z.infer<typeof axisSchema>>;
/** The one chain of curves of a sketch. */
export interface PathReference {
  readonly path: string;
}
export type Step = Readonly<z.infer<typeof stepSchema>>;
export type StepType = Step['type'];
export type StepOf<T extends StepType> = Extract<Step, { readonly type: T }>;
export type SketchStep = StepOf<'sketch'>;
/** A step that makes or changes a body. */
export type Feature = Exclude<Step, { readonly type: 'sketch' | 'datum' }>;
/** A step that has named values of its own kind. */
export type ValuedStep = Exclude<Step, SketchStep>;
