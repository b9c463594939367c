/** Copies of what is drawn: mirrored in a line, offset beside it, pasted. */
import {
  findAny,
  listIds,
  referencesOf,
  takenNames,
  type Edit,
  type EditOf,
  type Entity,
  type Parameter,
  type SketchConstraint,
  type SketchDimension,
} from '../document';
import { automaticName, checkName } from '../formula';
import { change, refuseChange, type ChangeContext, type ChangeResult } from './change';
import { turn } from './circles';
import { findEntity, shapeToStore, type DrawnShape, type Place } from './drawn-shape';
import type { NamedFormula } from './dimension-plan';
import { drawEdit, FigureMaker } from './figure';

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

/** What is offset: the dimensions that hold it are all given by the first. */
export interface OffsetWish {
  readonly ids: readonly string[];
  /** A place on the side where the copy goes. */
  readonly towards: Place;
  /** How far, in millimetres, where the solve starts. */
  readonly distance: number;
  readonly value: NamedFormula;
}

/** Draws lines, or a circle, beside the chosen ones. A chain of lines keeps its corners. */
export function offsetCurves(context: ChangeContext, wish: OffsetWish): ChangeResult {
  const { shape, sketch, newId } = context;
  const chosen = shape.entities.filter((entity) => wish.ids.includes(entity.id));
  const lines = chosen.filter((entity) => entity.type === 'line');
  const circles = chosen.filter((entity) => entity.type === 'circle');
  if (!(wish.distance > 0)) return refuseChange('The distance must be more than 0.');
  if (lines.length + circles.length === 0 || lines.length + circles.length < chosen.filter((entity) => entity.type !== 'point').length) {
    return refuseChange('Offset takes lines and circles.');
  }
  const maker = new FigureMaker(sketch, newId);
  const owner = findAny(context.document, sketch);
  const base = wish.value.name ?? automaticName(owner && 'name' in owner ? owner.name : 'sketch', takenNames(context.document));
  const dimensions: SketchDimension[] = [];
  const values: Parameter[] = [];
  const measure = (kind: SketchDimension['kind'], on: string[], at: Place): void => {
    const isFirst = values.length === 0;
    const id = newId();
    const name = isFirst ? base : freeName(context, `${base}_${values.length + 1}`, values);
    values.push({ type: 'parameter', id, owner: sketch, name, formula: { text: isFirst ? wish.value.formula : base }, kind: 'length' });
    dimensions.push({ type: 'dimension', id: newId(), sketch, kind, on, parameter: id, at: [at[0], at[1]] });
  };
  for (const circle of circles) {
    const centre = shape.point(circle.centre);
    const isOutside = Math.hypot(wish.towards[0] - centre[0], wish.towards[1] - centre[1]) > shape.radius(circle.id);
    const radius = shape.radius(circle.id) + (isOutside ? wish.distance : -wish.distance);
    if (radius <= 0) return refuseChange('The circle is too small for that distance.');
    // Construction points on both rims, level with the centre, carry the distance.
    const copy = maker.circle(circle.centre, radius);
    const [inner, outer] = [maker.pointAt([centre[0] + shape.radius(circle.id), centre[1]]), maker.pointAt([centre[0] + radius, centre[1]])];
    maker.relate('coincident', inner, circle.id);
    maker.relate('coincident', outer, copy);
    maker.relate('horizontal', circle.centre, inner);
    maker.relate('horizontal', circle.centre, outer);
    measure('horizontal', [inner, outer], [centre[0] + radius + wish.distance, centre[1] + wish.distance]);
  }
  offsetChain(shape, lines, wish, maker, measure);
  return change(() => [{ ...drawEdit(sketch, maker.finish(), shapeToStore(shape)), type: 'sketch.draw', dimensions, values } as EditOf<'sketch.draw'>]);
}

type Line = Extract<Entity, { readonly type: 'line' }>;

