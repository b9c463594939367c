/** Which dimension the picked geometry asks for, what it reads now, and the edit that makes it. */
import { meantNames, takenNames, type DimensionKind, type Edit, type EditOf } from '../document';
import { automaticName } from '../formula';
import type { ChangeContext } from './change';
import { findEntity, shapeToStore, type DrawnShape, type Place } from './drawn-shape';

export interface DimensionPlan {
  readonly kind: DimensionKind;
  readonly on: readonly string[];
  /** Millimetres or degrees. */
  readonly reads: number;
}

/** `label` is where the text will stand: it tells level from plumb for two points. */
export function planDimension(shape: DrawnShape, picked: readonly string[], label: Place): DimensionPlan | undefined {
  const things = picked.map((id) => classify(shape, id));
  const [first, second] = things;
  if (!first) return undefined;
  if (!second) {
    if (first.kind === 'circle') return { kind: 'diameter', on: [first.id], reads: 2 * shape.radius(first.id) };
    if (first.kind === 'arc') return { kind: 'radius', on: [first.id], reads: shape.radius(first.id) };
    if (first.kind === 'line' && first.start !== undefined) return betweenPoints([first.id], ...first.ends, label);
    return undefined;
  }
  if (first.kind === 'line' && second.kind === 'line') return betweenLines(first, second);
  const line = first.kind === 'line' ? first : second.kind === 'line' ? second : undefined;
  const other = line === first ? second : first;
  if (line) {
    const point = pointOf(other);
    return { kind: 'length', on: [point, line.id], reads: Math.abs(offLine(shape.point(point), line)) };
  }
  const [p, q] = [pointOf(first), pointOf(second)];
  return betweenPoints([p, q], shape.point(p), shape.point(q), label);
}

type Thing = { readonly kind: 'point'; readonly id: string } | { readonly kind: 'circle' | 'arc'; readonly id: string; readonly centre: string } | Straight;

interface Straight {
  readonly kind: 'line';
  readonly id: string;
  /** The point that it starts at; axes have none. */
  readonly start: string | undefined;
  readonly ends: readonly [Place, Place];
}

const AXES = new Map<string, Straight>([
  ['x-axis', { kind: 'line', id: 'x-axis', start: undefined, ends: [[0, 0], [1, 0]] }], // prettier-ignore
  ['y-axis', { kind: 'line', id: 'y-axis', start: undefined, ends: [[0, 0], [0, 1]] }], // prettier-ignore
]);

function classify(shape: DrawnShape, id: string): Thing {
  const axis = AXES.get(id);
  if (axis) return axis;
  const entity = findEntity(shape, id);
  if (entity?.type === 'line') return { kind: 'line', id, start: entity.start, ends: [shape.point(entity.start), shape.point(entity.end)] };
  if (entity?.type === 'circle' || entity?.type === 'arc') return { kind: entity.type, id, centre: entity.centre };
  return { kind: 'point', id };
}

/** Distances to a circle are taken from its centre. */
function pointOf(thing: Thing): string {
  return thing.kind === 'circle' || thing.kind === 'arc' ? thing.centre : thing.id;
}

function betweenPoints(on: readonly string[], [ax, ay]: Place, [bx, by]: Place, [lx, ly]: Place): DimensionPlan {
  const [dx, dy] = [Math.abs(bx - ax), Math.abs(by - ay)];
  const isLevel = dy < 1e-6;
  const isPlumb = dx < 1e-6;
  const isWithinX = lx > Math.min(ax, bx) && lx < Math.max(ax, bx);
  const isWithinY = ly > Math.min(ay, by) && ly < Math.max(ay, by);
  if (isLevel || (!isPlumb && isWithinX && !isWithinY)) return { kind: 'horizontal', on, reads: dx };
  if (isPlumb || (isWithinY && !isWithinX)) return { kind: 'vertical', on, reads: dy };
  return { kind: 'length', on, reads: Math.hypot(dx, dy) };
}

function betweenLines(a: Straight, b: Straight): DimensionPlan | undefined {
  const [[ax, ay], [bx, by]] = a.ends;
  const [[cx, cy], [dx, dy]] = b.ends;
  const [ux, uy, vx, vy] = [bx - ax, by - ay, dx - cx, dy - cy];
  const cross = ux * vy - uy * vx;
  if (Math.abs(cross) >= 1e-6 * Math.hypot(ux, uy) * Math.hypot(vx, vy)) {
    return { kind: 'angle', on: [a.id, b.id], reads: (Math.abs(Math.atan2(cross, ux * vx + uy * vy)) * 180) / Math.PI };
  }
  const [line, other] = a.start === undefined ? [b, a] : [a, b];
  if (line.start === undefined) return undefined;
  return { kind: 'length', on: [line.start, other.id], reads: Math.abs(offLine(line.ends[0], other)) };
}

function offLine([x, y]: Place, { ends: [[ax, ay], [bx, by]] }: Straight): number {
  return ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / Math.hypot(bx - ax, by - ay);
}

/** What stands in the box at first: what the dimension reads, rounded as one would type it. */
export function suggestedText(plan: DimensionPlan): string {
  const rounded = Number(plan.reads.toFixed(plan.reads < 10 ? 2 : 1));
  return plan.kind === 'angle' ? `${rounded} deg` : `${rounded} mm`;
}

/** What was typed into a value box; without a name the dimension gets an automatic one. */
export interface NamedFormula {
  readonly name: string | undefined;
  readonly formula: string;
}

interface Measure {
  readonly kind: DimensionKind;
  readonly on: readonly string[];
  readonly at: Place;
  readonly value: NamedFormula;
}

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

/** The edits that add a dimension with its value to a sketch. */
export function measureEdits(
  { document, sketch, newId }: Pick<ChangeContext, 'document' | 'sketch' | 'newId'>,
  { kind, on, at, value }: Measure,
  shape?: EditOf<'sketch.draw'>['shape'],
): SingleEdit[] {
  const owner = document.records[sketch];
  const name = value.name ?? automaticName(owner && 'name' in owner ? owner.name : 'sketch', takenNames(document));
  const [parameter, id] = [newId(), newId()];
  return [
    {
      type: 'sketch.draw',
      sketch,
      entities: [],
      constraints: [],
      dimensions: [{ type: 'dimension', id, sketch, kind, on: [...on], parameter, at: [at[0], at[1]] }],
      values: [{ type: 'parameter', id: parameter, owner: sketch, name, formula: { text: value.formula }, kind: kind === 'angle' ? 'angle' : 'length' }],
      ...(shape ? { shape } : {}),
    },
    { type: 'parameter.setFormula', id: parameter, formula: { text: value.formula, names: meantNames(document, value.formula) } },
  ];
}

export function dimensionEdit(context: ChangeContext, plan: DimensionPlan, at: Place, value: NamedFormula): Edit {
  return { type: 'batch', edits: measureEdits(context, { kind: plan.kind, on: plan.on, at, value }, shapeToStore(context.shape)) };
}
