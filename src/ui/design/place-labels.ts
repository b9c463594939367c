/**
 * Labels of a picture, so that each can be read: none over another or over a mark, none beyond the edge, and off the lines of the picture
 * where there is room near by. Pure; pixels, y down.
 */

export type Pixel = readonly [x: number, y: number];

export interface WishedLabel {
  /** Where its middle would be best. */
  readonly at: Pixel;
  readonly width: number;
  readonly height: number;
  /** It is being put there by hand: the others give way. */
  readonly isHeld?: boolean;
}

export interface Room {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** What else is in the picture. */
export interface Obstacles {
  /** Never covered, by their middles and sizes. */
  readonly boxes: readonly WishedLabel[];
  /** Covered only where there is no room near by. */
  readonly lines: readonly (readonly [Pixel, Pixel])[];
}

export const NO_OBSTACLES: Obstacles = { boxes: [], lines: [] };

/** Between two labels, in pixels. */
const GAP = 3;
const STEP: Pixel = [22, 12];
/** How far labels are moved at most, in steps. */
const REACH = 14;
/** How many pixels further away a label goes rather than lie on a line. */
const LINE_COST = 64;

/** The places around one, nearest first; where two are as near, below comes first. */
const AROUND: readonly Pixel[] = Array.from({ length: 2 * REACH + 1 }, (_, i) => i - REACH)
  .flatMap((across) => Array.from({ length: 2 * REACH + 1 }, (_, j): Pixel => [across * STEP[0], (j - REACH) * STEP[1]]))
  .sort((a, b) => Math.hypot(...a) - Math.hypot(...b) || b[1] - a[1] || b[0] - a[0]);

/** Where the middles of the labels go: where they are wished, or as near to that as there is room. One for which there is none stays. */
export function placeLabels(labels: readonly WishedLabel[], room: Room, obstacles: Obstacles = NO_OBSTACLES): Pixel[] {
  const placed = new Map<WishedLabel, Pixel>(obstacles.boxes.map((box) => [box, box.at]));
  for (const label of [...labels].sort((a, b) => Number(b.isHeld === true) - Number(a.isHeld === true))) {
    const free = label.isHeld === true ? label.at : findFree(label, placed, room, obstacles.lines);
    placed.set(label, free ?? within(label, label.at, room));
  }
  return labels.map((label) => placed.get(label) ?? label.at);
}

function findFree(label: WishedLabel, placed: ReadonlyMap<WishedLabel, Pixel>, room: Room, lines: Obstacles['lines']): Pixel | undefined {
  const [x, y] = within(label, label.at, room);
  let onLine: { readonly at: Pixel; readonly distance: number } | undefined;
  for (const [dx, dy] of AROUND) {
    const distance = Math.hypot(dx, dy);
    if (onLine && distance > onLine.distance + LINE_COST) break;
    const at = within(label, [x + dx, y + dy], room);
    if ([...placed].some(([other, there]) => overlap(label, at, other, there))) continue;
    if (!lines.some(([a, b]) => crosses(label, at, a, b))) return at;
    onLine ??= { at, distance };
  }
  return onLine?.at;
}

export function within({ width, height }: WishedLabel, [x, y]: Pixel, { left, top, right, bottom }: Room): Pixel {
  const clamp = (value: number, least: number, most: number): number => Math.max(least, Math.min(value, most));
  return [clamp(x, left + width / 2, right - width / 2), clamp(y, top + height / 2, bottom - height / 2)];
}

function overlap(a: WishedLabel, [ax, ay]: Pixel, b: WishedLabel, [bx, by]: Pixel): boolean {
  return Math.abs(ax - bx) < (a.width + b.width) / 2 + GAP && Math.abs(ay - by) < (a.height + b.height) / 2 + GAP;
}

/** Whether a straight line goes through the box of a label: the part of it within, by each side in turn (Liang and Barsky, 1984). */
export function crosses({ width, height }: Pick<WishedLabel, 'width' | 'height'>, [x, y]: Pixel, [ax, ay]: Pixel, [bx, by]: Pixel): boolean {
  const [dx, dy] = [bx - ax, by - ay];
  let [from, to] = [0, 1];
  for (const [step, distance] of [
    [-dx, ax - (x - width / 2)],
    [dx, x + width / 2 - ax],
    [-dy, ay - (y - height / 2)],
    [dy, y + height / 2 - ay],
  ] as const) {
    if (step === 0 && distance < 0) return false;
    if (step < 0) from = Math.max(from, distance / step);
    else if (step > 0) to = Math.min(to, distance / step);
  }
  return from <= to;
}
