/**
 * What the pointer snaps to: points first, then middles of lines, then places on curves, then directions from the
 * point before: level, plumb, square to or going on from the curve that ends there, touching a circle. The constraint
 * that a snap stands for is shown before the click.
 */
import { referencesOf } from '../document';
import { curvesAt, directionBeyond } from './ends';
import { findEntity, middleOf, type DrawnShape, type Place } from './drawn-shape';

export interface Snap {
  readonly at: Place;
  /** The geometry snapped to. */
  readonly on?: { readonly id: string; readonly kind: 'point' | 'midpoint' | 'curve' };
  /** The line from the point before runs level or plumb. */
  readonly direction?: 'horizontal' | 'vertical';
  /** The line from the point before stands in this relation to a curve. */
  readonly relation?: { readonly kind: 'perpendicular' | 'tangent'; readonly to: string };
}

/** The point before, of a line being drawn. */
export interface SnapFrom {
  readonly at: Place;
  readonly id: string | undefined;
}

/** `reach` is how near counts, in millimetres. */
export function findSnap(shape: DrawnShape, at: Place, reach: number, from?: SnapFrom): Snap {
  const point = nearest(
    [['origin', [0, 0]] as const, ...shape.entities.flatMap((entity) => (entity.type === 'point' ? [[entity.id, shape.point(entity.id)] as const] : []))],
    at,
    reach,
  );
  if (point) return { at: point.place, on: { id: point.id, kind: 'point' } };
  const middle = nearest(
    shape.entities.flatMap((entity) => (entity.type === 'line' ? [[entity.id, middleOf(shape, entity.id)] as const] : [])),
    at,
    reach,
  );
  if (middle) return { at: middle.place, on: { id: middle.id, kind: 'midpoint' } };
  const aligned = from ? (align(at, reach, from) ?? follow(shape, at, reach, from) ?? { at }) : { at };
  const curve = nearestCurve(shape, aligned.at, reach);
  if (!curve) return onAxis(aligned, reach);
  const touching = from && !aligned.direction && !aligned.relation ? touch(shape, curve.id, at, reach, from.at) : undefined;
  return touching ?? { ...aligned, at: curve.place, on: { id: curve.id, kind: 'curve' } };
}

/** Onto an axis, along the direction that it has already, if that does not run beside it. */
function onAxis(snap: Snap, reach: number): Snap {
  const [x, y] = snap.at;
  if (snap.relation) return snap;
  if (Math.abs(x) < reach && snap.direction !== 'vertical') return { ...snap, at: [0, y], on: { id: 'y-axis', kind: 'curve' } };
  if (Math.abs(y) < reach && snap.direction !== 'horizontal') return { ...snap, at: [x, 0], on: { id: 'x-axis', kind: 'curve' } };
  return snap;
}

function align(at: Place, reach: number, from: SnapFrom): Snap | undefined {
  const [dx, dy] = [Math.abs(at[0] - from.at[0]), Math.abs(at[1] - from.at[1])];
  if (dy < reach && dx > 2 * reach) return { at: [at[0], from.at[1]], direction: 'horizontal' };
  if (dx < reach && dy > 2 * reach) return { at: [from.at[0], at[1]], direction: 'vertical' };
  return undefined;
}

/** Square to a line that ends in the point before, or going on from an arc that does. */
function follow(shape: DrawnShape, at: Place, reach: number, from: SnapFrom): Snap | undefined {
  if (from.id === undefined) return undefined;
  for (const curve of curvesAt(shape, from.id)) {
    const [ux, uy] = directionBeyond(shape, curve, from.id);
    const [vx, vy] = curve.type === 'arc' ? [ux, uy] : [-uy, ux];
    const [dx, dy] = [at[0] - from.at[0], at[1] - from.at[1]];
    const along = dx * vx + dy * vy;
    const off = Math.abs(dx * vy - dy * vx);
    const isForward = curve.type === 'line' || along > 0;
    if (off >= reach || Math.abs(along) <= 2 * reach || !isForward) continue;
    return { at: [from.at[0] + along * vx, from.at[1] + along * vy], relation: { kind: curve.type === 'arc' ? 'tangent' : 'perpendicular', to: curve.id } };
  }
  return undefined;
}

