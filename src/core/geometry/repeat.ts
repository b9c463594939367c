/** Copies of plane curves: in a row, or round a centre. */
import type { Curve, Point2 } from './curve';
import { moveCurve, shiftBy, turnAbout, type PlaneMovement } from './move';

export type Repeat =
  /** Each copy `pitch` millimetres further along the direction, a unit vector. */
  | { readonly form: 'linear'; readonly direction: Point2; readonly pitch: number; readonly count: number }
  /** Each copy turned by `pitch` radians more about the centre. */
  | { readonly form: 'circular'; readonly centre: Point2; readonly pitch: number; readonly count: number };

/** The copies without the originals; the ids of those in place n end in `~n`. */
export function repeatCurves(curves: readonly Curve[], repeat: Repeat): Curve[] {
  const copies: Curve[] = [];
  for (let place = 1; place < repeat.count; place++) {
    const move = moveTo(repeat, place);
    for (const curve of curves) copies.push(moveCurve(curve, `${curve.id}~${place}`, move));
  }
  return copies;
}

function moveTo(repeat: Repeat, place: number): PlaneMovement {
  if (repeat.form === 'circular') return turnAbout(repeat.centre, repeat.pitch * place);
  return shiftBy([repeat.direction[0] * repeat.pitch * place, repeat.direction[1] * repeat.pitch * place]);
}
