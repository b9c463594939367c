/**
 * What the pointer snaps to: points first, then middles of lines, then lines and circles, then being level
 * with or above the point before. The constraint that a snap stands for is shown before the click.
 */
import { middleOf, type DrawnShape, type Place } from './drawn-shape';

export interface Snap {
  readonly at: Place;
  /** The geometry snapped to. */
  readonly on?: { readonly id: string; readonly kind: 'point' | 'midpoint' | 'curve' };
  /** The line from the point before runs level or plumb. */
  readonly direction?: 'horizontal' | 'vertical';
}

/** `reach` is how near counts, in millimetres; `from` is the point before, of a line being drawn. */
export function findSnap(shape: DrawnShape, at: Place, reach: number, from?: Place): Snap {
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
  const levelled = level(at, reach, from);
  const curve = nearestCurve(shape, levelled.at, reach);
  if (curve) return { ...levelled, at: curve.place, on: { id: curve.id, kind: 'curve' } };
  return levelled;
}

function level(at: Place, reach: number, from: Place | undefined): Snap {
  if (!from) return { at };
  const [dx, dy] = [Math.abs(at[0] - from[0]), Math.abs(at[1] - from[1])];
  if (dy < reach && dx > 2 * reach) return { at: [at[0], from[1]], direction: 'horizontal' };
  if (dx < reach && dy > 2 * reach) return { at: [from[0], at[1]], direction: 'vertical' };
  return { at };
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
export function nearestCurve(shape: DrawnShape, at: Place, reach: number): { id: string; place: Place } | undefined {
  return nearest(
    shape.entities.flatMap((entity) => {
      const place = nearestOn(shape, entity.id, at);
      return place ? [[entity.id, place] as const] : [];
    }),
    at,
    reach,
  );
}

function nearestOn(shape: DrawnShape, id: string, [x, y]: Place): Place | undefined {
  const entity = shape.entities.find((candidate) => candidate.id === id);
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
    return [cx + ((x - cx) * r) / distance, cy + ((y - cy) * r) / distance];
  }
  return undefined;
}

/** The geometry under the pointer: a point before a curve. */
export function findUnder(shape: DrawnShape, at: Place, reach: number): string | undefined {
  const snap = findSnap(shape, at, reach);
  return snap.on?.kind === 'point' ? snap.on.id : nearestCurve(shape, at, reach)?.id;
}
