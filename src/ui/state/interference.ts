/**
 * Which parts of an assembly stand in one another: boxes first, then the common volume of the pairs that are left, by the kernel. What was
 * found is kept by what the two are and how they stand to one another, so that only what moved is looked at again.
 */
import { boxAt, closePairs, movementsOf, type Box } from '@/core/assembly';
import { inverse, multiply, rotate, type Stance } from '@/core/instances';
import type { Movement } from '@/core/kernel-port';

/** A body of a part in the assembly, as far as it is judged. */
export interface JudgedBody {
  readonly path: readonly string[];
  readonly body: string;
  /** Key of its shape. */
  readonly key: string;
  readonly box: Box;
  readonly at: Stance;
}

export interface Interference {
  readonly first: JudgedBody;
  readonly second: JudgedBody;
  /** Of what they have in common, in cubic millimetres; undefined where the kernel could not tell. */
  readonly volume: number | undefined;
}

/** Boxes that stand in one another by no more than this, in millimetres, only touch. */
const TOUCH = 0.01;
/** What two have in common and is no more than this, in cubic millimetres, is a touch as well: surfaces that meet, rounded. */
export const LEAST_VOLUME = 0.5;

export interface CandidatePair {
  readonly key: string;
  readonly first: JudgedBody;
  readonly second: JudgedBody;
  /** Brings the second to where it stands, in the space of the first. */
  readonly movements: readonly Movement[];
}

/** Pairs that may stand in one another. */
export function candidatePairs(bodies: readonly JudgedBody[]): CandidatePair[] {
  const boxes = bodies.map(({ box, at }) => boxAt(box, at));
  return closePairs(boxes, TOUCH).flatMap(([i, j]) => {
    const [first, second] = [bodies[i], bodies[j]];
    if (!first || !second || first.path.join(' ') === second.path.join(' ')) return [];
    const relative = within(first.at, second.at);
    // Turns and shifts below what the kernel tells apart make no other pair.
    const place = [...relative.origin.map((v) => v.toFixed(5)), ...relative.turn.map((v) => v.toFixed(8))].join(',');
    return { key: `${first.key} ${second.key} ${place.replaceAll('-0.00000000', '0.00000000')}`, first, second, movements: movementsOf(relative) };
  });
}

function within(outer: Stance, inner: Stance): Stance {
  const back = inverse(outer.turn);
  return {
    turn: multiply(back, inner.turn),
    origin: rotate(back, [inner.origin[0] - outer.origin[0], inner.origin[1] - outer.origin[1], inner.origin[2] - outer.origin[2]]),
  };
}
