/** How much is seen so that a box fits into what is free of a picture, and the lengths that its scale is told with. Pure. */
import { type Box3, Vector3 } from 'three';

/** Pixels of each edge that other things stand on. */
export interface Insets {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

export const NO_INSETS: Insets = { left: 0, top: 0, right: 0, bottom: 0 };

/** How much larger than what is in it a picture is. */
const MARGIN = 1.12;
/** What is left of a picture however much stands on it, as a share. */
const LEAST_FREE = 0.25;
/** Times that a span is widened: a hundred thousand times as much in all. */
const MOST_TRIES = 400;

interface Axes {
  readonly right: Vector3;
  readonly up: Vector3;
  readonly towards: Vector3;
}

/** Millimetres from the lower to the upper edge at the middle of the box. `field`: degrees of a picture in perspective, 0 for a parallel one. */
export function fitSpan(box: Box3, { right, up, towards }: Axes, [width, height]: readonly [number, number], insets: Insets, field: number): number {
  const free = [
    Math.max(width - insets.left - insets.right, LEAST_FREE * width) / MARGIN,
    Math.max(height - insets.top - insets.bottom, LEAST_FREE * height) / MARGIN,
  ] as const;
  const shift = shiftOfRoom(insets);
  const middle = box.getCenter(new Vector3());
  const corners = cornersOf(box)
    .map((corner) => corner.sub(middle))
    .map((corner) => [corner.dot(right), -corner.dot(up), corner.dot(towards)] as const);
  const most = (axis: 0 | 1): number => Math.max(...corners.map((corner) => Math.abs(corner[axis])));
  let span = Math.max((2 * most(0) * height) / free[0], (2 * most(1) * height) / free[1], 1e-3);
  if (field === 0) return span;
  // What is nearer than the middle is seen larger, and further from the middle of the picture.
  const fits = (): boolean => {
    const perPixel = span / height;
    const distance = span / (2 * Math.tan((field * Math.PI) / 360));
    return corners.every(([x, y, near]) => {
      const times = distance / (distance - near);
      const seen = [(x / perPixel + shift[0]) * times - shift[0], (y / perPixel + shift[1]) * times - shift[1]] as const;
      return near < distance && seen.every((offset, i) => Math.abs(offset) <= (free[i as 0 | 1] * MARGIN) / 2);
    });
  };
  for (let tries = 0; tries < MOST_TRIES && !fits(); tries++) span *= 1.03;
  return span;
}

function cornersOf({ min, max }: Box3): Vector3[] {
  return Array.from({ length: 8 }, (_, i) => new Vector3(i & 1 ? max.x : min.x, i & 2 ? max.y : min.y, i & 4 ? max.z : min.z));
}

/** How far the middle of what is free lies right of and below the middle of the picture, in pixels. */
export function shiftOfRoom({ left, top, right, bottom }: Insets): readonly [number, number] {
  return [(left - right) / 2, (top - bottom) / 2];
}

/** The largest of 1, 2 and 5 times a power of ten that is no longer than so many millimetres. */
export function roundLength(most: number): number {
  const decade = 10 ** Math.floor(Math.log10(most));
  return ([5, 2].find((times) => times * decade <= most * (1 + 1e-9)) ?? 1) * decade;
}
