/** Cutting curves where others cross them: trim, extend, split. Ids stay with the part that keeps the start. */
import type { Edit, EditOf, Entity } from '../document';
import { intersectCurves, type Curve } from '../geometry';
import { change, refuseChange, type ChangeContext, type ChangeResult } from './change';
import { findEntity, shapeToStore, sweepBetween, toCurve, type DrawnShape, type Place } from './drawn-shape';
import { drawEdit, FigureMaker } from './figure';
import { nearestOn } from './snapping';

type Open = Extract<Entity, { readonly type: 'line' | 'arc' }>;

/** Where another curve crosses: how far along, from 0 at the start to 1 at the end. */
interface Cut {
  readonly along: number;
  readonly at: Place;
  readonly by: string;
}

/** Crossings nearer to an end than this share of the curve are the end itself. */
const AT_END = 1e-6;
const TOLERANCE = 1e-7;

/** Takes away the piece of a curve under the pointer, up to where other curves cross it. */
export function trimCurve(context: ChangeContext, id: string, at: Place): ChangeResult {
  const { shape, sketch } = context;
  const entity = findEntity(shape, id);
  if (!entity || entity.type === 'point') return refuseChange('Trim takes a line, a circle or an arc.');
  if (entity.type === 'circle') return trimCircle(context, entity, at);
  const cuts = findCuts(shape, entity);
  const here = positionOf(shape, entity, nearestOn(shape, id, at) ?? at);
  const before = cuts.filter((cut) => cut.along < here).at(-1);
  const after = cuts.find((cut) => cut.along > here);
  if (!before && !after) return change((readers) => [{ type: 'sketch.erase', sketch, ids: [id], readers }]);
  if (before && after) return cutOut(context, entity, before, after);
  const maker = new FigureMaker(sketch, context.newId);
  const cut = before ?? after;
  const end = pointAtCut(maker, cut);
  return change((readers) => [
    drawEdit(sketch, maker.finish(), shapeToStore(shape)),
    ...eraseLengths(context, id, readers),
    { type: 'sketch.reconnect', id, ...(before ? { end } : { start: end }) },
  ]);
}

/** The middle goes: the curve keeps its start, a new one on the same line or circle keeps its end. */
function cutOut(context: ChangeContext, entity: Open, before: Cut, after: Cut): ChangeResult {
  const { sketch, shape } = context;
  const maker = new FigureMaker(sketch, context.newId, entity.isConstruction === true);
  const [from, to] = [pointAtCut(maker, before), pointAtCut(maker, after)];
  addRest(maker, entity, to);
  return change((readers) => [
    drawEdit(sketch, maker.finish(), shapeToStore(shape)),
    ...eraseLengths(context, entity.id, readers),
    { type: 'sketch.reconnect', id: entity.id, end: from },
  ]);
}

/** The part of a curve from a new point to its old end, kept on the carrier of the first. */
function addRest(maker: FigureMaker, entity: Open, from: string): void {
  if (entity.type === 'arc') {
    maker.arc(entity.centre, from, entity.end);
    maker.relate('coincident', from, entity.id);
    return;
  }
  maker.line(from, entity.end);
  maker.relate('coincident', from, entity.id);
  maker.relate('coincident', entity.end, entity.id);
}

function trimCircle(context: ChangeContext, circle: Extract<Entity, { readonly type: 'circle' }>, at: Place): ChangeResult {
  const { shape, sketch } = context;
  const cuts = findCuts(shape, circle);
  if (cuts.length === 1) return refuseChange('This circle is crossed in one place only; trimming needs two.');
  const { id } = circle;
  if (cuts.length === 0) return change((readers) => [{ type: 'sketch.erase', sketch, ids: [id], readers }]);
  const here = positionOf(shape, circle, at);
  // What stays runs from the next cut around to the one before.
  const next = cuts.find((cut) => cut.along > here) ?? cuts[0];
  const previous = cuts.filter((cut) => cut.along < here).at(-1) ?? cuts.at(-1);
  const maker = new FigureMaker(sketch, context.newId, circle.isConstruction === true);
  maker.arc(circle.centre, pointAtCut(maker, next), pointAtCut(maker, previous));
  return change((readers) => [drawEdit(sketch, maker.finish(), shapeToStore(shape)), { type: 'sketch.erase', sketch, ids: [id], readers }]);
}

/** Lengthens a line or arc from the end nearest to the pointer up to the next curve in its way. */
export function extendCurve(context: ChangeContext, id: string, at: Place): ChangeResult {
  const { shape, sketch } = context;
  const entity = findEntity(shape, id);
  if (entity?.type !== 'line' && entity?.type !== 'arc') return refuseChange('Extend takes a line or an arc.');
  const isAtEnd = positionOf(shape, entity, nearestOn(shape, id, at) ?? at) >= 0.5;
  const full = wholeCarrier(shape, entity);
  const beyond = othersOf(shape, id)
    .flatMap((other) => intersectCurves(full, other, TOLERANCE).map((place): Cut => ({ along: positionOf(shape, entity, place), at: place, by: other.id })))
    .map((cut) => ({ cut, way: isAtEnd ? cut.along - 1 : -cut.along }))
    .map(({ cut, way }) => ({ cut, way: entity.type === 'arc' ? aroundFrom(shape, entity, cut.at, isAtEnd) : way }))
    .filter(({ way }) => way > AT_END)
    .sort((a, b) => a.way - b.way);
  const [next] = beyond;
  if (!next) return refuseChange('There is nothing in the way to extend it to.');
  const maker = new FigureMaker(sketch, context.newId);
  const end = pointAtCut(maker, next.cut);
  return change((readers) => [
    drawEdit(sketch, maker.finish(), shapeToStore(shape)),
    ...eraseLengths(context, id, readers),
    { type: 'sketch.reconnect', id, ...(isAtEnd ? { end } : { start: end }) },
  ]);
}

