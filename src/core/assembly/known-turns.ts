/**
 * How far the first of two geared bodies, or a screw, has turned, over full turns, where values tell it: an angle between the same two bodies
 * about the same axis does, and one geared wheel tells the next. Without it a wheel at 400 degrees would stand as at 40, and what it drives elsewhere.
 */
import { cross, dot, type Point3 } from '../geometry';
import { inverse, multiply, rotate, type Quaternion } from '../instances';
import { nearestTurn } from './equations';
import { directionOf, turnOf, type MateTurn } from './mate-equations';
import type { Mate } from './model';
import type { Turnable } from './turn-over';

/** One body that turns in another, as a mate counts it. */
interface Counted {
  readonly mate: Mate;
  readonly side: 'first' | 'second';
  readonly around: number;
  readonly body: number;
  readonly how: MateTurn;
  /** How the body stood in what is around it before any turn. */
  readonly start: Quaternion;
}

/** By mate: the turn of its first body, in radians; of a screw, that of the second in the first. */
export function knownTurns(mates: readonly Turnable[]): ReadonlyMap<string, number> {
  const counted = mates.flatMap(countedIn);
  const known = new Map<string, number>();
  if (counted.length === 0) return known;
  const angles = mates.filter(({ mate }) => mate.kind === 'angle' && !mate.limits && mate.about);
  const turns = new Map<Counted, number>();
  for (const one of counted) {
    const turn = angles.map((angle) => readAngle(angle, one)).find((found) => found !== undefined);
    if (turn !== undefined) turns.set(one, turn);
  }
  for (let isNew = true; isNew;) {
    isNew = false;
    for (const one of counted) {
      const turn = turns.get(one);
      if (turn === undefined) continue;
      for (const other of counted) {
        if (turns.has(other)) continue;
        const next = other.mate === one.mate ? acrossGears(one, turn) : alongBody(one, other, turn);
        if (next === undefined) continue;
        turns.set(other, next);
        isNew = true;
      }
    }
  }
  for (const [{ mate, side }, turn] of turns) if (side === 'first' || mate.kind === 'screw') known.set(mate.id, turn);
  return known;
}

function countedIn({ mate, bodies: { first, second, third } }: Turnable): Counted[] {
  if (mate.kind === 'screw') {
    const how = turnOf(mate, 'second');
    return how && mate.within ? [{ mate, side: 'second', around: first, body: second, how, start: mate.within.turn }] : [];
  }
  const { starts } = mate;
  if (mate.kind !== 'gears' || !starts) return [];
  return (['first', 'second'] as const).flatMap((side) => {
    const how = turnOf(mate, side);
    const [body, start] = side === 'first' ? [first, starts[0]] : [second, starts[1]];
    return how ? [{ mate, side, around: third, body, how, start }] : [];
  });
}

function readAngle({ mate: { first, second, about, value }, bodies }: Turnable, { around, body, how, start }: Counted): number | undefined {
  const [u, v] = [directionOf(first.geometry), directionOf(second.geometry)];
  if (!u || !v || !about) return undefined;
  const isForward = bodies.first === around && bodies.second === body;
  if (!isForward && (bodies.first !== body || bodies.second !== around)) return undefined;
  // The angle as it was before any turn, and which way it grows.
  const axis: Point3 = isForward ? about : rotate(start, about);
  const along = dot(axis, how.about);
  if (Math.abs(along) < 1 - 1e-6) return undefined;
  const seen: Point3 = isForward ? rotate(start, v) : rotate(inverse(start), v);
  const side = cross(about, u);
  const before = Math.atan2(dot(seen, side), dot(seen, u));
  return (isForward ? 1 : -1) * Math.sign(along) * (value - before);
}

function acrossGears({ mate: { value, sense }, side }: Counted, turn: number): number | undefined {
  const ratio = value * sense;
  if (side === 'first') return turn * ratio;
  return ratio === 0 ? undefined : turn / ratio;
}

/** The same body in the same surroundings, as another mate counts it: from how it stood when that was made. */
function alongBody(one: Counted, other: Counted, turn: number): number | undefined {
  if (one.body !== other.body || one.around !== other.around) return undefined;
  const along = dot(one.how.about, other.how.about);
  if (Math.abs(along) < 1 - 1e-6) return undefined;
  const between: Point3 = rotate(multiply(one.start, inverse(other.start)), other.how.u);
  const { u, about } = other.how;
  const side = cross(about, u);
  return nearestTurn(Math.atan2(dot(between, side), dot(between, u)), 0) + Math.sign(along) * turn;
}
