/**
 * Fillets and chamfers of corners of a sketch. The corner itself stays, as a point on both lines, so that what
 * was measured from it or fixed to it still is.
 */
import { listIds, findAny, type Edit, type EditOf } from '../document';
import { change, refuseChange, type ChangeContext, type ChangeResult } from './change';
import { curvesAt } from './ends';
import { measureEdits, type NamedFormula } from './dimension-plan';
import { findEntity, shapeToStore, type DrawnShape, type Place } from './drawn-shape';
import { drawEdit, FigureMaker } from './figure';

/** How far outside the corner the text of its dimension stands, in millimetres. */
const LABEL_GAP = 6;

interface Corner {
  readonly at: Place;
  /** The lines that meet there, with the unit vectors from the corner along them and their lengths. */
  readonly sides: readonly [Side, Side];
  /** Angle between the sides. */
  readonly angle: number;
}

interface Side {
  readonly line: string;
  readonly isStart: boolean;
  readonly along: Place;
  readonly length: number;
}

/** The largest radius that leaves something of both lines. */
export function largestFillet(shape: DrawnShape, point: string): number | undefined {
  const corner = readCorner(shape, point);
  return typeof corner === 'string' ? undefined : Math.min(...corner.sides.map((side) => side.length)) * Math.tan(corner.angle / 2);
}

/** Rounds the corner at a point; `radius` in millimetres is where the solve starts, `value` the dimension that holds it. */
export function filletCorner(context: ChangeContext, point: string, radius: number, value?: NamedFormula): ChangeResult {
  const corner = readCorner(context.shape, point);
  if (typeof corner === 'string') return refuseChange(corner);
  const most = largestFillet(context.shape, point) ?? 0;
  if (!(radius > 0) || radius >= most) return refuseChange(`A radius between 0 and ${format(most)} mm fits this corner.`);
  const setback = radius / Math.tan(corner.angle / 2);
  const maker = new FigureMaker(context.sketch, context.newId);
  const [a, b] = corner.sides.map((side) => maker.pointAt(alongSide(corner, side, setback)));
  const [first, second] = corner.sides;
  const bisector: Place = [first.along[0] + second.along[0], first.along[1] + second.along[1]];
  const far = radius / Math.sin(corner.angle / 2) / Math.hypot(...bisector);
  const centre = maker.pointAt([corner.at[0] + bisector[0] * far, corner.at[1] + bisector[1] * far]);
  // Seen from the corner, the arc bulges towards it: it runs against the turn from the first side to the second.
  const isLeft = first.along[0] * second.along[1] - first.along[1] * second.along[0] > 0;
  const arc = isLeft ? maker.arc(centre, b ?? '', a ?? '') : maker.arc(centre, a ?? '', b ?? '');
  for (const side of corner.sides) maker.relate('tangent', side.line, arc);
  return finishCorner(context, point, corner, maker, [a ?? '', b ?? ''], value && { kind: 'radius', on: [arc], value });
}

/** Cuts the corner off, equally far along both lines. */
export function chamferCorner(context: ChangeContext, point: string, setback: number, value?: NamedFormula): ChangeResult {
  const corner = readCorner(context.shape, point);
  if (typeof corner === 'string') return refuseChange(corner);
  const most = Math.min(...corner.sides.map((side) => side.length));
  if (!(setback > 0) || setback >= most) return refuseChange(`A setback between 0 and ${format(most)} mm fits this corner.`);
  const maker = new FigureMaker(context.sketch, context.newId);
  const [a, b] = corner.sides.map((side) => maker.pointAt(alongSide(corner, side, setback)));
  maker.line(a ?? '', b ?? '');
  // Equal setbacks: construction lines from the corner of equal length.
  const first = maker.line(point, a ?? '', true);
  maker.relate('equal', first, maker.line(point, b ?? '', true));
  return finishCorner(context, point, corner, maker, [a ?? '', b ?? ''], value && { kind: 'length', on: [first], value });
}

interface Measured {
  readonly kind: 'radius' | 'length';
  readonly on: string[];
  readonly value: NamedFormula;
}

function finishCorner(
  context: ChangeContext,
  point: string,
  corner: Corner,
  maker: FigureMaker,
  ends: readonly [string, string],
  measured: Measured | undefined,
): ChangeResult {
  const { sketch, shape } = context;
  const bisector: Place = [corner.sides[0].along[0] + corner.sides[1].along[0], corner.sides[0].along[1] + corner.sides[1].along[1]];
  const label: Place = [corner.at[0] - bisector[0] * LABEL_GAP, corner.at[1] - bisector[1] * LABEL_GAP];
  for (const side of corner.sides) maker.relate('coincident', point, side.line);
  const keepers = corner.sides.flatMap((side) => keepMeasures(context, side.line));
  return change(() => [
    drawEdit(sketch, maker.finish(), shapeToStore(shape)),
    ...(measured ? measureEdits(context, { ...measured, at: label }) : []),
    ...keepers,
    ...corner.sides.map((side, i) => ({
      type: 'sketch.reconnect' as const,
      id: side.line,
      ...(side.isStart ? { start: ends[i] ?? '' } : { end: ends[i] ?? '' }),
    })),
  ]);
}

/** Dimensions of a whole line go on measuring from corner to corner. */
function keepMeasures({ document, shape, sketch }: ChangeContext, line: string): Exclude<Edit, EditOf<'batch'>>[] {
  const entity = findEntity(shape, line);
  if (entity?.type !== 'line') return [];
  return listIds(document, `${sketch}/constraints`).flatMap((id) => {
    const record = findAny(document, id);
    const measures = record?.type === 'dimension' && record.on.length === 1 && record.on[0] === line;
    return measures ? [{ type: 'dimension.update' as const, id, on: [entity.start, entity.end] }] : [];
  });
}

function readCorner(shape: DrawnShape, point: string): Corner | string {
  const curves = curvesAt(shape, point);
  const [first, second] = curves;
  if (first?.type !== 'line' || second?.type !== 'line' || curves.length !== 2) return 'Choose a point where two lines meet.';
  const at = shape.point(point);
  const side = (line: typeof first): Side => {
    const isStart = line.start === point;
    const other = shape.point(isStart ? line.end : line.start);
    const length = Math.hypot(other[0] - at[0], other[1] - at[1]) || 1;
    return { line: line.id, isStart, along: [(other[0] - at[0]) / length, (other[1] - at[1]) / length], length };
  };
  const sides: [Side, Side] = [side(first), side(second)];
  const [u, v] = [sides[0].along, sides[1].along];
  const angle = Math.acos(Math.min(1, Math.max(-1, u[0] * v[0] + u[1] * v[1])));
  if (angle < 1e-6 || Math.PI - angle < 1e-6) return 'These lines go straight on; there is no corner.';
  return { at, sides, angle };
}

function alongSide(corner: Corner, side: Side, far: number): Place {
  return [corner.at[0] + side.along[0] * far, corner.at[1] + side.along[1] * far];
}

function format(value: number): string {
  return String(Number(value.toPrecision(3)));
}
