/** Ends of curves by place: points closer than the tolerance are one joint. */
import type { Point2 } from './curve';

/** Ends closer than this are one point, in millimetres. */
export const JOIN_TOLERANCE = 1e-6;

/** Numbers the different places it is shown, on a grid of the tolerance. */
export class Joints {
  private readonly cells = new Map<string, number>();
  private readonly places: Point2[] = [];

  /** The number of the joint at a place, a new one if there is none yet. */
  at(point: Point2): number {
    const known = this.find(point);
    if (known !== undefined) return known;
    const joint = this.places.length;
    this.places.push(point);
    this.cells.set(this.key(point, 0, 0), joint);
    return joint;
  }

  place(joint: number): Point2 {
    return this.places[joint] ?? [0, 0];
  }

  private find(point: Point2): number | undefined {
    for (const dx of [0, -1, 1]) {
      for (const dy of [0, -1, 1]) {
        const joint = this.cells.get(this.key(point, dx, dy));
        if (joint !== undefined) return joint;
      }
    }
    return undefined;
  }

  private key([x, y]: Point2, dx: number, dy: number): string {
    return `${Math.round(x / JOIN_TOLERANCE) + dx} ${Math.round(y / JOIN_TOLERANCE) + dy}`;
  }
}
