/** Geometry of a sketch that follows something outside it: an edge of a body, a curve of another sketch. */
import type { EditOf, Entity } from '../document';
import { circumcentre, distance, turn } from './circles';
import type { Place } from './drawn-shape';

export type TakenFrom = NonNullable<Entity['from']>;

/** How close to one line or circle points must lie to be one, as a share of their extent. */
const FLAT = 1e-3;

/**
 * The edit that takes a curve in, from the points that it is drawn by, in the plane of the sketch; undefined when they are neither
 * on a line nor on a circle. Regeneration puts it exactly where its source is.
 */
export function takeEdit(sketch: string, from: TakenFrom, points: readonly Place[], newId: () => string): EditOf<'sketch.draw'> | undefined {
  const entities = fit(sketch, from, points, newId);
  return entities && { type: 'sketch.draw', sketch, entities, constraints: [], dimensions: [], values: [] };
}

function fit(sketch: string, from: TakenFrom, points: readonly Place[], newId: () => string): Entity[] | undefined {
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last) return undefined;
  const pointAt = ([x, y]: Place): Extract<Entity, { readonly type: 'point' }> => ({ type: 'point', id: newId(), sketch, x, y, isConstruction: true });
  if (points.length === 1) return [{ ...pointAt(first), from }];
  const middle = points[Math.floor(points.length / 2)] ?? first;
  const extent = Math.max(...points.map(([x, y]) => distance(first, [x, y])));
  if (extent < 1e-9) return undefined;
  const isClosed = distance(first, last) < 1e-6 * extent && points.length > 3;
  const isStraight = points.every((point) => Math.abs(turn(first, last, point)) <= FLAT * extent * distance(first, last));
  if (!isClosed && isStraight) {
    const [start, end] = [pointAt(first), pointAt(last)];
    return [start, end, { type: 'line', id: newId(), sketch, start: start.id, end: end.id, isConstruction: true, from }];
  }
  const third = (n: number): Place => points[Math.floor((n * points.length) / 3)] ?? middle;
  const at = isClosed ? circumcentre(first, third(1), third(2)) : circumcentre(first, middle, last);
  if (!at) return undefined;
  const radius = distance(at, first);
  if (points.some((point) => Math.abs(distance(at, point) - radius) > FLAT * extent)) return undefined;
  const centre = pointAt(at);
  if (isClosed) return [centre, { type: 'circle', id: newId(), sketch, centre: centre.id, radius, isConstruction: true, from }];
  const [a, b] = turn(first, middle, last) > 0 ? [first, last] : [last, first];
  const [start, end] = [pointAt(a), pointAt(b)];
  return [centre, start, end, { type: 'arc', id: newId(), sketch, centre: centre.id, start: start.id, end: end.id, isConstruction: true, from }];
}
