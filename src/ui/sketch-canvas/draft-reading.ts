/** What is being drawn in numbers, as it is drawn: for beside the pointer. Pure; millimetres and degrees. */
import type { DrawnShape, Place } from '@/core/drawing';

export type DraftNumber = { readonly kind: 'length' | 'angle'; readonly value: number; readonly prefix?: string };

/** Coordinates before the first click; a line's length and angle; a rectangle's sides; a circle's diameter; an arc's radius. */
export function readDraft(
  first: Place | undefined,
  at: Place,
  drawn: DrawnShape['entities'],
  point: DrawnShape['point'],
  radius: DrawnShape['radius'],
): DraftNumber[] {
  if (!first) return [at[0], at[1]].map((value) => ({ kind: 'length', value }));
  const lines = drawn.filter((entity) => entity.type === 'line');
  const circle = drawn.find((entity) => entity.type === 'circle');
  if (circle) return [{ kind: 'length', value: 2 * radius(circle.id), prefix: '⌀ ' }];
  const arc = drawn.find((entity) => entity.type === 'arc');
  if (arc && lines.length === 0) return [{ kind: 'length', value: radius(arc.id), prefix: 'R ' }];
  if (lines.length > 1) {
    const sides = lines.slice(0, 2).map(({ start, end }) => distance(point(start), point(end)));
    return sides.map((value) => ({ kind: 'length', value }));
  }
  const [line] = lines;
  const [from, to] = line ? [point(line.start), point(line.end)] : [first, at];
  const turn = (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;
  return [
    { kind: 'length', value: distance(from, to) },
    { kind: 'angle', value: turn },
  ];
}

function distance(a: Place, b: Place): number {
  return Math.hypot(b[0] - a[0], b[1] - a[1]);
}
