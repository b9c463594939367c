/**
 * Which parts of an assembly stand in one another: boxes first, then the common volume of the pairs that are left, by the kernel. What was
 * found is kept by what the two are and how they stand to one another, so that only what moved is looked at again.
 */
import { plainId } from '../document';
import type { DocumentRecord } from '../document';
import { relativeTo, type Stance } from '../instances';
import type { Movement } from '../kernel-port';
import { boxAt, closePairs } from './close-pairs';
import { movementsOf } from './movements';
import type { JudgedBody } from './solids';

export interface Interference<B extends JudgedBody = JudgedBody> {
  readonly first: B;
  readonly second: B;
  /** Of what they have in common, in cubic millimetres; undefined where the kernel could not tell. */
  readonly volume: number | undefined;
}

/** Boxes that stand in one another by no more than this, in millimetres, only touch. */
const TOUCH = 0.01;
/** What two have in common and is no more than this, in cubic millimetres, is a touch as well: surfaces that meet, rounded. */
export const LEAST_VOLUME = 0.5;

export interface CandidatePair<B extends JudgedBody = JudgedBody> {
  readonly key: string;
  readonly first: B;
  readonly second: B;
  /** Brings the second to where it stands, in the space of the first. */
  readonly movements: readonly Movement[];
}

/** Pairs that may stand in one another. */
export function candidatePairs<B extends JudgedBody>(bodies: readonly B[]): CandidatePair<B>[] {
  const boxes = bodies.map(({ box, at }) => boxAt(box, at));
  return closePairs(boxes, TOUCH).flatMap(([i, j]) => {
    const [first, second] = [bodies[i], bodies[j]];
    if (!first || !second || first.path.join(' ') === second.path.join(' ')) return [];
    const relative = relativeTo(first.at, second.at);
    return { key: `${first.key} ${second.key} ${placeText(relative)}`, first, second, movements: movementsOf(relative) };
  });
}

/** Turns and shifts below what the kernel tells apart make no other place. */
export function placeText({ origin, turn }: Stance): string {
  const place = [...origin.map((v) => v.toFixed(5)), ...turn.map((v) => v.toFixed(8))].join(',');
  return place.replaceAll('-0.00000000', '0.00000000');
}

type Dismissal = Extract<DocumentRecord, { readonly type: 'dismissal' }>;

/** What somebody has looked at and left comes back when its volume has grown by more than this share. */
const GROWTH = 0.05;

function pairText({ first, second }: Interference): string {
  const text = ({ path, body }: JudgedBody): string => `${path.map(plainId).join('/')}/${body}`;
  return [text(first), text(second)].sort().join(' ');
}

/** What a dismissal of it is kept under: the pair, whatever its order, and the volume in cubic millimetres. */
export function interferenceKey(one: Interference): string {
  return `interference ${pairText(one)} ${(one.volume ?? 0).toFixed(3)}`;
}

export function dismissalOf(dismissals: readonly Dismissal[], one: Interference): Dismissal | undefined {
  const pair = `interference ${pairText(one)} `;
  return dismissals.find(({ key }) => key.startsWith(pair) && (one.volume ?? 0) <= Number(key.slice(pair.length)) * (1 + GROWTH));
}
