/** Points where two plane curves meet. Curves that overlap along a stretch give no points. */
import { isWithinSweep, type Curve, type LineCurve, type Point2 } from './curve';

/** Meeting points within both curves, end points included, to within `tolerance` millimetres. */
export function intersectCurves(a: Curve, b: Curve, tolerance: number): Point2[] {
  return meet(a, b, tolerance).filter((point) => liesOn(a, point, tolerance) && liesOn(b, point, tolerance));
}

/** Meeting points of the carriers: whole lines and whole circles. */
function meet(a: Curve, b: Curve, tolerance: number): Point2[] {
  if (a.kind === 'line') return b.kind === 'line' ? lineLine(a, b) : lineRound(a, b, tolerance);
  return b.kind === 'line' ? lineRound(b, a, tolerance) : roundRound(a, b, tolerance);
}

/** Whether a point of the curve's carrier lies between its ends. */
function liesOn(curve: Curve, [x, y]: Point2, tolerance: number): boolean {
  if (curve.kind === 'circle') return true;
  if (curve.kind === 'arc') return isWithinSweep(curve, [x, y], tolerance);
  const [dx, dy] = [curve.end[0] - curve.start[0], curve.end[1] - curve.start[1]];
  const length = Math.hypot(dx, dy);
  const along = ((x - curve.start[0]) * dx + (y - curve.start[1]) * dy) / length;
  return along >= -tolerance && along <= length + tolerance;
}

function lineLine(a: LineCurve, b: LineCurve): Point2[] {
  const [dx, dy] = [a.end[0] - a.start[0], a.end[1] - a.start[1]];
  const [ex, ey] = [b.end[0] - b.start[0], b.end[1] - b.start[1]];
  const cross = dx * ey - dy * ex;
  if (Math.abs(cross) <= 1e-12 * Math.hypot(dx, dy) * Math.hypot(ex, ey)) return [];
  const t = ((b.start[0] - a.start[0]) * ey - (b.start[1] - a.start[1]) * ex) / cross;
  return [[a.start[0] + t * dx, a.start[1] + t * dy]];
}

function lineRound(line: LineCurve, round: Exclude<Curve, LineCurve>, tolerance: number): Point2[] {
  const [dx, dy] = [line.end[0] - line.start[0], line.end[1] - line.start[1]];
  const length = Math.hypot(dx, dy);
  if (length === 0) return [];
  const [ux, uy] = [dx / length, dy / length];
  const [px, py] = [round.centre[0] - line.start[0], round.centre[1] - line.start[1]];
  const along = px * ux + py * uy;
  const off = px * uy - py * ux;
  // Where they are tangent but for a rounding they meet once, or do not.
  const isTangent = Math.abs(Math.abs(off) - round.radius) <= tolerance;
  const half = round.radius * round.radius - off * off;
  if (half < 0 && !isTangent) return [];
  return (isTangent ? [0] : [-Math.sqrt(half), Math.sqrt(half)]).map((s) => [line.start[0] + (along + s) * ux, line.start[1] + (along + s) * uy]);
}

function roundRound(a: Exclude<Curve, LineCurve>, b: Exclude<Curve, LineCurve>, tolerance: number): Point2[] {
  const [dx, dy] = [b.centre[0] - a.centre[0], b.centre[1] - a.centre[1]];
  const gap = Math.hypot(dx, dy);
  if (gap === 0) return [];
  const along = (gap * gap + a.radius * a.radius - b.radius * b.radius) / (2 * gap);
  const isTangent = gap > tolerance && (Math.abs(gap - a.radius - b.radius) <= tolerance || Math.abs(gap - Math.abs(a.radius - b.radius)) <= tolerance);
  const half = a.radius * a.radius - along * along;
  if (half < 0 && !isTangent) return [];
  const [ux, uy] = [dx / gap, dy / gap];
  if (isTangent) {
    const reach = Math.sign(along) * a.radius;
    return [[a.centre[0] + reach * ux, a.centre[1] + reach * uy]];
  }
  return [-Math.sqrt(half), Math.sqrt(half)].map((s) => [a.centre[0] + along * ux - s * uy, a.centre[1] + along * uy + s * ux]);
}
