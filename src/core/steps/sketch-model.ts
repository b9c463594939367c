/** A sketch of a document as the solver takes it, with its dimensions' present values; and its curves once solved. */
import {
  listIds,
  findAny,
  findRecord,
  isEntity,
  listRecords,
  type Document,
  type DocumentValues,
  type Entity,
  type SketchDimension,
  type SketchRepeat,
} from '../document';
import { repeatCurves, type Curve, type Point2, type Repeat } from '../geometry';
import type { SketchModel } from '../sketch';
import { MILLIMETRE } from '../units';

/** A length in millimetres from internal units. */
export function toMillimetres(value: number): number {
  return value / MILLIMETRE;
}

/** Places of points and radii of circles that come from elsewhere, by id. */
export interface TakenPlaces {
  readonly points: ReadonlyMap<string, Point2>;
  readonly radii: ReadonlyMap<string, number>;
}

export const NOTHING_TAKEN: TakenPlaces = { points: new Map(), radii: new Map() };

/** Constraints that hold geometry taken from elsewhere in its place have ids that begin so. */
export const TAKEN_PREFIX = 'taken:';

/** Geometry taken from elsewhere is held where it lies now; sides are those of the shape that was drawn. */
export function readSketchModel(document: Document, sketch: string, values: DocumentValues, taken: TakenPlaces = NOTHING_TAKEN): SketchModel {
  const entities = readEntities(document, sketch);
  const constrained = listIds(document, `${sketch}/constraints`).map((id) => findAny(document, id));
  const isAnyTaken = taken.points.size > 0 || taken.radii.size > 0;
  return {
    entities,
    ...(isAnyTaken ? { held: { points: Object.fromEntries(taken.points), radii: Object.fromEntries(taken.radii) } } : {}),
    constraints: [
      ...constrained.flatMap((record) => (record?.type === 'constraint' ? [record] : [])),
      ...entities.flatMap((entity) => (entity.from ? [{ id: `${TAKEN_PREFIX}${entity.id}`, kind: 'fixed' as const, on: heldBy(entity) }] : [])),
    ],
    dimensions: constrained.flatMap((record) =>
      record?.type === 'dimension'
        ? [
            {
              id: record.id,
              kind: record.kind,
              on: record.on,
              value: dimensionValue(record, values),
              isReference: record.isReference ?? false,
              ...(record.sense ? { sense: record.sense } : {}),
            },
          ]
        : [],
    ),
  };
}

export function readEntities(document: Document, sketch: string): Entity[] {
  return listIds(document, `${sketch}/entities`).flatMap((id) => {
    const record = findAny(document, id);
    return record && isEntity(record) ? [record] : [];
  });
}

/** What must not move of a taken curve; the radius of an arc follows from its points. */
function heldBy(entity: Entity): readonly string[] {
  switch (entity.type) {
    case 'point':
      return [entity.id];
    case 'line':
      return [entity.start, entity.end];
    case 'circle':
      return [entity.centre, entity.id];
    case 'arc':
      return [entity.centre, entity.start, entity.end];
  }
}

function dimensionValue(dimension: SketchDimension, values: DocumentValues): number {
  const value = values.sheet.readNumber(dimension.parameter);
  return dimension.kind === 'angle' ? (value * Math.PI) / 180 : toMillimetres(value);
}

/** Where points and radii are. */
export interface Places {
  readonly point: (id: string) => Point2;
  readonly radius: (id: string) => number;
}

/** The curves that bound regions, repeats included: construction geometry is left out. */
export function readCurves(document: Document, sketch: string, values: DocumentValues, places: Places): Curve[] {
  const drawn = readEntities(document, sketch).flatMap((entity) => (entity.isConstruction === true || entity.from ? [] : (curveOf(entity, places) ?? [])));
  return [...drawn, ...readCopies(document, sketch, values, places)];
}

/** The curves that repeats add to a sketch. A repeat whose values have an error adds none. */
export function readCopies(document: Document, sketch: string, values: DocumentValues, places: Places): Curve[] {
  return listRecords(document, `${sketch}/constraints`, 'repeat').flatMap((record) => {
    const repeat = readRepeat(document, record, values, places);
    if (!repeat) return [];
    const originals = record.of.flatMap((id) => {
      const entity = findAny(document, id);
      return entity && isEntity(entity) && entity.isConstruction !== true ? (curveOf(entity, places) ?? []) : [];
    });
    return repeatCurves(originals, repeat);
  });
}

/** More copies than this are a mistake. */
const MOST_PLACES = 2000;

function readRepeat(document: Document, record: SketchRepeat, values: DocumentValues, { point }: Places): Repeat | undefined {
  const count = values.sheet.readNumber(record.count);
  const spacing = values.sheet.readNumber(record.spacing) * (record.isReversed === true ? -1 : 1);
  if (!(count >= 1 && count <= MOST_PLACES) || !Number.isFinite(spacing)) return undefined;
  if (record.form === 'circular') return { form: 'circular', centre: point(record.about), pitch: (spacing * Math.PI) / 180, count };
  const direction = directionOf(document, record.about, point);
  return direction && { form: 'linear', direction, pitch: toMillimetres(spacing), count };
}

function directionOf(document: Document, id: string, point: Places['point']): Point2 | undefined {
  if (id === 'x-axis') return [1, 0];
  if (id === 'y-axis') return [0, 1];
  const line = findRecord(document, id, 'line');
  if (!line) return undefined;
  const [[ax, ay], [bx, by]] = [point(line.start), point(line.end)];
  const length = Math.hypot(bx - ax, by - ay);
  return length > 0 ? [(bx - ax) / length, (by - ay) / length] : undefined;
}

function curveOf(entity: Entity, { point, radius }: Places): Curve | undefined {
  const { id } = entity;
  switch (entity.type) {
    case 'point':
      return undefined;
    case 'line':
      return { kind: 'line', id, start: point(entity.start), end: point(entity.end) };
    case 'circle':
      return { kind: 'circle', id, centre: point(entity.centre), radius: radius(id) };
    case 'arc':
      return { kind: 'arc', id, start: point(entity.start), end: point(entity.end), centre: point(entity.centre), radius: radius(id) };
  }
}
