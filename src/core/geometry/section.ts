/**
 * Properties of plane regions: area, perimeter, centroid, second moments. Exact for lines and arcs.
 *
 * A region is the polygon through its corners, with each arc replaced by the two radii to its centre, plus
 * the sectors of its arcs. The polygon is summed over triangles with the origin (the surveyor's formula and
 * its moments), a sector about its centre in polar coordinates and moved by the parallel-axes theorem.
 */
import { lengthOf, sweepOf, type ArcCurve, type Point2 } from './curve';
import type { Loop } from './loop';
import type { Profile } from './profile';

export interface SectionProperties {
  /** Square millimetres. */
  readonly area: number;
  /** Length of all its edges, holes included, in millimetres. */
  readonly perimeter: number;
  readonly centroid: Point2;
  /** About the axis through the centroid that is parallel to x: the integral of y² dA; mm⁴. */
  readonly secondMomentX: number;
  /** About the axis through the centroid that is parallel to y: the integral of x² dA; mm⁴. */
  readonly secondMomentY: number;
  /** The integral of xy dA about the centroid; mm⁴. */
  readonly productMoment: number;
}

/** Integrals over a region about some origin: of 1, x, y, x², y², xy. */
interface Moments {
  area: number;
  x: number;
  y: number;
  xx: number;
  yy: number;
  xy: number;
}

export function measureSection(profiles: readonly Profile[]): SectionProperties {
  const total: Moments = { area: 0, x: 0, y: 0, xx: 0, yy: 0, xy: 0 };
  let perimeter = 0;
  for (const { outer, holes } of profiles) {
    addLoop(total, outer, 1);
    for (const hole of holes) addLoop(total, hole, -1);
    for (const { curves } of [outer, ...holes]) for (const { curve } of curves) perimeter += lengthOf(curve);
  }
  const { area } = total;
  const centroid: Point2 = [total.x / area, total.y / area];
  return {
    area,
    perimeter,
    centroid,
    secondMomentX: total.yy - area * centroid[1] ** 2,
    secondMomentY: total.xx - area * centroid[0] ** 2,
    productMoment: total.xy - area * centroid[0] * centroid[1],
  };
}

function addLoop(total: Moments, loop: Loop, sign: number): void {
  for (const { curve, isReversed } of loop.curves) {
    const way = isReversed ? -sign : sign;
    switch (curve.kind) {
      case 'line':
        addTriangle(total, curve.start, curve.end, way);
        break;
      case 'arc':
        addTriangle(total, curve.start, curve.centre, way);
        addTriangle(total, curve.centre, curve.end, way);
        addSector(total, curve, way);
        break;
      case 'circle': {
        const { centre, radius } = curve;
        const turn = radius ** 4 * (Math.PI / 4);
        addMoved(total, { area: Math.PI * radius ** 2, x: 0, y: 0, xx: turn, yy: turn, xy: 0 }, centre, sign);
        break;
      }
    }
  }
}

/** The triangle of the origin, `a` and `b`; negative where it is passed clockwise. */
function addTriangle(total: Moments, [ax, ay]: Point2, [bx, by]: Point2, way: number): void {
  const cross = way * (ax * by - ay * bx);
  total.area += cross / 2;
  total.x += ((ax + bx) * cross) / 6;
  total.y += ((ay + by) * cross) / 6;
  total.xx += ((ax * ax + ax * bx + bx * bx) * cross) / 12;
  total.yy += ((ay * ay + ay * by + by * by) * cross) / 12;
  total.xy += ((ax * by + 2 * ax * ay + 2 * bx * by + bx * ay) * cross) / 24;
}

function addSector(total: Moments, arc: ArcCurve, way: number): void {
  const { radius, centre } = arc;
  const from = Math.atan2(arc.start[1] - centre[1], arc.start[0] - centre[0]);
  const sweep = sweepOf(arc);
  const to = from + sweep;
  const [cube, fourth] = [radius ** 3 / 3, radius ** 4 / 4];
  const doubled = (Math.sin(2 * to) - Math.sin(2 * from)) / 4;
  const local: Moments = {
    area: (radius ** 2 * sweep) / 2,
    x: cube * (Math.sin(to) - Math.sin(from)),
    y: cube * (Math.cos(from) - Math.cos(to)),
    xx: fourth * (sweep / 2 + doubled),
    yy: fourth * (sweep / 2 - doubled),
    xy: (fourth * (Math.sin(to) ** 2 - Math.sin(from) ** 2)) / 2,
  };
  addMoved(total, local, centre, way);
}

/** Adds moments about a point as moments about the origin. */
function addMoved(total: Moments, local: Moments, [cx, cy]: Point2, way: number): void {
  total.area += way * local.area;
  total.x += way * (local.x + cx * local.area);
  total.y += way * (local.y + cy * local.area);
  total.xx += way * (local.xx + 2 * cx * local.x + cx * cx * local.area);
  total.yy += way * (local.yy + 2 * cy * local.y + cy * cy * local.area);
  total.xy += way * (local.xy + cx * local.y + cy * local.x + cx * cy * local.area);
}
