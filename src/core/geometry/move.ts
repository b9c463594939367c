/** Movements in the plane. */
import type { Curve, Point2 } from './curve';

export type PlaneMovement = (point: Point2) => Point2;

export function shiftBy([dx, dy]: Point2): PlaneMovement {
  return ([x, y]) => [x + dx, y + dy];
}

/** Counter-clockwise, in radians. */
export function turnAbout([cx, cy]: Point2, angle: number): PlaneMovement {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return ([x, y]) => [cx + (x - cx) * cos - (y - cy) * sin, cy + (x - cx) * sin + (y - cy) * cos];
}

/** A curve moved without stretching or turning it over, under another id. */
export function moveCurve(curve: Curve, id: string, move: PlaneMovement): Curve {
  switch (curve.kind) {
    case 'line':
      return { ...curve, id, start: move(curve.start), end: move(curve.end) };
    case 'arc':
      return { ...curve, id, start: move(curve.start), end: move(curve.end), centre: move(curve.centre) };
    case 'circle':
      return { ...curve, id, centre: move(curve.centre) };
  }
}
