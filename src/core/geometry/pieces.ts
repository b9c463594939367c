/**
 * Curves cut where they meet: pieces that touch each other in their ends only. A piece keeps the id of the
 * curve that it is part of. Where two curves run over each other, one piece stands for both.
 */
import { arcMiddle, isWithinSweep, type ArcCurve, type Curve, type LineCurve, type Point2 } from './curve';
import { intersectCurves } from './intersect';
import { JOIN_TOLERANCE, type Joints } from './joints';

/** Part of a curve between two joints; a circle that meets nothing has none. */
export interface Piece {
  readonly curve: LineCurve | ArcCurve;
  readonly from: number;
  readonly to: number;
}

export interface Pieces {
  readonly open: readonly Piece[];
  /** Circles that nothing meets. */
  readonly circles: readonly Extract<Curve, { readonly kind: 'circle' }>[];
  /** Where two curves run past one another and touch without crossing. */
  readonly touches: readonly Touch[];
}

export interface Touch {
  readonly curves: readonly [string, string];
  readonly at: Point2;
}

export function cutIntoPieces(curves: readonly Curve[], joints: Joints): Pieces {
  const { cuts, touches } = findCuts(curves);
  const circles: Extract<Curve, { readonly kind: 'circle' }>[] = [];
  const open: Piece[] = [];
  const seen = new Set<string>();
  curves.forEach((curve, index) => {
    const at = cuts[index] ?? [];
    if (curve.kind === 'circle' && at.length === 0) {
      const key = ['circle', ...curve.centre, curve.radius].map(roundOff).join(' ');
      if (!seen.has(key)) circles.push(curve);
      seen.add(key);
      return;
    }
    for (const part of cut(curve, at)) {
      const [from, to] = [joints.at(part.start), joints.at(part.end)];
      if (from === to && part.kind === 'line') continue;
      const [mx, my] = middleOf(part);
      const key = `${Math.min(from, to)} ${Math.max(from, to)} ${roundOff(mx)} ${roundOff(my)}`;
      if (seen.has(key)) continue;
      seen.add(key);
      open.push({ curve: part, from, to });
    }
  });
  return { open, circles, touches };
}

/** To a hundredth of a micrometre: coarser than noise, finer than any shape. */
function roundOff(value: number | string): string {
  return typeof value === 'string' ? value : (Math.round(value * 1e5) / 1e5).toFixed(5);
}

/** Places on each curve, other than its own ends, where another one meets it. */
function findCuts(curves: readonly Curve[]): { readonly cuts: readonly Point2[][]; readonly touches: readonly Touch[] } {
  const touches: Touch[] = [];
  const cuts: Point2[][] = curves.map(() => []);
  const boxes = curves.map(boxOf);
  const byLeft = curves.map((_, i) => i).sort((i, j) => (boxes[i]?.[0] ?? 0) - (boxes[j]?.[0] ?? 0));
  for (let a = 0; a < byLeft.length; a++) {
    const i = byLeft[a] ?? 0;
    const [first, box] = [curves[i], boxes[i]];
    for (let b = a + 1; b < byLeft.length; b++) {
      const j = byLeft[b] ?? 0;
      const [second, other] = [curves[j], boxes[j]];
      if (!first || !second || !box || !other) continue;
      if (other[0] > box[2] + JOIN_TOLERANCE) break;
      if (other[1] > box[3] + JOIN_TOLERANCE || box[1] > other[3] + JOIN_TOLERANCE) continue;
      for (const at of [...intersectCurves(first, second, JOIN_TOLERANCE), ...endsOn(first, second), ...endsOn(second, first)]) {
        if (!isEnd(first, at)) cuts[i]?.push(at);
        if (!isEnd(second, at)) cuts[j]?.push(at);
        if (!isEnd(first, at) && !isEnd(second, at) && isTangent(first, second, at)) touches.push({ curves: [first.id, second.id], at });
      }
    }
  }
  return { cuts, touches };
}

/** Directions closer than this count as one. */
const SAME_DIRECTION = 1e-5;

/** Whether two curves have one direction where they meet, and are not parts of one line or circle. */
function isTangent(a: Curve, b: Curve, at: Point2): boolean {
  if (a.kind === 'line' && b.kind === 'line') return false;
  if (a.kind !== 'line' && b.kind !== 'line' && Math.hypot(a.centre[0] - b.centre[0], a.centre[1] - b.centre[1]) < JOIN_TOLERANCE * 10) return false;
  const [[ax, ay], [bx, by]] = [directionAt(a, at), directionAt(b, at)];
  return Math.abs(ax * by - ay * bx) < SAME_DIRECTION;
}

