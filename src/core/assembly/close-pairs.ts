/** Which of many boxes meet: sorted and swept along x, so that not every pair is looked at. Millimetres. */
import type { Point3 } from '../geometry';
import { toOutside, type Stance } from '../instances';

export interface Box {
  readonly min: Point3;
  readonly max: Point3;
}

/** The box around a box that stands somewhere else and is turned. */
export function boxAt({ min, max }: Box, at: Stance): Box {
  const corners = [min[0], max[0]].flatMap((x) => [min[1], max[1]].flatMap((y) => [min[2], max[2]].map((z) => toOutside(at, [x, y, z]))));
  const along = (pick: (...values: number[]) => number, i: 0 | 1 | 2): number => pick(...corners.map((corner) => corner[i]));
  return {
    min: [along(Math.min, 0), along(Math.min, 1), along(Math.min, 2)],
    max: [along(Math.max, 0), along(Math.max, 1), along(Math.max, 2)],
  };
}

/** Pairs of boxes, by their numbers, that stand in one another by more than `depth` every way: what only touches is none. */
export function closePairs(boxes: readonly Box[], depth: number): [number, number][] {
  const order = boxes.map((_, i) => i).sort((a, b) => (boxes[a]?.min[0] ?? 0) - (boxes[b]?.min[0] ?? 0));
  const pairs: [number, number][] = [];
  let open: number[] = [];
  for (const i of order) {
    const box = boxes[i];
    if (!box) continue;
    open = open.filter((j) => (boxes[j]?.max[0] ?? 0) > box.min[0] + depth);
    for (const j of open) {
      const other = boxes[j];
      if (other && meets(box, other, 1, depth) && meets(box, other, 2, depth) && meets(box, other, 0, depth)) pairs.push(i < j ? [i, j] : [j, i]);
    }
    open.push(i);
  }
  return pairs.sort(([a, b], [c, d]) => a - c || b - d);
}

function meets(a: Box, b: Box, axis: 0 | 1 | 2, depth: number): boolean {
  return Math.min(a.max[axis], b.max[axis]) - Math.max(a.min[axis], b.min[axis]) > depth;
}
