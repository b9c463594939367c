/**
 * Dimensions of quantities: integer exponents of the seven base quantities of the SI (SI Brochure, 9th
 * ed., table 2) and of angle. Angle is kept apart, though in the SI a radian is 1 (table 4): that is what
 * lets an angle in a length box be caught.
 *
 * Dimensions are interned: equal ones are one object, so they are compared with `===`. What comes out of
 * JSON or a structured clone goes through {@link internDimension} first.
 */
export type Exponents = readonly [
  length: number,
  mass: number,
  time: number,
  current: number,
  temperature: number,
  amount: number,
  luminosity: number,
  angle: number,
];

export interface Dimension {
  readonly exponents: Exponents;
  /** Stable key, also used in documents: `length=1,mass=-3`; empty for a plain number. */
  readonly key: string;
}

const BASE_NAMES = ['length', 'mass', 'time', 'current', 'temperature', 'amount', 'luminosity', 'angle'] as const;
export type BaseQuantity = (typeof BASE_NAMES)[number];

const interned = new Map<string, Dimension>();

export function internDimension(exponents: Exponents): Dimension {
  const cacheKey = exponents.join();
  const known = interned.get(cacheKey);
  if (known) return known;
  const key = BASE_NAMES.flatMap((name, i) => (exponents[i] === 0 ? [] : [`${name}=${exponents[i] ?? 0}`])).join(',');
  const dimension: Dimension = Object.freeze({ exponents: Object.freeze(exponents), key });
  interned.set(cacheKey, dimension);
  return dimension;
}

export function baseDimension(name: BaseQuantity, exponent = 1): Dimension {
  const index = BASE_NAMES.indexOf(name);
  return internDimension(eachExponent((i) => (i === index ? exponent : 0)));
}

/** Whether a stored key is one that a dimension can have. */
export function isDimensionKey(key: string): boolean {
  const dimension = readDimensionKey(key);
  return dimension.key === key && isNamable(dimension);
}

/** The dimension of a stored key; a part that is not understood counts as plain. */
export function readDimensionKey(key: string): Dimension {
  const exponents = new Map(key.split(',').map((part) => [part.slice(0, part.indexOf('=')), Number(part.slice(part.indexOf('=') + 1))]));
  return internDimension(
    eachExponent((i) => {
      const exponent = exponents.get(BASE_NAMES[i] ?? '') ?? 0;
      return Math.abs(exponent) <= MOST_EXPONENT && Number.isInteger(exponent) ? exponent : 0;
    }),
  );
}

export const PLAIN = internDimension([0, 0, 0, 0, 0, 0, 0, 0]);
export const LENGTH = baseDimension('length');
export const MASS = baseDimension('mass');
export const TIME = baseDimension('time');
export const TEMPERATURE = baseDimension('temperature');
export const ANGLE = baseDimension('angle');

const products = new Map<Dimension, Map<Dimension, Dimension>>();

export function multiplyDimensions(a: Dimension, b: Dimension): Dimension {
  if (b === PLAIN) return a;
  if (a === PLAIN) return b;
  let row = products.get(a);
  if (!row) products.set(a, (row = new Map<Dimension, Dimension>()));
  let product = row.get(b);
  if (!product) row.set(b, (product = combine(a, (e, i) => e + (b.exponents[i] ?? 0))));
  return product;
}

export function divideDimensions(a: Dimension, b: Dimension): Dimension {
  return b === PLAIN ? a : multiplyDimensions(a, powerDimension(b, -1));
}

export function powerDimension(d: Dimension, n: number): Dimension {
  // `+ 0` turns -0 into 0, which would intern apart.
  return combine(d, (e) => e * n + 0);
}

/** The dimension whose `n`-th power is `d`; undefined where there is none, as for the root of a length. */
export function rootDimension(d: Dimension, n: number): Dimension | undefined {
  return d.exponents.some((e) => e % n !== 0) ? undefined : combine(d, (e) => e / n + 0);
}

/** No quantity of the trade has a higher power of a base quantity; what has is refused, so that every dimension has a unit. */
export const MOST_EXPONENT = 12;

export function isNamable(d: Dimension): boolean {
  return d.exponents.every((exponent) => Math.abs(exponent) <= MOST_EXPONENT);
}

export function angleExponent(d: Dimension): number {
  return d.exponents[7];
}

export function withoutAngle(d: Dimension): Dimension {
  return combine(d, (e, i) => (i === 7 ? 0 : e));
}

function combine(d: Dimension, map: (exponent: number, index: number) => number): Dimension {
  return internDimension(eachExponent((i) => map(d.exponents[i] ?? 0, i)));
}

function eachExponent(of: (index: number) => number): Exponents {
  return [of(0), of(1), of(2), of(3), of(4), of(5), of(6), of(7)];
}
