/** Planes in space: where a sketch lies. Millimetres. */
export type Point3 = readonly [x: number, y: number, z: number];

/** A right-handed frame: sketch x and y, and the normal out of the plane. Unit vectors. */
export interface Frame {
  readonly origin: Point3;
  readonly x: Point3;
  readonly y: Point3;
  readonly normal: Point3;
}

/** The three datum planes; z is up, and the front is looked at along +y. */
export const DATUM_FRAMES = {
  front: { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 0, 1], normal: [0, -1, 0] },
  top: { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0], normal: [0, 0, 1] },
  side: { origin: [0, 0, 0], x: [0, 1, 0], y: [0, 0, 1], normal: [1, 0, 0] },
} as const satisfies Readonly<Record<string, Frame>>;

/** The point of space at (x, y) of the plane, `height` along its normal. */
export function toSpace(frame: Frame, x: number, y: number, height = 0): Point3 {
  const along = (i: 0 | 1 | 2): number => frame.origin[i] + x * frame.x[i] + y * frame.y[i] + height * frame.normal[i];
  return [along(0), along(1), along(2)];
}

/** A point of space as it looks from the plane, along its normal. */
export function toPlane({ origin, x, y }: Frame, [px, py, pz]: Point3): readonly [number, number] {
  const [dx, dy, dz] = [px - origin[0], py - origin[1], pz - origin[2]];
  return [dx * x[0] + dy * x[1] + dz * x[2], dx * y[0] + dy * y[1] + dz * y[2]];
}

/** A plane turned about its own x or y axis, by the right hand; in radians. */
export function turnFrame(frame: Frame, about: 'x' | 'y', angle: number): Frame {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const mix = (a: Point3, b: Point3, s: number, t: number): Point3 => [a[0] * s + b[0] * t, a[1] * s + b[1] * t, a[2] * s + b[2] * t];
  if (about === 'x') return { ...frame, y: mix(frame.y, frame.normal, cos, sin), normal: mix(frame.normal, frame.y, cos, -sin) };
  return { ...frame, x: mix(frame.x, frame.normal, cos, -sin), normal: mix(frame.normal, frame.x, cos, sin) };
}

/** A plane turned about its normal until its x runs as nearly along a direction as it can; as it is where the direction stands upright on it. */
export function alignFrame(frame: Frame, along: Point3): Frame {
  const { normal } = frame;
  const height = dot(along, normal);
  const flat: Point3 = [along[0] - height * normal[0], along[1] - height * normal[1], along[2] - height * normal[2]];
  const length = Math.hypot(...flat);
  if (length < 1e-6 * Math.hypot(...along)) return frame;
  const x: Point3 = [flat[0] / length, flat[1] / length, flat[2] / length];
  return { ...frame, x, y: cross(normal, x) };
}

export function dot(a: Point3, b: Point3): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

export function cross(a: Point3, b: Point3): Point3 {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

/** Whether a direction runs with the turn from one normal to another, first x second, or against it; undefined where it does neither. */
export function turnSense(direction: Point3, first: Point3, second: Point3): 1 | -1 | undefined {
  const turn = dot(direction, cross(first, second));
  if (Math.abs(turn) < 1e-6 * Math.hypot(...direction)) return undefined;
  return turn > 0 ? 1 : -1;
}
