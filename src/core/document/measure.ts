/**
 * Measured values: what is read off the solved sketch or the built body, for formulas to read like any other
 * value. Each stands after the step that owns it in the history, and may drive later steps only.
 */
import * as z from 'zod/mini';
import type { QuantityKind } from '../units';
import { id } from './schema-parts';

export const REGION_MEASURES = ['area', 'perimeter', 'centroid-x', 'centroid-y', 'second-moment-x', 'second-moment-y', 'product-moment'] as const;

export const BODY_MEASURES = [
  'volume',
  'area',
  'mass',
  'centre-x',
  'centre-y',
  'centre-z',
  'size-x',
  'size-y',
  'size-z',
  'inertia-x',
  'inertia-y',
  'inertia-z',
] as const;

export const GEOMETRY_MEASURES = ['length', 'radius', 'area', 'distance', 'distance-x', 'distance-y', 'distance-z', 'axis-distance', 'angle'] as const;
/** Those that are read between two faces or edges. */
const BETWEEN_TWO: readonly string[] = [
  'distance',
  'distance-x',
  'distance-y',
  'distance-z',
  'axis-distance',
  'angle',
] satisfies (typeof GEOMETRY_MEASURES)[number][];

export const ASSEMBLY_MEASURES = ['interference', 'mass', 'volume', 'centre-x', 'centre-y', 'centre-z', 'size-x', 'size-y', 'size-z'] as const;
export const PAIR_MEASURES = ['clearance', 'distance-x', 'distance-y', 'distance-z', 'axis-distance', 'angle'] as const;

/** A component of an assembly, reached through others; a body of it, or a face or edge of that body, where one is meant. */
export const placedGeometrySchema = z
  .strictObject({
    path: z.array(id).check(z.minLength(1), z.maxLength(32)),
    body: z.optional(id),
    name: z.optional(z.string().check(z.minLength(1), z.maxLength(1000))),
  })
  .check(z.refine(({ body, name }) => name === undefined || body !== undefined, 'a face or edge stands on a body'));

export type PlacedGeometry = Readonly<z.infer<typeof placedGeometrySchema>>;

export const measureSchema = z.discriminatedUnion('of', [
  /** The regions of the owning sketch; with `curve`, the one that this curve bounds from outside. */
  z.strictObject({ of: z.literal('region'), what: z.enum(REGION_MEASURES), curve: z.optional(id) }),
  /** A body as it is after the owning step. */
  z.strictObject({ of: z.literal('body'), what: z.enum(BODY_MEASURES), body: id }),
  /** One or two faces or edges of a body as it is after the owning step. */
  z.strictObject({
    of: z.literal('geometry'),
    what: z.enum(GEOMETRY_MEASURES),
    body: id,
    on: z.array(z.string().check(z.maxLength(1000))).check(z.minLength(1), z.maxLength(2)),
  }),
  /** An assembly as it stands: what its parts have in common where they stand in one another, its mass, ... */
  z.strictObject({ of: z.literal('assembly'), what: z.enum(ASSEMBLY_MEASURES) }),
  /** Between two components of an assembly, or faces or edges of them, as they stand: the least distance, or how far that goes along an axis of the assembly; how far their axes are apart; the angle of their directions. */
  z.strictObject({ of: z.literal('components'), what: z.enum(PAIR_MEASURES), on: z.tuple([placedGeometrySchema, placedGeometrySchema]) }),
  /** What an outside calculation hands back under that name. */
  z.strictObject({ of: z.literal('outside'), what: z.literal('answer'), outside: id, output: z.string().check(z.minLength(1), z.maxLength(120)) }),
]);

export type Measure = Readonly<z.infer<typeof measureSchema>>;
/** Read off an assembly as it stands. */
export type AssemblyMeasure = Extract<Measure, { readonly of: 'assembly' | 'components' }>;
/** Read after a step of a part. */
export type StepMeasure = Exclude<Measure, AssemblyMeasure | OutsideMeasure>;
/** Not read off any geometry. */
export type OutsideMeasure = Extract<Measure, { readonly of: 'outside' }>;
export type GeometryMeasured = Exclude<Measure, OutsideMeasure>;

export function isOfAssembly(measure: Measure): measure is AssemblyMeasure {
  return measure.of === 'assembly' || measure.of === 'components';
}

const SECOND_MOMENT = 'second moment of area';
const INERTIA = 'moment of inertia';

const KINDS: Readonly<Record<GeometryMeasured['what'], QuantityKind>> = {
  area: 'area',
  perimeter: 'length',
  'centroid-x': 'length',
  'centroid-y': 'length',
  'second-moment-x': SECOND_MOMENT,
  'second-moment-y': SECOND_MOMENT,
  'product-moment': SECOND_MOMENT,
  volume: 'volume',
  mass: 'mass',
  'centre-x': 'length',
  'centre-y': 'length',
  'centre-z': 'length',
  'size-x': 'length',
  'size-y': 'length',
  'size-z': 'length',
  'inertia-x': INERTIA,
  'inertia-y': INERTIA,
  'inertia-z': INERTIA,
  length: 'length',
  radius: 'length',
  distance: 'length',
  'distance-x': 'length',
  'distance-y': 'length',
  'distance-z': 'length',
  'axis-distance': 'length',
  angle: 'angle',
  interference: 'volume',
  clearance: 'length',
};

/** What is left of nothing by rounding, in millimetres. */
const NOTHING = 1e-9;

/** The part of a distance that is asked for: along one axis for `distance-x`, all of it otherwise. In millimetres; `way` leads from the one to the other. */
export function partOfDistance(what: Measure['what'], distance: number, way: readonly [number, number, number]): number {
  const axis = ['distance-x', 'distance-y', 'distance-z'].indexOf(what);
  const part = axis < 0 ? distance : Math.abs(way[axis] ?? 0);
  return part < NOTHING ? 0 : part;
}

/** Of how many faces or edges it is read. */
export function picksOf(what: Measure['what']): 1 | 2 {
  return BETWEEN_TWO.includes(what) ? 2 : 1;
}

/** What a measured value is. */
export function kindOfMeasure(measure: GeometryMeasured): QuantityKind {
  return KINDS[measure.what];
}

/** The words for what is measured: `second moment about x`. */
export function describeMeasure(what: Measure['what']): string {
  const words = what.replace('-', ' ').replace('-', ' ');
  return words
    .replace(/^second moment (.)$/, 'second moment about $1')
    .replace(/^inertia (.)$/, 'inertia about $1')
    .replace(/^product moment$/, 'product of area')
    .replace(/^distance (.)$/, 'distance along $1')
    .replace(/^axis distance$/, 'distance of axes');
}
