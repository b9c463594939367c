/**
 * Drawing as state machines: a tool, the clicks so far, and what a click makes. Pure; tested as tables. The same
 * functions give the preview: the figure that a click where the pointer is would make.
 */
import { circumcentre, distance, tangentCentre, turn } from './circles';
import { findEntity, type DrawnShape, type Place } from './drawn-shape';
import { FigureMaker, type DraftPoint, type Figure } from './figure';
import { directionAtEnd } from './ends';
import type { Snap } from './snapping';

export const DRAW_TOOLS = [
  'line',
  'rectangle',
  'rectangle-centre',
  'circle',
  'circle-2',
  'circle-3',
  'arc',
  'arc-3',
  'arc-tangent',
  'slot',
  'polygon',
  'point',
] as const;
export type DrawTool = (typeof DRAW_TOOLS)[number];

export interface DrawState {
  readonly tool: DrawTool;
  readonly points: readonly DraftPoint[];
  readonly isConstruction: boolean;
  /** Sides of a regular polygon. */
  readonly sides: number;
}

export interface Drawn {
  readonly next: DrawState;
  /** What the click made, to be put into the sketch; undefined while the figure is not complete. */
  readonly figure: Figure | undefined;
}

export interface DrawContext {
  readonly sketch: string;
  readonly shape: DrawnShape;
  readonly newId: () => string;
}

export const LEAST_SIDES = 3;
export const MOST_SIDES = 60;

/** Clicks that complete a figure. */
const CLICKS: Readonly<Record<DrawTool, number>> = {
  line: 2,
  rectangle: 2,
  'rectangle-centre': 2,
  circle: 2,
  'circle-2': 2,
  'circle-3': 3,
  arc: 3,
  'arc-3': 3,
  'arc-tangent': 2,
  slot: 3,
  polygon: 2,
  point: 1,
};

export function startDrawing(tool: DrawTool, options: Partial<Pick<DrawState, 'isConstruction' | 'sides'>> = {}): DrawState {
  return { tool, points: [], isConstruction: options.isConstruction ?? false, sides: options.sides ?? 6 };
}

/** One click. A figure without size is not made, and the click does not count. */
export function clickToDraw(state: DrawState, snap: Snap, context: DrawContext): Drawn {
  const here: DraftPoint = { snap, id: snap.on?.kind === 'point' && snap.on.id !== 'origin' ? snap.on.id : undefined };
  const points = [...state.points, here];
  if (points.length < CLICKS[state.tool]) return { next: { ...state, points }, figure: undefined };
  const maker = new FigureMaker(context.sketch, context.newId, state.isConstruction);
  const end = DRAW[state.tool](maker, points, state, context);
  if (end === undefined) return { next: state, figure: undefined };
  const isChain = state.tool === 'line' || state.tool === 'arc-tangent';
  // A chain goes on from its new end, unless that met something that was there.
  const next = isChain && here.id === undefined ? [{ snap: { at: snap.at, on: { id: end, kind: 'point' as const } }, id: end }] : [];
  return { next: { ...state, points: next }, figure: maker.finish() };
}

/** Draws into the maker; the id of the last point, or undefined when there is nothing to draw. */
type Draw = (maker: FigureMaker, points: readonly DraftPoint[], state: DrawState, context: DrawContext) => string | undefined;

