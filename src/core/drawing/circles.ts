/** Circles and arcs through given points. */
import type { Place } from './drawn-shape';

export function distance(a: Place, b: Place): number {
  return Math.hypot(b[0] - a[0], b[1] - a[1]);
}

/** Twice the signed area of a triangle: positive when it runs counter-clockwise. */
export function turn(a: Place, b: Place, c: Place): number {
  return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
}

/** Centre of the circle through three points; undefined when they lie on a line. */
export function circumcentre(a: Place, b: Place, c: Place): Place | undefined {
  const double = 2 * turn(a, b, c);
  if (Math.abs(double) <= 1e-9 * distance(a, b) * distance(b, c)) return undefined;
  const square = (p: Place): number => p[0] * p[0] + p[1] * p[1];
  const x = (square(a) * (b[1] - c[1]) + square(b) * (c[1] - a[1]) + square(c) * (a[1] - b[1])) / double;
  const y = (square(a) * (c[0] - b[0]) + square(b) * (a[0] - c[0]) + square(c) * (b[0] - a[0])) / double;
  return [x, y];
}

/** Centre of the circle that leaves `from` along the unit vector `along` and passes through `to`; undefined for a straight way. */
export function tangentCentre(from: Place, along: Place, to: Place): Place | undefined {
  const normal: Place = [-along[1], along[0]];
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const off = normal[0] * dx + normal[1] * dy;
  const square = dx * dx + dy * dy;
  if (Math.abs(off) <= 1e-9 * Math.sqrt(square)) return undefined;
  const t = square / (2 * off);
  return [from[0] + normal[0] * t, from[1] + normal[1] * t];
}