function directionAt(curve: Curve, [x, y]: Point2): Point2 {
  const [dx, dy] = curve.kind === 'line' ? [curve.end[0] - curve.start[0], curve.end[1] - curve.start[1]] : [curve.centre[1] - y, x - curve.centre[0]];
  const length = Math.hypot(dx, dy) || 1;
  return [dx / length, dy / length];
}

/** Ends of one curve that lie on another. */
function endsOn(ended: Curve, curve: Curve): Point2[] {
  if (ended.kind === 'circle') return [];
  return [ended.start, ended.end].filter((end) => liesNear(curve, end, JOIN_TOLERANCE));
}

/** Whether a point lies on a curve, to within `tolerance` millimetres. */
export function liesNear(curve: Curve, point: Point2, tolerance: number): boolean {
  if (curve.kind === 'line') {
    const [dx, dy] = [curve.end[0] - curve.start[0], curve.end[1] - curve.start[1]];
    const length = Math.hypot(dx, dy);
    const [px, py] = [point[0] - curve.start[0], point[1] - curve.start[1]];
    const along = (px * dx + py * dy) / length;
    return Math.abs(px * dy - py * dx) / length < tolerance && along > -tolerance && along < length + tolerance;
  }
  const off = Math.hypot(point[0] - curve.centre[0], point[1] - curve.centre[1]) - curve.radius;
  return Math.abs(off) < tolerance && (curve.kind === 'circle' || isWithinSweep(curve, point, tolerance));
}

function isEnd(curve: Curve, [x, y]: Point2): boolean {
  if (curve.kind === 'circle') return false;
  return [curve.start, curve.end].some((end) => Math.hypot(end[0] - x, end[1] - y) < JOIN_TOLERANCE * 10);
}

function cut(curve: Curve, at: readonly Point2[]): (LineCurve | ArcCurve)[] {
  if (curve.kind === 'line') {
    const along = ([x, y]: Point2) => (x - curve.start[0]) * (curve.end[0] - curve.start[0]) + (y - curve.start[1]) * (curve.end[1] - curve.start[1]);
    return betweens([curve.start, ...sortApart(at, along), curve.end]).map(([start, end]) => ({ ...curve, start, end }));
  }
  const origin = curve.kind === 'circle' ? at[0] : curve.start;
  if (!origin) return [];
  const base = angleOf(curve.centre, origin);
  const turn = (point: Point2) => (angleOf(curve.centre, point) - base + 4 * Math.PI) % (2 * Math.PI);
  const { id, centre, radius } = curve;
  const between = sortApart(
    curve.kind === 'circle' ? at.filter((point) => Math.hypot(point[0] - origin[0], point[1] - origin[1]) > JOIN_TOLERANCE * 10) : at,
    turn,
  );
  const ends = curve.kind === 'circle' ? [origin, ...between, origin] : [origin, ...between, curve.end];
  return betweens(ends).map(([start, end]) => ({ kind: 'arc', id, centre, radius, start, end }));
}

/** Sorted along the curve, with repeats of one place dropped. */
function sortApart(points: readonly Point2[], along: (point: Point2) => number): Point2[] {
  const sorted = [...points].sort((a, b) => along(a) - along(b));
  return sorted.filter((point, i) => {
    const before = sorted[i - 1];
    return !before || Math.hypot(point[0] - before[0], point[1] - before[1]) > JOIN_TOLERANCE * 10;
  });
}

function betweens(points: readonly Point2[]): [Point2, Point2][] {
  return points.slice(1).map((end, i) => [points[i] ?? end, end]);
}

function angleOf(centre: Point2, [x, y]: Point2): number {
  return Math.atan2(y - centre[1], x - centre[0]);
}

function middleOf(curve: LineCurve | ArcCurve): Point2 {
  return curve.kind === 'arc' ? arcMiddle(curve) : [(curve.start[0] + curve.end[0]) / 2, (curve.start[1] + curve.end[1]) / 2];
}

type Box = readonly [minX: number, minY: number, maxX: number, maxY: number];

function boxOf(curve: Curve): Box {
  if (curve.kind === 'line') {
    const [[a, b], [c, d]] = [curve.start, curve.end];
    return [Math.min(a, c), Math.min(b, d), Math.max(a, c), Math.max(b, d)];
  }
  const [[x, y], r] = [curve.centre, curve.radius];
  return [x - r, y - r, x + r, y + r];
}
