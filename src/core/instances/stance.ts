/**
 * Where something stands: rotation as a unit quaternion, scalar first, then translation in millimetres. A point p of a component is at
 * `origin + turn p turn*` in its assembly. Products and rotation as in any text on quaternions (W. R. Hamilton, 1844).
 */
export type Quaternion = readonly [w: number, x: number, y: number, z: number];
type Vector = readonly [x: number, y: number, z: number];

export interface Stance {
  readonly origin: Vector;
  readonly turn: Quaternion;
}

export const STANDING: Stance = { origin: [0, 0, 0], turn: [1, 0, 0, 0] };

export function multiply([a, b, c, d]: Quaternion, [e, f, g, h]: Quaternion): Quaternion {
  return [a * e - b * f - c * g - d * h, a * f + b * e + c * h - d * g, a * g - b * h + c * e + d * f, a * h + b * g - c * f + d * e];
}

/** A direction as it is once it was turned. Read by index: the solver spends its time here, and taking an array apart is slower. */
export function rotate(turn: Quaternion, v: Vector): [number, number, number] {
  const w = turn[0];
  const x = turn[1];
  const y = turn[2];
  const z = turn[3];
  const vx = v[0];
  const vy = v[1];
  const vz = v[2];
  const tx = 2 * (y * vz - z * vy);
  const ty = 2 * (z * vx - x * vz);
  const tz = 2 * (x * vy - y * vx);
  return [vx + w * tx + y * tz - z * ty, vy + w * ty + z * tx - x * tz, vz + w * tz + x * ty - y * tx];
}

/** A point of what stands there, in the space that it stands in. */
export function toOutside({ origin, turn }: Stance, point: Vector): [number, number, number] {
  const at = rotate(turn, point);
  at[0] += origin[0];
  at[1] += origin[1];
  at[2] += origin[2];
  return at;
}

/** Where something stands that stands at `inner` within something at `outer`. */
export function combine(outer: Stance, inner: Stance): Stance {
  return { origin: toOutside(outer, inner.origin), turn: multiply(outer.turn, inner.turn) };
}

/** Where something stands within something else, both told in the same space. */
export function relativeTo(outer: Stance, inner: Stance): Stance {
  const back = inverse(outer.turn);
  const [a, b] = [outer.origin, inner.origin];
  return { turn: multiply(back, inner.turn), origin: rotate(back, [b[0] - a[0], b[1] - a[1], b[2] - a[2]]) };
}

/** Turned by an angle, in radians by the right hand, about a unit vector. */
export function turnAbout([x, y, z]: Vector, angle: number): Quaternion {
  const [half, s] = [angle / 2, Math.sin(angle / 2)];
  return [Math.cos(half), x * s, y * s, z * s];
}

/** Turned back. */
export function inverse([w, x, y, z]: Quaternion): Quaternion {
  return [w, -x, -y, -z];
}

export function normalise([w, x, y, z]: Quaternion): Quaternion {
  const length = Math.hypot(w, x, y, z);
  return [w / length, x / length, y / length, z / length];
}

/** 4 x 4, row by row, in millimetres: it takes a column of a point inside to that outside. */
export function toMatrix({ origin, turn }: Stance): readonly number[] {
  const [ex, ey, ez] = [rotate(turn, [1, 0, 0]), rotate(turn, [0, 1, 0]), rotate(turn, [0, 0, 1])];
  return [ex[0], ey[0], ez[0], origin[0], ex[1], ey[1], ez[1], origin[1], ex[2], ey[2], ez[2], origin[2], 0, 0, 0, 1];
}
