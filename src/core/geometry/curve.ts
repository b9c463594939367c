/**
 * Plane curves of a sketch: segments, arcs, circles. Millimetres; angles in radians. An arc runs
 * counter-clockwise from its start to its end.
 */
export type Point2 = readonly [x: number, y: number];

export interface LineCurve {
  readonly kind: 'line';
  readonly id: string;
  readonly start: Point2;
  readonly end: Point2;
}

export interface ArcCurve {
  readonly kind: 'arc';
  readonly id: string;
  readonly start: Point2;
  readonly end: Point2;
  readonly centre: Point2;
  readonly radius: number;
}

export interface CircleCurve {
  readonly kind: 'circle';
  readonly id: string;
  readonly centre: Point2;
  readonly radius: number;
}

export type Curve = LineCurve | ArcCurve | CircleCurve;

/** Angle turned from the start of an arc to its end, over 0 up to 2 pi. */
export function sweepOf(arc: ArcCurve): number {
  const from = Math.atan2(arc.start[1] - arc.centre[1], arc.start[0] - arc.centre[0]);
  const to = Math.atan2(arc.end[1] - arc.centre[1], arc.end[0] - arc.centre[0]);
  const sweep = (to - from) % (2 * Math.PI);
  return sweep <= 0 ? sweep + 2 * Math.PI : sweep;
}

/** The point of an arc half way along it. */
export function arcMiddle(arc: ArcCurve): Point2 {
  const from = Math.atan2(arc.start[1] - arc.centre[1], arc.start[0] - arc.centre[0]);
  const angle = from + sweepOf(arc) / 2;
  return [arc.centre[0] + arc.radius * Math.cos(angle), arc.centre[1] + arc.radius * Math.sin(angle)];
}

export function lengthOf(curve: Curve): number {
  switch (curve.kind) {
    case 'line':
      return Math.hypot(curve.end[0] - curve.start[0], curve.end[1] - curve.start[1]);
    case 'arc':
      return curve.radius * sweepOf(curve);
    case 'circle':
      return 2 * Math.PI * curve.radius;
  }
}

/** Whether the direction from the centre to `point` lies within the sweep of the arc. */
export function isWithinSweep(arc: ArcCurve, point: Point2, tolerance: number): boolean {
  const from = Math.atan2(arc.start[1] - arc.centre[1], arc.start[0] - arc.centre[0]);
  const angle = Math.atan2(point[1] - arc.centre[1], point[0] - arc.centre[0]);
  const turn = (((angle - from) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
  const slack = tolerance / arc.radius;
  return turn <= sweepOf(arc) + slack || turn >= 2 * Math.PI - slack;
}
