/** Equations of directions: parallel, perpendicular, angle; and of circles that touch. */
import { at, makeEquation, type Equation } from './equation';

/**
 * (d x e) / s = 0 for parallel and (d . e) / s = 0 for perpendicular, with d = B - A, e = D - C and s the mean
 * length at the start, which makes the residual a length. Bilinear, so the derivatives are exact and cheap.
 */
export function crossProduct(source: string, a: number, b: number, c: number, d: number, scale: number): Equation {
  return makeEquation(
    source,
    [a, a + 1, b, b + 1, c, c + 1, d, d + 1],
    (x) => {
      const [dx, dy, ex, ey] = vectors(x, a, b, c, d);
      return (dx * ey - dy * ex) / scale;
    },
    (x, out, o) => {
      const [dx, dy, ex, ey] = vectors(x, a, b, c, d);
      write(out, o, [-ey, ex, ey, -ex, dy, -dx, -dy, dx], scale);
    },
  );
}

export function dotProduct(source: string, a: number, b: number, c: number, d: number, scale: number): Equation {
  return makeEquation(
    source,
    [a, a + 1, b, b + 1, c, c + 1, d, d + 1],
    (x) => {
      const [dx, dy, ex, ey] = vectors(x, a, b, c, d);
      return (dx * ex + dy * ey) / scale;
    },
    (x, out, o) => {
      const [dx, dy, ex, ey] = vectors(x, a, b, c, d);
      write(out, o, [-ex, -ey, ex, ey, -dx, -dy, dx, dy], scale);
    },
  );
}

/**
 * sense * angle from d to e = near, in radians times `scale` (a length). The angle is atan2(d x e, d . e),
 * unwrapped to lie within half a turn of `near`, so that it has no jump where the solve goes.
 * By d: (dy, -dx) / |d|^2; by e: (-ey, ex) / |e|^2.
 */
export function angleBetween(
  source: string,
  points: readonly [a: number, b: number, c: number, d: number],
  sense: number,
  scale: number,
  near: number,
): Equation {
  const [a, b, c, d] = points;
  return makeEquation(
    source,
    [a, a + 1, b, b + 1, c, c + 1, d, d + 1],
    (x) => {
      const [dx, dy, ex, ey] = vectors(x, a, b, c, d);
      const angle = sense * Math.atan2(dx * ey - dy * ex, dx * ex + dy * ey);
      return unwrap(angle, near) * scale;
    },
    (x, out, o) => {
      const [dx, dy, ex, ey] = vectors(x, a, b, c, d);
      const [p, q] = [(dx * dx + dy * dy) / (sense * scale) || 1, (ex * ex + ey * ey) / (sense * scale) || 1];
      const [gx, gy, hx, hy] = [dy / p, -dx / p, -ey / q, ex / q];
      write(out, o, [-gx, -gy, gx, gy, -hx, -hy, hx, hy], 1);
    },
    near * scale,
    scale,
  );
}

function unwrap(angle: number, near: number): number {
  return angle - 2 * Math.PI * Math.round((angle - near) / (2 * Math.PI));
}

/**
 * The middle of P and Q on the line through A and B: (d x (M - A)) / s = 0 with d = B - A, M = (P + Q) / 2, s the
 * length of the line at the start. By P and Q (-dy, dx) / 2 each; by A (dy - my, mx - dx), by B (my, -mx), with
 * m = M - A.
 */
export function middleOnLine(source: string, p: number, q: number, a: number, b: number, scale: number): Equation {
  const middle = (x: Float64Array): readonly [number, number, number, number] => [
    at(x, b) - at(x, a),
    at(x, b + 1) - at(x, a + 1),
    (at(x, p) + at(x, q)) / 2 - at(x, a),
    (at(x, p + 1) + at(x, q + 1)) / 2 - at(x, a + 1),
  ];
  return makeEquation(
    source,
    [p, p + 1, q, q + 1, a, a + 1, b, b + 1],
    (x) => {
      const [dx, dy, mx, my] = middle(x);
      return (dx * my - dy * mx) / scale;
    },
    (x, out, o) => {
      const [dx, dy, mx, my] = middle(x);
      write(out, o, [-dy / 2, dx / 2, -dy / 2, dx / 2, dy - my, mx - dx, my, -mx], scale);
    },
  );
}

/**
 * r (angle of E - angle of S, both seen from C) = target: the length of an arc, the angle unwrapped to lie within half
 * a turn of `near`. With e = E - C, s = S - C: by E r (-ey, ex) / |e|^2, by S -r (-sy, sx) / |s|^2, by C the negative
 * of both, by r the angle.
 */
export function arcLength(source: string, centre: number, start: number, end: number, radius: number, near: number, target: number): Equation {
  const sweep = (x: Float64Array): number => {
    const [sx, sy, ex, ey] = vectors(x, centre, start, centre, end);
    return unwrap(Math.atan2(ey, ex) - Math.atan2(sy, sx), near);
  };
  return makeEquation(
    source,
    [centre, centre + 1, start, start + 1, end, end + 1, radius],
    (x) => at(x, radius) * sweep(x),
    (x, out, o) => {
      const [sx, sy, ex, ey] = vectors(x, centre, start, centre, end);
      const r = at(x, radius);
      const [ss, ee] = [sx * sx + sy * sy || 1, ex * ex + ey * ey || 1];
      const [gx, gy, hx, hy] = [(r * sy) / ss, (-r * sx) / ss, (-r * ey) / ee, (r * ex) / ee];
      write(out, o, [-gx - hx, -gy - hy, gx, gy, hx, hy, sweep(x)], 1);
    },
    target,
  );
}

/**
 * |C1 - C2| - (r1 + r2) = 0 for circles that touch outside; |C1 - C2| - sense (r1 - r2) = 0 inside.
 */
export function touchingCircles(source: string, c1: number, r1: number, c2: number, r2: number, f1: number, f2: number): Equation {
  return makeEquation(
    source,
    [c1, c1 + 1, c2, c2 + 1, r1, r2],
    (x) => Math.hypot(at(x, c1) - at(x, c2), at(x, c1 + 1) - at(x, c2 + 1)) - f1 * at(x, r1) - f2 * at(x, r2),
    (x, out, o) => {
      const dx = at(x, c1) - at(x, c2);
      const dy = at(x, c1 + 1) - at(x, c2 + 1);
      const length = Math.hypot(dx, dy) || 1;
      write(out, o, [dx / length, dy / length, -dx / length, -dy / length, -f1, -f2], 1);
    },
  );
}

function vectors(x: Float64Array, a: number, b: number, c: number, d: number): readonly [number, number, number, number] {
  return [at(x, b) - at(x, a), at(x, b + 1) - at(x, a + 1), at(x, d) - at(x, c), at(x, d + 1) - at(x, c + 1)];
}

function write(out: Float64Array, at: number, values: readonly number[], scale: number): void {
  for (let i = 0; i < values.length; i++) out[at + i] = (values[i] as number) / scale;
}
