/** Equations of places and distances. */
import { at, makeEquation, type Equation } from './equation';

/** x_i - x_j = target; derivatives 1 and -1. */
export function difference(source: string, i: number, j: number, target = 0): Equation {
  return makeEquation(
    source,
    [i, j],
    (x) => at(x, i) - at(x, j),
    (_, out, p) => {
      out[p] = 1;
      out[p + 1] = -1;
    },
    target,
  );
}

/** sense (x_i - x_j) = target: a positive value keeps the side that the sense tells. */
export function directedDifference(source: string, i: number, j: number, sense: 1 | -1, target: number): Equation {
  return makeEquation(
    source,
    [i, j],
    (x) => sense * (at(x, i) - at(x, j)),
    (_, out, p) => {
      out[p] = sense;
      out[p + 1] = -sense;
    },
    target,
  );
}

/** x_i = target. */
export function place(source: string, i: number, target: number): Equation {
  return makeEquation(
    source,
    [i],
    (x) => at(x, i),
    (_, out, p) => {
      out[p] = 1;
    },
    target,
  );
}

/** factor x_i = target: a radius, or a diameter with factor 2. */
export function multiple(source: string, i: number, factor: number, target: number): Equation {
  return makeEquation(
    source,
    [i],
    (x) => factor * at(x, i),
    (_, out, p) => {
      out[p] = factor;
    },
    target,
  );
}

/**
 * |P - Q| = target. With d = P - Q and l = |d|: by P d/l, by Q -d/l. At l = 0 the direction is taken as x,
 * so that coinciding points can come apart.
 */
export function distance(source: string, p: number, q: number, target: number): Equation {
  return makeEquation(
    source,
    [p, p + 1, q, q + 1],
    (x) => Math.hypot(at(x, p) - at(x, q), at(x, p + 1) - at(x, q + 1)),
    (x, out, o) => {
      const [ux, uy] = direction(x, q, p);
      out[o] = ux;
      out[o + 1] = uy;
      out[o + 2] = -ux;
      out[o + 3] = -uy;
    },
    target,
  );
}

/** |P - Q| - r = 0: a point on a circle. */
export function onCircle(source: string, p: number, centre: number, radius: number): Equation {
  return makeEquation(
    source,
    [p, p + 1, centre, centre + 1, radius],
    (x) => Math.hypot(at(x, p) - at(x, centre), at(x, p + 1) - at(x, centre + 1)) - at(x, radius),
    (x, out, o) => {
      const [ux, uy] = direction(x, centre, p);
      out[o] = ux;
      out[o + 1] = uy;
      out[o + 2] = -ux;
      out[o + 3] = -uy;
      out[o + 4] = -1;
    },
  );
}

/** |A - B| - |C - D| = 0: two lines of equal length. */
export function equalLengths(source: string, a: number, b: number, c: number, d: number): Equation {
  return makeEquation(
    source,
    [a, a + 1, b, b + 1, c, c + 1, d, d + 1],
    (x) => Math.hypot(at(x, a) - at(x, b), at(x, a + 1) - at(x, b + 1)) - Math.hypot(at(x, c) - at(x, d), at(x, c + 1) - at(x, d + 1)),
    (x, out, o) => {
      const [ux, uy] = direction(x, b, a);
      const [vx, vy] = direction(x, d, c);
      out[o] = ux;
      out[o + 1] = uy;
      out[o + 2] = -ux;
      out[o + 3] = -uy;
      out[o + 4] = -vx;
      out[o + 5] = -vy;
      out[o + 6] = vx;
      out[o + 7] = vy;
    },
  );
}

/** P - (A + B)/2 = 0 in one coordinate; `axis` is 0 for x, 1 for y. */
export function midpoint(source: string, p: number, a: number, b: number, axis: 0 | 1): Equation {
  return makeEquation(
    source,
    [p + axis, a + axis, b + axis],
    (x) => at(x, p + axis) - (at(x, a + axis) + at(x, b + axis)) / 2,
    (_, out, o) => {
      out[o] = 1;
      out[o + 1] = -0.5;
      out[o + 2] = -0.5;
    },
  );
}

/**
 * Signed distance of P from the line through A and B, times `sense`, minus `radiusFactor` r:
 * sense ((B - A) x (P - A)) / |B - A| - radiusFactor x_radius = target.
 *
 * With d = B - A, l = |d|, u = d/l, n = (-uy, ux), s = n . (P - A), t = u . (P - A) / l:
 * by P n, by A -n (1 - t), by B -n t.
 */
export function lineDistance(source: string, p: number, a: number, b: number, sense: number, target: number, radius?: number): Equation {
  const variables = [p, p + 1, a, a + 1, b, b + 1, ...(radius === undefined ? [] : [radius])];
  return makeEquation(
    source,
    variables,
    (x) => sense * signedLineDistance(x, p, a, b) - (radius === undefined ? 0 : at(x, radius)),
    (x, out, o) => {
      const length = Math.hypot(at(x, b) - at(x, a), at(x, b + 1) - at(x, a + 1)) || 1;
      const [ux, uy] = direction(x, a, b);
      const along = (ux * (at(x, p) - at(x, a)) + uy * (at(x, p + 1) - at(x, a + 1))) / length;
      const [nx, ny] = [-uy * sense, ux * sense];
      out[o] = nx;
      out[o + 1] = ny;
      out[o + 2] = -nx * (1 - along);
      out[o + 3] = -ny * (1 - along);
      out[o + 4] = -nx * along;
      out[o + 5] = -ny * along;
      if (radius !== undefined) out[o + 6] = -1;
    },
    target,
  );
}

/** Left of the direction from A to B is positive. */
export function signedLineDistance(x: Float64Array, p: number, a: number, b: number): number {
  const [ux, uy] = direction(x, a, b);
  return ux * (at(x, p + 1) - at(x, a + 1)) - uy * (at(x, p) - at(x, a));
}

/** Unit vector from one point to another; (1, 0) where they coincide. */
export function direction(x: Float64Array, from: number, to: number): readonly [number, number] {
  const dx = at(x, to) - at(x, from);
  const dy = at(x, to + 1) - at(x, from + 1);
  const length = Math.hypot(dx, dy);
  return length > 0 ? [dx / length, dy / length] : [1, 0];
}
