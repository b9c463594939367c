/** Copies of plane curves: in a row, or round a centre. */
import type { Curve, Point2 } from './curve';

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

function moveTo(repeat: Repeat, place: number): (point: Point2) => Point2 {
  if (repeat.form === 'linear') {
    const [dx, dy] = [repeat.direction[0] * repeat.pitch * place, repeat.direction[1] * repeat.pitch * place];
    return ([x, y]) => [x + dx, y + dy];
  }
  const [cos, sin] = [Math.cos(repeat.pitch * place), Math.sin(repeat.pitch * place)];
  const [cx, cy] = repeat.centre;
  return ([x, y]) => [cx + (x - cx) * cos - (y - cy) * sin, cy + (x - cx) * sin + (y - cy) * cos];
}

function moveCurve(curve: Curve, id: string, move: (point: Point2) => Point2): Curve {
  switch (curve.kind) {
    case 'line':
      return { ...curve, id, start: move(curve.start), end: move(curve.end) };
    case 'arc':
      return { ...curve, id, start: move(curve.start), end: move(curve.end), centre: move(curve.centre) };
    case 'circle':
      return { ...curve, id, centre: move(curve.centre) };
  }
}
