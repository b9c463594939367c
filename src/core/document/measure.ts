/**
 * Measured values: what is read off the solved sketch or the built body, for formulas to read like any other
 * value. Each stands after the step that owns it in the history, and may drive later steps only.
 */
import { z } from 'zod';
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

export const GEOMETRY_MEASURES = ['length', 'radius', 'area', 'distance', 'angle'] as const;

export const measureSchema = z.discriminatedUnion('of', [
  /** The regions of the owning sketch; with `curve`, the one that this curve bounds from outside. */
  z.strictObject({ of: z.literal('region'), what: z.enum(REGION_MEASURES), curve: id.optional() }),
  /** A body as it is after the owning step. */
  z.strictObject({ of: z.literal('body'), what: z.enum(BODY_MEASURES), body: id }),
  /** One or two faces or edges of a body as it is after the owning step. */
  z.strictObject({ of: z.literal('geometry'), what: z.enum(GEOMETRY_MEASURES), body: id, on: z.array(z.string().max(1000)).min(1).max(2) }),
]);

export type Measure = Readonly<z.infer<typeof measureSchema>>;

const SECOND_MOMENT = 'second moment of area';
const INERTIA = 'moment of inertia';

const KINDS: Readonly<Record<Measure['what'], QuantityKind>> = {
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
  angle: 'angle',
};

/** What a measured value is. */
export function kindOfMeasure(measure: Measure): QuantityKind {
  return KINDS[measure.what];
}

/** The words for what is measured: `second moment about x`. */
export function describeMeasure(what: Measure['what']): string {
  const words = what.replace('-', ' ').replace('-', ' ');
  return words
    .replace(/^second moment (.)$/, 'second moment about $1')
    .replace(/^inertia (.)$/, 'inertia about $1')
    .replace(/^product moment$/, 'product of area');
}
