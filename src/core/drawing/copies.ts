/** Copies of what is drawn: mirrored in a line, pasted. */
import { findAny, listIds, referencesOf, type Edit, type Entity, type Parameter, type SketchConstraint, type SketchDimension } from '../document';
import { change, refuseChange, type ChangeContext, type ChangeResult } from './change';
import { findEntity, shapeToStore, type DrawnShape, type Place } from './drawn-shape';
import { drawEdit, FigureMaker } from './figure';
import { freeName } from './free-name';

/** Mirrors the chosen curves in a line; every pair of points is held symmetric, every pair of circles equal. */
export function mirrorCurves(context: ChangeContext, ids: readonly string[], axis: string): ChangeResult {
  const { shape, sketch } = context;
  const line = axisOf(shape, axis);
  const chosen = shape.entities.filter((entity) => ids.includes(entity.id) && entity.id !== axis);
  if (!line) return refuseChange('Choose the line to mirror in, last.');
  if (chosen.length === 0) return refuseChange('Choose what to mirror, then the line to mirror it in.');
  const maker = new FigureMaker(sketch, context.newId);
  const copies = new Map<string, string>();
  const pointOf = (id: string): string => {
    const known = copies.get(id);
    if (known !== undefined) return known;
    const place = shape.point(id);
    const image = reflect(place, line);
    // A point on the line is its own image.
    const isOnLine = Math.hypot(image[0] - place[0], image[1] - place[1]) < 1e-6;
    const copy = isOnLine ? id : maker.pointAt(image);
    if (!isOnLine) maker.relate('symmetric', id, copy, axis);
    copies.set(id, copy);
    return copy;
  };
  for (const entity of chosen) {
    const isConstruction = 'isConstruction' in entity && entity.isConstruction === true;
    switch (entity.type) {
      case 'point':
        pointOf(entity.id);
        break;
      case 'line':
        maker.line(pointOf(entity.start), pointOf(entity.end), isConstruction);
        break;
      case 'circle':
        maker.relate('equal', entity.id, maker.circle(pointOf(entity.centre), shape.radius(entity.id), isConstruction));
        break;
      case 'arc':
        // A mirror turns the sense: what ran counter-clockwise runs from the image of its end to that of its start.
        maker.arc(pointOf(entity.centre), pointOf(entity.end), pointOf(entity.start), isConstruction);
        break;
    }
  }
  return change(() => [drawEdit(sketch, maker.finish(), shapeToStore(shape))]);
}

function axisOf(shape: DrawnShape, id: string): readonly [Place, Place] | undefined {
  if (id === 'x-axis') return [[0, 0], [1, 0]]; // prettier-ignore
  if (id === 'y-axis') return [[0, 0], [0, 1]]; // prettier-ignore
  const entity = findEntity(shape, id);
  return entity?.type === 'line' ? [shape.point(entity.start), shape.point(entity.end)] : undefined;
}

function reflect([x, y]: Place, [[ax, ay], [bx, by]]: readonly [Place, Place]): Place {
  const [dx, dy] = [bx - ax, by - ay];
  const t = ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy);
  return [2 * (ax + t * dx) - x, 2 * (ay + t * dy) - y];
}

/** A part of a sketch to be pasted somewhere: geometry, what relates it to itself, and its dimensions. */
export interface SketchClip {
  readonly entities: readonly Entity[];
  readonly constraints: readonly SketchConstraint[];
  readonly dimensions: readonly SketchDimension[];
  readonly values: readonly Parameter[];
}

export function copyCurves({ document, sketch, shape }: ChangeContext, ids: readonly string[]): SketchClip | undefined {
  const chosen = new Set(ids);
  for (const id of ids) for (const other of referencesOf(findEntity(shape, id))) chosen.add(other);
  const entities = shape.entities
    .filter((entity) => chosen.has(entity.id))
    .map((entity): Entity => {
      if (entity.type === 'point') {
        const [x, y] = shape.point(entity.id);
        return { ...entity, x, y };
      }
      return entity.type === 'circle' ? { ...entity, radius: shape.radius(entity.id) } : entity;
    });
  if (entities.length === 0) return undefined;
  const own = listIds(document, `${sketch}/constraints`).map((id) => findAny(document, id));
  const isInside = (on: readonly string[]): boolean => on.every((id) => chosen.has(id));
  const dimensions = own.flatMap((record) => (record?.type === 'dimension' && isInside(record.on) ? [record] : []));
  return {
    entities,
    constraints: own.flatMap((record) => (record?.type === 'constraint' && record.kind !== 'fixed' && isInside(record.on) ? [record] : [])),
    dimensions,
    values: dimensions.flatMap(({ parameter }) => {
      const record = findAny(document, parameter);
      return record?.type === 'parameter' ? [record] : [];
    }),
  };
}

/** Pastes beside where it was: never on top. Values keep their formulas under free names. */
export function pasteClip(context: ChangeContext, clip: SketchClip, by: Place): { readonly edit: Edit; readonly ids: readonly string[] } {
  const { sketch, shape, newId } = context;
  const ids = new Map<string, string>();
  for (const record of [...clip.entities, ...clip.constraints, ...clip.dimensions, ...clip.values]) ids.set(record.id, newId());
  const to = (id: string): string => ids.get(id) ?? id;
  const entities = clip.entities.map((entity): Entity => {
    const base = { ...entity, id: to(entity.id), sketch };
    switch (base.type) {
      case 'point':
        return { ...base, x: base.x + by[0], y: base.y + by[1] };
      case 'line':
        return { ...base, start: to(base.start), end: to(base.end) };
      case 'circle':
        return { ...base, centre: to(base.centre) };
      case 'arc':
        return { ...base, centre: to(base.centre), start: to(base.start), end: to(base.end) };
    }
  });
  const values: Parameter[] = [];
  for (const value of clip.values) values.push({ ...value, id: to(value.id), owner: sketch, name: freeName(context, value.name, values) });
  return {
    ids: entities.filter((entity) => entity.type !== 'point').map((entity) => entity.id),
    edit: {
      type: 'sketch.draw',
      sketch,
      entities,
      constraints: clip.constraints.map((record) => ({ ...record, id: to(record.id), sketch, on: record.on.map(to) })),
      dimensions: clip.dimensions.map((record) => ({
        ...record,
        id: to(record.id),
        sketch,
        on: record.on.map(to),
        parameter: to(record.parameter),
        at: [record.at[0] + by[0], record.at[1] + by[1]] as [number, number],
      })),
      values,
      shape: shapeToStore(shape),
    },
  };
}
