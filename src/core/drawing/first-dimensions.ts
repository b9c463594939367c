/** Dimensions that a freshly drawn shape asks for, in the order in which they are offered. */
import type { Figure } from './figure';
import type { DimensionPlan } from './dimension-plan';
import { findEntity, middleOf, type DrawnShape, type Place } from './drawn-shape';
import type { DrawTool } from './draw-tools';

export interface OfferedDimension {
  readonly plan: DimensionPlan;
  /** Where its text will stand. */
  readonly at: Place;
}

/** `shape` holds the figure already; `gap` is how far beside the geometry a text stands, in millimetres. */
export function offerDimensions(tool: DrawTool, figure: Figure, shape: DrawnShape, gap: number): OfferedDimension[] {
  const lines = figure.entities.filter((entity) => entity.type === 'line' && entity.isConstruction !== true).map(({ id }) => id);
  const rounds = figure.entities.filter((entity) => entity.type === 'circle' || entity.type === 'arc').map(({ id }) => id);
  const [line = '', next = ''] = lines;
  const [round = '', other = ''] = rounds;
  switch (tool) {
    case 'rectangle':
    case 'rectangle-centre':
      return [side(shape, line, 'horizontal', [0, -gap]), side(shape, next, 'vertical', [gap, 0])].flatMap((offer) => offer ?? []);
    case 'circle':
    case 'circle-2':
    case 'circle-3':
    case 'polygon':
      return [{ plan: { kind: 'diameter', on: [round], reads: 2 * shape.radius(round) }, at: beside(shape, round, gap) }];
    case 'arc':
    case 'arc-3':
      return [{ plan: { kind: 'radius', on: [round], reads: shape.radius(round) }, at: beside(shape, round, gap) }];
    case 'slot': {
      const [a, b] = [centreOf(shape, round), centreOf(shape, other)];
      if (a === undefined || b === undefined) return [];
      const [p, q] = [shape.point(a), shape.point(b)];
      return [
        { plan: { kind: 'length', on: [a, b], reads: Math.hypot(q[0] - p[0], q[1] - p[1]) }, at: [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2] },
        { plan: { kind: 'radius', on: [round], reads: shape.radius(round) }, at: beside(shape, round, gap) },
      ];
    }
    case 'line':
    case 'arc-tangent':
    case 'point':
      return [];
  }
}

/** The same where a size is typed while the shape is being drawn: a line has a length then, an arc a radius. */
export function offerTyped(tool: DrawTool, figure: Figure, shape: DrawnShape, gap: number): OfferedDimension[] {
  if (tool !== 'line' && tool !== 'arc-tangent') return offerDimensions(tool, figure, shape, gap);
  const drawn = figure.entities.find(({ type }) => type === 'line' || type === 'arc');
  if (drawn?.type === 'arc') return [{ plan: { kind: 'radius', on: [drawn.id], reads: shape.radius(drawn.id) }, at: beside(shape, drawn.id, gap) }];
  if (drawn?.type !== 'line') return [];
  const [[ax, ay], [bx, by]] = [shape.point(drawn.start), shape.point(drawn.end)];
  const length = Math.hypot(bx - ax, by - ay);
  // To the right of the way it runs.
  const at: Place = [(ax + bx) / 2 + ((by - ay) / length) * gap, (ay + by) / 2 - ((bx - ax) / length) * gap];
  return length > 0 ? [{ plan: { kind: 'length', on: [drawn.id], reads: length }, at }] : [];
}

function side(shape: DrawnShape, id: string, kind: 'horizontal' | 'vertical', off: Place): OfferedDimension | undefined {
  const line = findEntity(shape, id);
  if (line?.type !== 'line') return undefined;
  const [[ax, ay], [bx, by]] = [shape.point(line.start), shape.point(line.end)];
  const [x, y] = middleOf(shape, id);
  return { plan: { kind, on: [id], reads: kind === 'horizontal' ? Math.abs(bx - ax) : Math.abs(by - ay) }, at: [x + off[0], y + off[1]] };
}

function centreOf(shape: DrawnShape, id: string): string | undefined {
  const entity = findEntity(shape, id);
  return entity?.type === 'arc' || entity?.type === 'circle' ? entity.centre : undefined;
}

function beside(shape: DrawnShape, id: string, gap: number): Place {
  const centre = shape.point(centreOf(shape, id) ?? '');
  const [x, y] = middleOf(shape, id);
  const radius = Math.hypot(x - centre[0], y - centre[1]) || 1;
  return [x + ((x - centre[0]) / radius) * gap, y + ((y - centre[1]) / radius) * gap];
}