function offsetChain(
  shape: DrawnShape,
  lines: readonly Line[],
  wish: OffsetWish,
  maker: FigureMaker,
  measure: (kind: SketchDimension['kind'], on: string[], at: Place) => void,
): void {
  const side = chainSide(shape, lines, wish.towards);
  const corners = new Map<string, string>();
  for (const line of lines) {
    const ends = [line.start, line.end].map((id) => {
      const known = corners.get(id);
      if (known !== undefined) return known;
      const made = maker.pointAt(offsetCorner(shape, lines, id, side, wish.distance));
      corners.set(id, made);
      return made;
    });
    const [a = '', b = ''] = ends;
    maker.relate('parallel', line.id, maker.line(a, b));
    const [p, q] = [shape.point(line.start), shape.point(line.end)];
    measure('length', [a, line.id], [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]);
  }
}

/** 1 when the copy lies left of each line as the chain runs, by the line nearest to the place; per line, for lines drawn either way. */
function chainSide(shape: DrawnShape, lines: readonly Line[], towards: Place): ReadonlyMap<string, 1 | -1> {
  const order = new Map<string, 1 | -1>();
  let nearest: { line: Line; gap: number } | undefined;
  for (const line of lines) {
    const [a, b] = [shape.point(line.start), shape.point(line.end)];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    const t = Math.min(1, Math.max(0, ((towards[0] - a[0]) * (b[0] - a[0]) + (towards[1] - a[1]) * (b[1] - a[1])) / (length * length)));
    const gap = Math.hypot(a[0] + t * (b[0] - a[0]) - towards[0], a[1] + t * (b[1] - a[1]) - towards[1]);
    if (!nearest || gap < nearest.gap) nearest = { line, gap };
  }
  if (!nearest) return order;
  order.set(nearest.line.id, turn(shape.point(nearest.line.start), shape.point(nearest.line.end), towards) > 0 ? 1 : -1);
  // Neighbours that are drawn the other way round have it on their other side.
  for (let grew = true; grew;) {
    grew = false;
    for (const line of lines) {
      if (order.has(line.id)) continue;
      const neighbour = lines.find((other) => order.has(other.id) && [other.start, other.end].some((id) => id === line.start || id === line.end));
      if (!neighbour) continue;
      const sameWay = neighbour.end === line.start || neighbour.start === line.end;
      order.set(line.id, ((order.get(neighbour.id) ?? 1) * (sameWay ? 1 : -1)) as 1 | -1);
      grew = true;
    }
  }
  for (const line of lines) if (!order.has(line.id)) order.set(line.id, turn(shape.point(line.start), shape.point(line.end), towards) > 0 ? 1 : -1);
  return order;
}

/** Where the offset lines at a point meet; beside the point where only one line ends there. */
function offsetCorner(shape: DrawnShape, lines: readonly Line[], id: string, side: ReadonlyMap<string, 1 | -1>, distance: number): Place {
  const at = shape.point(id);
  const normals = lines
    .filter((line) => line.start === id || line.end === id)
    .map((line): Place => {
      const [a, b] = [shape.point(line.start), shape.point(line.end)];
      const far = ((side.get(line.id) ?? 1) * distance) / (Math.hypot(b[0] - a[0], b[1] - a[1]) || 1);
      return [-(b[1] - a[1]) * far, (b[0] - a[0]) * far];
    });
  const [n, m] = normals;
  if (!n) return at;
  const cross = m ? n[0] * m[1] - n[1] * m[0] : 0;
  if (!m || Math.abs(cross) < 1e-9 * distance * distance) return [at[0] + n[0], at[1] + n[1]];
  // p . n = d^2 and p . m = d^2.
  const square = distance * distance;
  return [at[0] + (square * (m[1] - n[1])) / cross, at[1] + (square * (n[0] - m[0])) / cross];
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

function freeName({ document }: ChangeContext, wanted: string, made: readonly Parameter[]): string {
  const isTaken = takenNames(document);
  const own = new Set(made.map(({ name }) => name));
  for (let n = 1; ; n++) {
    const name = n === 1 ? wanted : `${wanted}_${n}`;
    if (!checkName(name, (other) => own.has(other) || isTaken(other))) return name;
  }
}
