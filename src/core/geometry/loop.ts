/** Closed chains of curves and the area within them. */
import { sweepOf, type Curve } from './curve';

/** A curve in a loop; `isReversed` when the loop runs it from its end to its start. */
export interface LoopCurve {
  readonly curve: Curve;
  readonly isReversed: boolean;
}

/** Counter-clockwise. */
export interface Loop {
  readonly curves: readonly LoopCurve[];
  /** In square millimetres. */
  readonly area: number;
}

/** Share of the signed area by Green's theorem, (1/2) the integral of x dy - y dx. */
export function areaUnder({ curve, isReversed }: LoopCurve): number {
  const sign = isReversed ? -1 : 1;
  switch (curve.kind) {
    case 'circle':
      return sign * Math.PI * curve.radius ** 2;
    case 'line':
      return (sign * (curve.start[0] * curve.end[1] - curve.start[1] * curve.end[0])) / 2;
    case 'arc': {
      const chord = curve.start[0] * curve.end[1] - curve.start[1] * curve.end[0];
      const sweep = sweepOf(curve);
      return (sign * (chord + curve.radius ** 2 * (sweep - Math.sin(sweep)))) / 2;
    }
  }
}
