/**
 * What a value is, in the designer's words, with its dimension. A `count` is a plain number that must be
 * whole. The same words are the kinds of a parameter and the names that messages use.
 */
import { ANGLE, LENGTH, MASS, PLAIN, TEMPERATURE, TIME, divideDimensions, multiplyDimensions, powerDimension, type Dimension } from './dimension';

const AREA = powerDimension(LENGTH, 2);
const VOLUME = powerDimension(LENGTH, 3);
const FORCE = multiplyDimensions(MASS, divideDimensions(LENGTH, powerDimension(TIME, 2)));

const KINDS = {
  length: LENGTH,
  angle: ANGLE,
  area: AREA,
  volume: VOLUME,
  mass: MASS,
  density: divideDimensions(MASS, VOLUME),
  force: FORCE,
  torque: multiplyDimensions(FORCE, LENGTH),
  pressure: divideDimensions(FORCE, AREA),
  time: TIME,
  speed: divideDimensions(LENGTH, TIME),
  'rotational speed': divideDimensions(ANGLE, TIME),
  power: divideDimensions(multiplyDimensions(FORCE, LENGTH), TIME),
  'temperature difference': TEMPERATURE,
  'second moment of area': powerDimension(LENGTH, 4),
  'moment of inertia': multiplyDimensions(MASS, AREA),
  number: PLAIN,
  count: PLAIN,
} as const;

export type QuantityKind = keyof typeof KINDS;

export const QUANTITY_KINDS = Object.keys(KINDS) as readonly QuantityKind[];

export function kindDimension(kind: QuantityKind): Dimension {
  return KINDS[kind];
}

/** The first kind of that dimension; undefined for one without a name, such as 1/length. */
export function findKind(dimension: Dimension): QuantityKind | undefined {
  return QUANTITY_KINDS.find((kind) => KINDS[kind] === dimension);
}
