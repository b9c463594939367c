/** The box around plane curves. */
import { isWithinSweep, type Curve, type Point2 } from '../geometry';

export interface Box2 {
  readonly min: Point2;
  readonly max: Point2;
}

/** Exact for arcs too: an arc reaches as far as its circle where that point lies on it. Of no curves, a point. */
export function boxOf(curves: readonly Curve[]): Box2 {
  const points = curves.flatMap((curve): Point2[] => {
    if (curve.kind === 'line') return [curve.start, curve.end];
    const [[x, y], r] = [curve.centre, curve.radius];
    const quadrants: Point2[] = [
      [x + r, y],
      [x - r, y],
      [x, y + r],
      [x, y - r],
    ];
    return curve.kind === 'circle' ? quadrants : [curve.start, curve.end, ...quadrants.filter((point) => isWithinSweep(curve, point, 0))];
  });
  if (points.length === 0) return { min: [0, 0], max: [0, 0] };
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  return { min: [Math.min(...xs), Math.min(...ys)], max: [Math.max(...xs), Math.max(...ys)] };
}
