/** The geometry of a sketch as it is drawn: the document's entities at their solved places. Millimetres. */
import { findAny, isEntity, listIds, type Document, type Entity } from '../document';
import type { Curve } from '../geometry';

export type Place = readonly [x: number, y: number];

export interface DrawnShape {
  readonly entities: readonly Entity[];
  readonly point: (id: string) => Place;
  readonly radius: (id: string) => number;
}

/** Where a solve put points, and the radii that it gave circles and arcs. */
export interface SolvedPlaces {
  readonly points: Readonly<Record<string, readonly [number, number]>>;
  readonly radii: Readonly<Record<string, number>>;
}

/** Places come from `solved` where it has them: what was drawn a moment ago is not in it yet. */
export function readShape(document: Pick<Document, 'records' | 'lists'>, sketch: string, solved: SolvedPlaces | undefined): DrawnShape {
  const entities = listIds(document, `${sketch}/entities`).flatMap((id) => {
    const record = findAny(document, id);
    return record && isEntity(record) ? [record] : [];
  });
  const byId = new Map(entities.map((entity) => [entity.id, entity]));
  const point = (id: string): Place => {
    if (id === 'origin' || id === 'x-axis' || id === 'y-axis') return [0, 0];
    const known = solved && Object.hasOwn(solved.points, id) ? solved.points[id] : undefined;
    if (known) return known;
    const entity = byId.get(id);
    return entity?.type === 'point' ? [entity.x, entity.y] : [0, 0];
  };
  return {
    entities,
    point,
    radius: (id) => {
      const known = solved && Object.hasOwn(solved.radii, id) ? solved.radii[id] : undefined;
      if (known !== undefined) return known;
      const entity = byId.get(id);
      if (entity?.type === 'circle') return entity.radius;
      if (entity?.type !== 'arc') return 0;
      const [[cx, cy], [x, y]] = [point(entity.centre), point(entity.start)];
      return Math.hypot(x - cx, y - cy);
    },
  };
}

/** Positions and radii to be stored as the start of the next solve, for everything that is in the document. */
export function shapeToStore(shape: DrawnShape): { points: Record<string, [number, number]>; radii: Record<string, number> } {
  const points: Record<string, [number, number]> = {};
  const radii: Record<string, number> = {};
  for (const entity of shape.entities) {
    if (entity.type === 'point') points[entity.id] = [...shape.point(entity.id)];
    if (entity.type === 'circle') radii[entity.id] = shape.radius(entity.id);
  }
  return { points, radii };
}

/** The points that fix where an entity's own dimension or mark is drawn. */
export function middleOf(shape: DrawnShape, id: string): Place {
  const entity = shape.entities.find((candidate) => candidate.id === id);
  switch (entity?.type) {
    case 'line': {
      const [[ax, ay], [bx, by]] = [shape.point(entity.start), shape.point(entity.end)];
      return [(ax + bx) / 2, (ay + by) / 2];
    }
    case 'circle': {
      const [x, y] = shape.point(entity.centre);
      const r = shape.radius(id) * Math.SQRT1_2;
      return [x + r, y + r];
    }
    case 'arc': {
      const [cx, cy] = shape.point(entity.centre);
      const from = angleAt(shape, entity.centre, entity.start);
      const sweep = sweepBetween(from, angleAt(shape, entity.centre, entity.end));
      const r = shape.radius(id);
      return [cx + r * Math.cos(from + sweep / 2), cy + r * Math.sin(from + sweep / 2)];
    }
    default:
      return shape.point(id);
  }
}

export function angleAt(shape: DrawnShape, centre: string, point: string): number {
  const [[cx, cy], [x, y]] = [shape.point(centre), shape.point(point)];
  return Math.atan2(y - cy, x - cx);
}

/** Counter-clockwise turn between two directions, over 0 up to a full turn. */
export function sweepBetween(from: number, to: number): number {
  const sweep = (to - from) % (2 * Math.PI);
  return sweep <= 1e-12 ? sweep + 2 * Math.PI : sweep;
}

export function findEntity(shape: DrawnShape, id: string): Entity | undefined {
  return shape.entities.find((entity) => entity.id === id);
}

/** A line, circle or arc as a plane curve; undefined for a point. */
export function toCurve(shape: DrawnShape, entity: Entity): Curve | undefined {
  const { id } = entity;
  switch (entity.type) {
    case 'point':
      return undefined;
    case 'line':
      return { kind: 'line', id, start: shape.point(entity.start), end: shape.point(entity.end) };
    case 'circle':
      return { kind: 'circle', id, centre: shape.point(entity.centre), radius: shape.radius(id) };
    case 'arc':
      return { kind: 'arc', id, start: shape.point(entity.start), end: shape.point(entity.end), centre: shape.point(entity.centre), radius: shape.radius(id) };
  }
}
