/**
 * Where something drawn along a path would run through itself: the path crosses or touches itself, or two stretches of it that
 * do not follow one another lie closer than what is drawn along them is wide. A kernel makes a solid of it all the same, and
 * counts twice what is there twice.
 *
 * Each curve sweeps a band in the plane of the path, from `right` to `left` of it; two bands overlap when their outlines cross
 * or one lies within the other. Neighbours meet in their common end, where they are mitred.
 */
import { sweepOf, type Curve, type Point2 } from './curve';
import { intersectCurves } from './intersect';
import { JOIN_TOLERANCE } from './joints';
import type { LoopCurve } from './loop';
import type { PlanePath } from './path';

export interface PathCrossing {
  readonly kind: 'crosses' | 'too-close';
  readonly curves: readonly [string, string];
}

/** How far what is drawn along the path reaches to either side of it, in millimetres; `left` above `right`, which is negative on the right. */
export interface PathWidth {
  readonly left: number;
  readonly right: number;
}

export function findPathCrossing({ curves, isClosed }: PlanePath, width: PathWidth): PathCrossing | undefined {
  const bands = curves.map((part) => bandOf(part, width));
  for (let i = 0; i < curves.length; i++) {
    for (let j = i + 1; j < curves.length; j++) {
      const [a, b] = [curves[i], curves[j]];
      if (!a || !b) continue;
      const areNeighbours = j === i + 1 || (isClosed && i === 0 && j === curves.length - 1);
      const ids = [a.curve.id, b.curve.id] as const;
      if (meetings(a, b).some((at) => !areNeighbours || !isCommonEnd(a, b, at))) return { kind: 'crosses', curves: ids };
      if (!areNeighbours && overlap(bands[i] ?? [], bands[j] ?? [])) return { kind: 'too-close', curves: ids };
    }
  }
  return undefined;
}

function meetings({ curve: a }: LoopCurve, { curve: b }: LoopCurve): Point2[] {
  return intersectCurves(a, b, JOIN_TOLERANCE);
}

function isCommonEnd(a: LoopCurve, b: LoopCurve, [x, y]: Point2): boolean {
  const near = ([px, py]: Point2): boolean => Math.hypot(px - x, py - y) < 1e-3;
  return endsOf(a.curve).some(near) && endsOf(b.curve).some(near);
}

function endsOf(curve: Curve): readonly Point2[] {
  return curve.kind === 'circle' ? [] : [curve.start, curve.end];
}

/** Bands that touch share a wall, which is no overlap: each is narrower by this. */
const CONTACT = 1e-6;

/** The outline of the band that a curve sweeps. */
function bandOf(part: LoopCurve, width: PathWidth): Curve[] {
  const left = width.left - CONTACT;
  const right = width.right + CONTACT;
  if (left <= right) return [];
  const { curve } = part;
  if (curve.kind === 'line') {
    const [from, to] = part.isReversed ? [curve.end, curve.start] : [curve.start, curve.end];
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    const [nx, ny] = [-(to[1] - from[1]) / length, (to[0] - from[0]) / length];
    const beside = ([x, y]: Point2, off: number): Point2 => [x + off * nx, y + off * ny];
    return ring([beside(from, right), beside(to, right), beside(to, left), beside(from, left)]);
  }
  if (curve.kind === 'circle') return [];
  // The centre of an arc that runs counter-clockwise lies on its left.
  const [inner, outer] = part.isReversed ? [curve.radius + right, curve.radius + left] : [curve.radius - left, curve.radius - right];
  const from = Math.atan2(curve.start[1] - curve.centre[1], curve.start[0] - curve.centre[0]);
  const at = (radius: number, angle: number): Point2 => [curve.centre[0] + radius * Math.cos(angle), curve.centre[1] + radius * Math.sin(angle)];
  const low = Math.max(inner, 0);
  const to = from + sweepOf(curve);
  const ends: Curve[] = [line(at(low, from), at(outer, from)), line(at(low, to), at(outer, to))];
  const arc = (radius: number): Curve => ({ kind: 'arc', id: 'band', centre: curve.centre, radius, start: at(radius, from), end: at(radius, to) });
  return [...ends, arc(outer), ...(low > CONTACT ? [arc(low)] : [])];
}

function overlap(a: readonly Curve[], b: readonly Curve[]): boolean {
  if (a.some((one) => b.some((other) => intersectCurves(one, other, 0).length > 0))) return true;
  return [
    [a, b],
    [b, a],
  ].some(([inside = [], around = []]) => inside[0] !== undefined && contains(around, startOf(inside[0])));
}

function startOf(curve: Curve): Point2 {
  return curve.kind === 'circle' ? curve.centre : curve.start;
}

/** Crossings of a ray in an odd direction, counted. */
function contains(outline: readonly Curve[], [x, y]: Point2): boolean {
  const ray = line([x, y], [x + 764_842.1872844885, y + 644_217.687237691]);
  return outline.reduce((count, curve) => count + intersectCurves(ray, curve, 0).length, 0) % 2 === 1;
}

function ring(points: readonly Point2[]): Curve[] {
  return points.map((point, i) => line(point, points[(i + 1) % points.length] ?? point));
}

function line(start: Point2, end: Point2): Curve {
  return { kind: 'line', id: 'band', start, end };
}
