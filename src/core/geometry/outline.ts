/**
 * The plane divided by curves: the outline of each connected group of pieces, and the cells inside it.
 *
 * Every piece is two half-edges. At each joint those that leave it are sorted by direction, those that leave
 * in the same direction by how they bend; turning as sharply left as possible at every joint walks round one
 * cell. A walk with negative area is the outside of its group.
 */
import { arcMiddle, type Point2 } from './curve';
import type { Joints } from './joints';
import { areaUnder, type Loop, type LoopCurve } from './loop';
import type { Piece } from './pieces';

export interface Group {
  /** The outside of the group, counter-clockwise. */
  readonly outline: Loop;
  /** The regions that its curves divide it into. */
  readonly cells: readonly Loop[];
  /** Curves with the same region on both sides: they hang, or join two outlines. */
  readonly hanging: readonly string[];
  /** Where the outline, or a hole in it, touches what it would else not meet. */
  readonly touching: Point2 | undefined;
}

interface HalfEdge {
  readonly from: number;
  readonly to: number;
  /** Direction and bend in which it leaves. */
  readonly angle: number;
  readonly bend: number;
}

export function traceGroups(pieces: readonly Piece[], joints: Joints): Group[] {
  const halves = pieces.flatMap((piece) => [halfEdge(piece, false), halfEdge(piece, true)]);
  const leaving = new Map<number, number[]>();
  halves.forEach(({ from }, index) => {
    const list = leaving.get(from);
    if (list) list.push(index);
    else leaving.set(from, [index]);
  });
  for (const list of leaving.values()) list.sort((a, b) => compareDirections(halves[a], halves[b]));
  const nextOf = (index: number): number => {
    const around = leaving.get(halves[index]?.to ?? -1) ?? [];
    const back = around.indexOf(index ^ 1);
    return around[(back + around.length - 1) % around.length] ?? index;
  };
  const walkOf: number[] = halves.map(() => -1);
  const walks: number[][] = [];
  for (let start = 0; start < halves.length; start++) {
    if (walkOf[start] !== -1) continue;
    const walk: number[] = [];
    for (let at = start; walkOf[at] === -1; at = nextOf(at)) {
      walkOf[at] = walks.length;
      walk.push(at);
    }
    walks.push(walk);
  }
  return collectGroups(pieces, halves, walks, walkOf, joints);
}

function collectGroups(
  pieces: readonly Piece[],
  halves: readonly HalfEdge[],
  walks: readonly (readonly number[])[],
  walkOf: readonly number[],
  joints: Joints,
): Group[] {
  const groupOf = uniteWalks(walks.length, pieces.length, walkOf);
  const groups = new Map<number, { outline: Loop | undefined; touching: Point2 | undefined; cells: Loop[]; hanging: Set<string> }>();
  walks.forEach((walk, index) => {
    const key = groupOf(index);
    const group = groups.get(key) ?? { outline: undefined, touching: undefined, cells: [], hanging: new Set<string>() };
    groups.set(key, group);
    const chain = walk.map((half): LoopCurve => ({ curve: pieceOf(pieces, half).curve, isReversed: (half & 1) === 1 }));
    for (const half of walk) if (walkOf[half ^ 1] === index) group.hanging.add(pieceOf(pieces, half).curve.id);
    const area = chain.reduce((sum, part) => sum + areaUnder(part), 0);
    group.touching ??= findRepeat(
      walk.map((half) => halves[half]?.from ?? -1),
      joints,
    );
    if (area > 0) group.cells.push({ curves: mergePieces(chain), area });
    else {
      const outline = chain.map(({ curve, isReversed }) => ({ curve, isReversed: !isReversed })).reverse();
      group.outline = { curves: mergePieces(outline), area: -area };
    }
  });
  return [...groups.values()].flatMap(({ outline, touching, cells, hanging }) => (outline ? [{ outline, touching, cells, hanging: [...hanging] }] : []));
}

function pieceOf(pieces: readonly Piece[], half: number): Piece {
  return pieces[half >> 1] as Piece;
}