/** Makes two curves of one, where the pointer is. */
export function splitCurve(context: ChangeContext, id: string, at: Place): ChangeResult {
  const { shape, sketch } = context;
  const entity = findEntity(shape, id);
  if (entity?.type !== 'line' && entity?.type !== 'arc') return refuseChange('Split takes a line or an arc.');
  const place = nearestOn(shape, id, at);
  if (!place) return refuseChange('Split takes a place on the curve.');
  const maker = new FigureMaker(sketch, context.newId, entity.isConstruction === true);
  const middle = maker.pointAt(place);
  if (entity.type === 'arc') maker.arc(entity.centre, middle, entity.end);
  else {
    maker.line(middle, entity.end);
    maker.relate('coincident', entity.end, entity.id);
  }
  return change((readers) => [
    drawEdit(sketch, maker.finish(), shapeToStore(shape)),
    ...eraseLengths(context, id, readers),
    { type: 'sketch.reconnect', id, end: middle },
  ]);
}

function pointAtCut(maker: FigureMaker, cut: Cut | undefined): string {
  return cut ? maker.point({ snap: { at: cut.at, on: { id: cut.by, kind: 'curve' } }, id: undefined }) : '';
}

function othersOf(shape: DrawnShape, id: string): Curve[] {
  return shape.entities.flatMap((other) => (other.id === id ? [] : (toCurve(shape, other) ?? [])));
}

/** Crossings strictly between the ends, in order along the curve. */
function findCuts(shape: DrawnShape, entity: Exclude<Entity, { readonly type: 'point' }>): Cut[] {
  const curve = toCurve(shape, entity);
  if (!curve) return [];
  return othersOf(shape, entity.id)
    .flatMap((other) => intersectCurves(curve, other, TOLERANCE).map((at): Cut => ({ along: positionOf(shape, entity, at), at, by: other.id })))
    .filter(({ along }) => entity.type === 'circle' || (along > AT_END && along < 1 - AT_END))
    .sort((a, b) => a.along - b.along);
}

/** How far along a curve a place of its carrier is: 0 at the start, 1 at the end; a circle starts at its right. */
function positionOf(shape: DrawnShape, entity: Exclude<Entity, { readonly type: 'point' }>, [x, y]: Place): number {
  if (entity.type === 'line') {
    const [[ax, ay], [bx, by]] = [shape.point(entity.start), shape.point(entity.end)];
    return ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2);
  }
  const [cx, cy] = shape.point(entity.centre);
  const angle = Math.atan2(y - cy, x - cx);
  if (entity.type === 'circle') return sweepBetween(0, angle) / (2 * Math.PI);
  const [[sx, sy], [ex, ey]] = [shape.point(entity.start), shape.point(entity.end)];
  const from = Math.atan2(sy - cy, sx - cx);
  const turned = (((angle - from) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
  return turned / sweepBetween(from, Math.atan2(ey - cy, ex - cx));
}

/** The whole line, far beyond anything drawn, or the whole circle. */
function wholeCarrier(shape: DrawnShape, entity: Open): Curve {
  if (entity.type === 'arc') return { kind: 'circle', id: entity.id, centre: shape.point(entity.centre), radius: shape.radius(entity.id) };
  const [[ax, ay], [bx, by]] = [shape.point(entity.start), shape.point(entity.end)];
  const far = 1e6 / (Math.hypot(bx - ax, by - ay) || 1);
  return { kind: 'line', id: entity.id, start: [ax - (bx - ax) * far, ay - (by - ay) * far], end: [bx + (bx - ax) * far, by + (by - ay) * far] };
}

/** Turn from an end of an arc, on beyond it, to a place. */
function aroundFrom(shape: DrawnShape, arc: Extract<Open, { readonly type: 'arc' }>, place: Place, isAtEnd: boolean): number {
  const [cx, cy] = shape.point(arc.centre);
  const angle = ([x, y]: Place): number => Math.atan2(y - cy, x - cx);
  const full = sweepBetween(angle(shape.point(arc.start)), angle(shape.point(arc.end)));
  const way = isAtEnd ? sweepBetween(angle(shape.point(arc.end)), angle(place)) : sweepBetween(angle(place), angle(shape.point(arc.start)));
  return way < 2 * Math.PI - full - AT_END ? way : 0;
}

/** What measures or compares the whole curve holds no more once it is cut. */
function eraseLengths({ document, shape, sketch }: ChangeContext, id: string, readers: EditOf<'sketch.erase'>['readers']): Exclude<Edit, EditOf<'batch'>>[] {
  const isLine = findEntity(shape, id)?.type === 'line';
  const ids = Object.values(document.records).flatMap((record) => {
    if (record.type === 'dimension' && record.sketch === sketch && record.on.includes(id)) {
      const measuresIt = (record.on.length === 1 && isLine) || record.kind === 'arc-length';
      return measuresIt ? record.id : [];
    }
    const compares = record.type === 'constraint' && isLine && (record.kind === 'equal' || record.kind === 'midpoint');
    return compares && record.on.includes(id) ? record.id : [];
  });
  return ids.length === 0 ? [] : [{ type: 'sketch.erase', sketch, ids, readers }];
}