const DRAW: Readonly<Record<DrawTool, Draw>> = {
  line: (maker, points) => {
    const [first, second] = pair(points);
    if (distance(first.snap.at, second.snap.at) === 0) return undefined;
    const [a, b] = [maker.point(first), maker.point(second)];
    const line = maker.line(a, b);
    const { direction, relation } = second.snap;
    if (direction) maker.relate(direction, line);
    if (relation) maker.relate(relation.kind, line, relation.to);
    return b;
  },

  rectangle: (maker, points) => {
    const [first, second] = pair(points);
    const [[ax, ay], [bx, by]] = [first.snap.at, second.snap.at];
    if (ax === bx || ay === by) return undefined;
    const [a, c] = [maker.point(first), maker.point(second)];
    drawBox(maker, a, maker.pointAt([bx, ay]), c, maker.pointAt([ax, by]));
    return c;
  },

  'rectangle-centre': (maker, points) => {
    const [centre, corner] = pair(points);
    const [[mx, my], [cx, cy]] = [centre.snap.at, corner.snap.at];
    if (mx === cx || my === cy) return undefined;
    const middle = maker.point(centre);
    const c = maker.point(corner);
    const a = maker.pointAt([2 * mx - cx, 2 * my - cy]);
    drawBox(maker, a, maker.pointAt([cx, 2 * my - cy]), c, maker.pointAt([2 * mx - cx, cy]));
    maker.relate('midpoint', middle, maker.line(a, c, true));
    return c;
  },

  circle: (maker, points) => {
    const [centre, rim] = pair(points);
    const radius = distance(centre.snap.at, rim.snap.at);
    if (radius === 0) return undefined;
    const id = maker.point(centre);
    const circle = maker.circle(id, radius);
    // A rim that was put on a point goes through it.
    if (rim.snap.on?.kind === 'point') maker.relate('coincident', rim.snap.on.id, circle);
    return id;
  },

  'circle-2': (maker, points) => {
    const [first, second] = pair(points);
    const [a, b] = [first.snap.at, second.snap.at];
    if (distance(a, b) === 0) return undefined;
    const [p, q] = [maker.point(first), maker.point(second)];
    const centre = maker.pointAt([(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]);
    maker.relate('coincident', p, maker.circle(centre, distance(a, b) / 2));
    maker.relate('midpoint', centre, maker.line(p, q, true));
    return q;
  },

  'circle-3': (maker, points) => {
    const [first, second, third] = triple(points);
    const centre = circumcentre(first.snap.at, second.snap.at, third.snap.at);
    if (!centre) return undefined;
    const rims = [first, second, third].map((point) => maker.point(point));
    const circle = maker.circle(maker.pointAt(centre), distance(centre, first.snap.at));
    for (const rim of rims) maker.relate('coincident', rim, circle);
    return rims[2];
  },

  /** Centre, start, end. */
  arc: (maker, points) => {
    const [centre, start, to] = triple(points);
    const radius = distance(centre.snap.at, start.snap.at);
    const reach = distance(centre.snap.at, to.snap.at);
    if (radius === 0 || reach === 0) return undefined;
    const [[cx, cy], [x, y]] = [centre.snap.at, to.snap.at];
    const onArc: Place = [cx + ((x - cx) * radius) / reach, cy + ((y - cy) * radius) / reach];
    const end = to.id === undefined ? { ...to, snap: { ...to.snap, at: onArc } } : to;
    const [c, a, b] = [maker.point(centre), maker.point(start), maker.point(end)];
    maker.arc(c, a, b);
    return b;
  },

  /** Start, end, and a point that it passes through. */
  'arc-3': (maker, points) => {
    const [start, end, through] = triple(points);
    const centre = circumcentre(start.snap.at, end.snap.at, through.snap.at);
    if (!centre) return undefined;
    const [a, b] = [maker.point(start), maker.point(end)];
    const c = maker.pointAt(centre);
    // Counter-clockwise past the third point, or the other way round.
    const arc = turn(start.snap.at, through.snap.at, end.snap.at) > 0 ? maker.arc(c, a, b) : maker.arc(c, b, a);
    if (through.id !== undefined) maker.relate('coincident', through.id, arc);
    return b;
  },

  /** From the end of a line or arc, going on in its direction. */
  'arc-tangent': (maker, points, _, { shape }) => {
    const [from, to] = pair(points);
    const before = from.id === undefined ? undefined : directionAtEnd(shape, from.id);
    const centre = before && tangentCentre(from.snap.at, before.along, to.snap.at);
    if (!before || !centre || from.id === undefined) return undefined;
    const [a, b] = [from.id, maker.point(to)];
    const c = maker.pointAt(centre);
    const isLeft = -before.along[1] * (centre[0] - from.snap.at[0]) + before.along[0] * (centre[1] - from.snap.at[1]) > 0;
    maker.relate('tangent', before.curve, isLeft ? maker.arc(c, a, b) : maker.arc(c, b, a));
    return b;
  },

  /** Both centres, then the width. */
  slot: (maker, points) => {
    const [first, second, wide] = triple(points);
    const [a, b] = [first.snap.at, second.snap.at];
    const length = distance(a, b);
    const radius = length === 0 ? 0 : Math.abs(turn(a, b, wide.snap.at)) / length;
    if (radius === 0) return undefined;
    const [nx, ny] = [(-(b[1] - a[1]) / length) * radius, ((b[0] - a[0]) / length) * radius];
    const [c1, c2] = [maker.point(first), maker.point(second)];
    const [a1, a2] = [maker.pointAt([a[0] + nx, a[1] + ny]), maker.pointAt([a[0] - nx, a[1] - ny])];
    const [b1, b2] = [maker.pointAt([b[0] + nx, b[1] + ny]), maker.pointAt([b[0] - nx, b[1] - ny])];
    const [head, tail] = [maker.arc(c1, a1, a2), maker.arc(c2, b2, b1)];
    const [upper, lower] = [maker.line(b1, a1), maker.line(a2, b2)];
    for (const line of [upper, lower]) for (const arc of [head, tail]) maker.relate('tangent', line, arc);
    maker.relate('equal', head, tail);
    return c2;
  },

  /** Centre, then a corner; its corners stand on a construction circle. */
  polygon: (maker, points, { sides }) => {
    const [centre, corner] = pair(points);
    const [[cx, cy], [x, y]] = [centre.snap.at, corner.snap.at];
    const radius = distance([cx, cy], [x, y]);
    if (radius === 0) return undefined;
    const from = Math.atan2(y - cy, x - cx);
    const circle = maker.circle(maker.point(centre), radius, true);
    const corners = Array.from({ length: sides }, (_, i) => {
      const angle = from + (2 * Math.PI * i) / sides;
      return i === 0 ? maker.point(corner) : maker.pointAt([cx + radius * Math.cos(angle), cy + radius * Math.sin(angle)]);
    });
    const lines = corners.map((start, i) => maker.line(start, corners[(i + 1) % sides] ?? start));
    for (const point of corners) maker.relate('coincident', point, circle);
    for (const line of lines.slice(1)) maker.relate('equal', lines[0] ?? line, line);
    return corners[0];
  },

  point: (maker, [only]) => (only ? maker.point(only) : undefined),
};

/** Corners in order around; two sides level, two plumb. */
function drawBox(maker: FigureMaker, a: string, b: string, c: string, d: string): void {
  maker.relate('horizontal', maker.line(a, b));
  maker.relate('vertical', maker.line(b, c));
  maker.relate('horizontal', maker.line(c, d));
  maker.relate('vertical', maker.line(d, a));
}

function pair(points: readonly DraftPoint[]): readonly [DraftPoint, DraftPoint] {
  const [first, second] = points;
  if (!first || !second) throw new Error('Bug: a figure of two clicks has fewer');
  return [first, second];
}

function triple(points: readonly DraftPoint[]): readonly [DraftPoint, DraftPoint, DraftPoint] {
  const third = points[2];
  if (!third) throw new Error('Bug: a figure of three clicks has fewer');
  return [...pair(points), third];
}

/** Whether a tool can begin there: a tangent arc needs the end of a line or arc. */
export function canStart(tool: DrawTool, snap: Snap, shape: DrawnShape): boolean {
  if (tool !== 'arc-tangent') return true;
  return snap.on?.kind === 'point' && findEntity(shape, snap.on.id) !== undefined && directionAtEnd(shape, snap.on.id) !== undefined;
}