/** Walks on the two sides of a piece belong together. */
function uniteWalks(count: number, pieces: number, walkOf: readonly number[]): (walk: number) => number {
  const parent = Array.from({ length: count }, (_, i) => i);
  const root = (walk: number): number => {
    let at = walk;
    while (parent[at] !== at) at = parent[at] = parent[parent[at] ?? at] ?? at;
    return at;
  };
  for (let piece = 0; piece < pieces; piece++) parent[root(walkOf[2 * piece] ?? 0)] = root(walkOf[2 * piece + 1] ?? 0);
  return root;
}

function findRepeat(visited: readonly number[], joints: Joints): Point2 | undefined {
  const seen = new Set<number>();
  for (const joint of visited) {
    if (seen.has(joint)) return joints.place(joint);
    seen.add(joint);
  }
  return undefined;
}

/** Neighbouring pieces of one curve put together again, where nothing turns off between them. */
function mergePieces(chain: readonly LoopCurve[]): LoopCurve[] {
  const first = chain.findIndex((part, i) => !continues(chain[(i + chain.length - 1) % chain.length], part));
  if (first < 0) {
    const [whole] = chain;
    if (whole?.curve.kind !== 'arc') return [...chain];
    const { id, centre, radius } = whole.curve;
    return [{ curve: { kind: 'circle', id, centre, radius }, isReversed: whole.isReversed }];
  }
  const merged: LoopCurve[] = [];
  for (const part of [...chain.slice(first), ...chain.slice(0, first)]) {
    const last = merged.at(-1);
    if (last && continues(last, part)) merged[merged.length - 1] = joinPieces(last, part);
    else merged.push(part);
  }
  return merged;
}

function continues(before: LoopCurve | undefined, after: LoopCurve): boolean {
  return before !== undefined && before.curve.id === after.curve.id && before.isReversed === after.isReversed;
}

function joinPieces(before: LoopCurve, after: LoopCurve): LoopCurve {
  if (before.curve.kind === 'circle' || after.curve.kind === 'circle') return before;
  const { isReversed } = before;
  const curve = isReversed ? { ...before.curve, start: after.curve.start } : { ...before.curve, end: after.curve.end };
  return { curve, isReversed };
}

function halfEdge({ curve, from, to }: Piece, isReversed: boolean): HalfEdge {
  const ends = isReversed ? { from: to, to: from } : { from, to };
  if (curve.kind === 'line') {
    const [a, b] = isReversed ? [curve.end, curve.start] : [curve.start, curve.end];
    return { ...ends, angle: wrap(Math.atan2(b[1] - a[1], b[0] - a[0])), bend: 0 };
  }
  const at = isReversed ? curve.end : curve.start;
  const radial = Math.atan2(at[1] - curve.centre[1], at[0] - curve.centre[0]);
  const side = isReversed ? -1 : 1;
  return { ...ends, angle: wrap(radial + (side * Math.PI) / 2), bend: side / curve.radius };
}

/** Directions closer than this count as one; then the bend decides. Tangent curves meet to solver accuracy. */
const SAME_DIRECTION = 1e-6;

/** To between -pi and pi, where what is all but -pi counts as pi, so that one direction has one angle. */
function wrap(angle: number): number {
  const turned = Math.atan2(Math.sin(angle), Math.cos(angle));
  return turned < -Math.PI + SAME_DIRECTION ? turned + 2 * Math.PI : turned;
}

function compareDirections(a: HalfEdge | undefined, b: HalfEdge | undefined): number {
  if (!a || !b) return 0;
  return Math.abs(a.angle - b.angle) < SAME_DIRECTION ? a.bend - b.bend : a.angle - b.angle;
}

/** A point on a loop that is not a joint of it. */
export function pointOn(loop: Loop): Point2 {
  const curve = loop.curves[0]?.curve;
  if (!curve) return [0, 0];
  if (curve.kind === 'circle') return [curve.centre[0] + curve.radius, curve.centre[1]];
  return curve.kind === 'arc' ? arcMiddle(curve) : [(curve.start[0] + curve.end[0]) / 2, (curve.start[1] + curve.end[1]) / 2];
}