/** The place where a line from `from` touches a circle, if that is near the pointer. */
function touch(shape: DrawnShape, id: string, at: Place, reach: number, from: Place): Snap | undefined {
  const round = findEntity(shape, id);
  if (round?.type !== 'circle' && round?.type !== 'arc') return undefined;
  const [cx, cy] = shape.point(round.centre);
  const [dx, dy] = [from[0] - cx, from[1] - cy];
  const [gap, r] = [Math.hypot(dx, dy), shape.radius(id)];
  if (gap <= r) return undefined;
  const [middle, spread] = [Math.atan2(dy, dx), Math.acos(r / gap)];
  const places = [middle + spread, middle - spread].map((angle): Place => [cx + r * Math.cos(angle), cy + r * Math.sin(angle)]);
  const place = places.find(([x, y]) => Math.hypot(x - at[0], y - at[1]) < 2 * reach);
  return place && { at: place, on: { id, kind: 'curve' }, relation: { kind: 'tangent', to: id } };
}

function nearest(places: readonly (readonly [string, Place])[], at: Place, reach: number): { id: string; place: Place } | undefined {
  let best: { id: string; place: Place } | undefined;
  let least = reach;
  for (const [id, place] of places) {
    const distance = Math.hypot(place[0] - at[0], place[1] - at[1]);
    if (distance <= least) {
      least = distance;
      best = { id, place };
    }
  }
  return best;
}

/** The nearest place on a line, circle or arc; also used to find what is clicked. */
function nearestCurve(shape: DrawnShape, at: Place, reach: number): { id: string; place: Place } | undefined {
  return nearest(
    shape.entities.flatMap((entity) => {
      const place = nearestOn(shape, entity.id, at);
      return place ? [[entity.id, place] as const] : [];
    }),
    at,
    reach,
  );
}

export function nearestOn(shape: DrawnShape, id: string, [x, y]: Place): Place | undefined {
  const entity = findEntity(shape, id);
  if (entity?.type === 'line') {
    const [[ax, ay], [bx, by]] = [shape.point(entity.start), shape.point(entity.end)];
    const squared = (bx - ax) ** 2 + (by - ay) ** 2;
    if (squared === 0) return undefined;
    const t = Math.min(1, Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / squared));
    return [ax + t * (bx - ax), ay + t * (by - ay)];
  }
  if (entity?.type === 'circle' || entity?.type === 'arc') {
    const [cx, cy] = shape.point(entity.centre);
    const distance = Math.hypot(x - cx, y - cy);
    if (distance === 0) return undefined;
    const r = shape.radius(id);
    const place: Place = [cx + ((x - cx) * r) / distance, cy + ((y - cy) * r) / distance];
    return entity.type === 'circle' || isOnArc(shape, entity, place) ? place : undefined;
  }
  return undefined;
}

function isOnArc(shape: DrawnShape, arc: { readonly centre: string; readonly start: string; readonly end: string }, [x, y]: Place): boolean {
  const [cx, cy] = shape.point(arc.centre);
  const angle = ([px, py]: Place): number => Math.atan2(py - cy, px - cx);
  const full = 2 * Math.PI;
  const from = angle(shape.point(arc.start));
  const sweep = (((angle(shape.point(arc.end)) - from) % full) + full) % full || full;
  return (((angle([x, y]) - from) % full) + full) % full <= sweep;
}

/** The geometry under the pointer: a point before a curve, a curve before an axis. */
export function findUnder(shape: DrawnShape, at: Place, reach: number): string | undefined {
  const snap = findSnap(shape, at, reach);
  if (snap.on?.kind === 'point') return snap.on.id;
  const curve = nearestCurve(shape, at, reach);
  if (curve) return curve.id;
  if (Math.abs(at[1]) <= reach / 2) return 'x-axis';
  return Math.abs(at[0]) <= reach / 2 ? 'y-axis' : undefined;
}

/** Curves whose ends and middle lie in the box, and lone points in it. */
export function findInBox(shape: DrawnShape, a: Place, b: Place): string[] {
  const isInside = ([x, y]: Place): boolean => (x - a[0]) * (x - b[0]) <= 0 && (y - a[1]) * (y - b[1]) <= 0;
  const used = new Set(shape.entities.flatMap((entity) => referencesOf(entity)));
  return shape.entities.flatMap((entity) => {
    switch (entity.type) {
      case 'point':
        return !used.has(entity.id) && isInside(shape.point(entity.id)) ? entity.id : [];
      case 'circle': {
        const [x, y] = shape.point(entity.centre);
        const r = shape.radius(entity.id);
        return isInside([x - r, y - r]) && isInside([x + r, y + r]) ? entity.id : [];
      }
      case 'line':
      case 'arc':
        return [shape.point(entity.start), shape.point(entity.end), middleOf(shape, entity.id)].every(isInside) ? entity.id : [];
    }
  });
}
