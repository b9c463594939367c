/** Straight lines in space, without ends. */
import { cross, dot, type Point3 } from './frame';

export interface Line {
  readonly origin: Point3;
  /** Of length 1. */
  readonly direction: Point3;
}

/** The sine of an angle below which two directions count as one. */
const PARALLEL = 1e-9;

/** The least distance of two lines, in the unit of their origins. */
export function distanceOfLines(first: Line, second: Line): number {
  const [u, v] = [first.direction, second.direction];
  const across: Point3 = [second.origin[0] - first.origin[0], second.origin[1] - first.origin[1], second.origin[2] - first.origin[2]];
  const normal = cross(u, v);
  const sine = Math.hypot(...normal);
  // Side by side: what of the way across stands square to both.
  return sine < PARALLEL ? Math.hypot(...cross(across, u)) : Math.abs(dot(across, normal)) / sine;
}
