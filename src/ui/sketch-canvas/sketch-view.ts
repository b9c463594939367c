/** The window on the sketch plane: which part of it is shown, and how large. */
import type { DrawnShape, Place } from '@/core/drawing';

export interface SketchView {
  readonly centre: Place;
  /** Pixels for a millimetre. */
  readonly scale: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

export function toScreen(view: SketchView, [x, y]: Place): Place {
  return [view.widthPx / 2 + (x - view.centre[0]) * view.scale, view.heightPx / 2 - (y - view.centre[1]) * view.scale];
}

export function toPlane(view: SketchView, [px, py]: Place): Place {
  return [view.centre[0] + (px - view.widthPx / 2) / view.scale, view.centre[1] - (py - view.heightPx / 2) / view.scale];
}

/** Zooms by a factor with the place under the pointer held. */
export function zoomAt(view: SketchView, pointer: Place, factor: number): SketchView {
  const scale = Math.min(400, Math.max(0.02, view.scale * factor));
  const held = toPlane(view, pointer);
  return { ...view, scale, centre: [held[0] - (pointer[0] - view.widthPx / 2) / scale, held[1] + (pointer[1] - view.heightPx / 2) / scale] };
}

export function panBy(view: SketchView, dx: number, dy: number): SketchView {
  return { ...view, centre: [view.centre[0] - dx / view.scale, view.centre[1] + dy / view.scale] };
}

/** Height of the tools over the canvas, in pixels: what lies under them is not seen. */
export const STRIP_HEIGHT = 66;

/** Whether all that is drawn can be seen. */
export function isInView(view: SketchView, shape: DrawnShape, edge = 0): boolean {
  return shape.entities.every((entity) => {
    if (entity.type !== 'point') return true;
    const [x, y] = toScreen(view, shape.point(entity.id));
    return x >= edge && y >= STRIP_HEIGHT + edge && x <= view.widthPx - edge && y <= view.heightPx - edge;
  });
}

/** Everything in view, with room for dimensions around it. */
export function fitView(shape: DrawnShape, labels: readonly Place[], widthPx: number, heightPx: number): SketchView {
  const xs: number[] = [0];
  const ys: number[] = [0];
  for (const [x, y] of labels) {
    xs.push(x);
    ys.push(y);
  }
  for (const entity of shape.entities) {
    if (entity.type === 'line') continue;
    const [x, y] = shape.point(entity.type === 'point' ? entity.id : entity.centre);
    const r = entity.type === 'point' ? 0 : shape.radius(entity.id);
    xs.push(x - r, x + r);
    ys.push(y - r, y + r);
  }
  const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const size = Math.max(maxX - minX, maxY - minY);
  const isEmpty = size < 1e-6;
  const scale = isEmpty ? Math.min(widthPx, heightPx) / 200 : Math.min((widthPx - 120) / Math.max(1, maxX - minX), (heightPx - 130) / Math.max(1, maxY - minY));
  return { centre: [(minX + maxX) / 2, (minY + maxY) / 2], scale: Math.max(0.02, scale), widthPx, heightPx };
}
