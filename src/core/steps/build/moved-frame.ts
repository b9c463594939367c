/** Where a plane lies after movements. */
import type { Frame, Point3 } from '../../geometry';
import type { Movement } from '../../kernel-port';

/** A reflected frame is left-handed; its normal is the reflected one, which is what heights are measured along. */
export function moveFrame(frame: Frame, movements: readonly Movement[]): Frame {
  return movements.reduce(
    (at, movement) => ({
      origin: movePoint(at.origin, movement),
      x: moveDirection(at.x, movement),
      y: moveDirection(at.y, movement),
      normal: moveDirection(at.normal, movement),
    }),
    frame,
  );
}

function movePoint(point: Point3, movement: Movement): Point3 {
  switch (movement.kind) {
    case 'shift':
      return plus(point, movement.by, 1);
    case 'turn':
      return plus(movement.about.origin, moveDirection(plus(point, movement.about.origin, -1), movement), 1);
    case 'mirror':
      return plus(movement.plane.origin, moveDirection(plus(point, movement.plane.origin, -1), movement), 1);
  }
}

/** Turns by Rodrigues' formula: v cos a + (k x v) sin a + k (k.v)(1 - cos a). */
function moveDirection(v: Point3, movement: Movement): Point3 {
  switch (movement.kind) {
    case 'shift':
      return v;
    case 'turn': {
      const { direction: k } = movement.about;
      const [cos, sin] = [Math.cos(movement.angle), Math.sin(movement.angle)];
      const cross: Point3 = [k[1] * v[2] - k[2] * v[1], k[2] * v[0] - k[0] * v[2], k[0] * v[1] - k[1] * v[0]];
      const along = dot(k, v) * (1 - cos);
      return [v[0] * cos + cross[0] * sin + k[0] * along, v[1] * cos + cross[1] * sin + k[1] * along, v[2] * cos + cross[2] * sin + k[2] * along];
    }
    case 'mirror':
      return plus(v, movement.plane.normal, -2 * dot(v, movement.plane.normal));
  }
}

function plus(a: Point3, b: Point3, factor: number): Point3 {
  return [a[0] + factor * b[0], a[1] + factor * b[1], a[2] + factor * b[2]];
}

function dot(a: Point3, b: Point3): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}
