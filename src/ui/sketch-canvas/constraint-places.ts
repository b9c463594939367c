/** Where the marks of constraints stand: beside their geometry, on its inner side, in a row where there are several. Pure; pixels. */
import { middleOf, type DrawnShape } from '@/core/drawing';
import type { SketchConstraint } from '@/core/document';
import type { Pixel, WishedLabel } from '../design/place-labels';
import { toScreen, type SketchView } from './sketch-view';

/** The square that a mark is drawn in. */
export const MARK_SIZE = 18;
/** How far from its geometry its middle stands, and how far apart two of them. */
const OFF = 15;
const APART = MARK_SIZE + 3;

export interface ConstraintPlace {
  readonly constraint: SketchConstraint;
  readonly at: Pixel;
}

export function placeConstraints(constraints: readonly SketchConstraint[], shape: DrawnShape, view: SketchView): ConstraintPlace[] {
  const centre = centreOf(shape, view);
  const crowd = new Map<string, SketchConstraint[]>();
  for (const constraint of constraints) {
    const anchor = anchorOf(constraint);
    crowd.set(anchor, [...(crowd.get(anchor) ?? []), constraint]);
  }
  return [...crowd].flatMap(([anchor, those]) =>
    those.map((constraint, i): ConstraintPlace => {
      const along = (i - (those.length - 1) / 2) * APART;
      return { constraint, at: placeBeside(anchor, along, shape, view, centre) };
    }),
  );
}

/** The marks as what labels keep off. */
export function markBoxes(places: readonly ConstraintPlace[]): WishedLabel[] {
  return places.map(({ at }) => ({ at, width: MARK_SIZE, height: MARK_SIZE }));
}

function placeBeside(anchor: string, along: number, shape: DrawnShape, view: SketchView, centre: Pixel): Pixel {
  const [x, y] = toScreen(view, middleOf(shape, anchor));
  const line = shape.entities.find(({ id }) => id === anchor);
  if (line?.type !== 'line') return [x + OFF * 0.8 + along, y - OFF * 0.8];
  const [[ax, ay], [bx, by]] = [toScreen(view, shape.point(line.start)), toScreen(view, shape.point(line.end))];
  const length = Math.hypot(bx - ax, by - ay) || 1;
  const [ux, uy] = [(bx - ax) / length, (by - ay) / length];
  // Dimensions stand outside: the marks stand on the other side.
  const side = (centre[0] - x) * -uy + (centre[1] - y) * ux < 0 ? -1 : 1;
  return [x + along * ux - side * uy * OFF, y + along * uy + side * ux * OFF];
}

function centreOf(shape: DrawnShape, view: SketchView): Pixel {
  const points = shape.entities.flatMap((entity) => (entity.type === 'point' ? [toScreen(view, shape.point(entity.id))] : []));
  const sum = points.reduce<Pixel>(([x, y], [px, py]) => [x + px, y + py], [0, 0]);
  return points.length === 0 ? sum : [sum[0] / points.length, sum[1] / points.length];
}

function anchorOf({ on }: SketchConstraint): string {
  return on.find((id) => id !== 'origin' && !id.endsWith('-axis')) ?? on[0] ?? 'origin';
}
