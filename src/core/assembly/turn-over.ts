/**
 * Bodies that stand far from how a mate has them are put there before anything is solved, outwards from what is held: equations alone do not tell
 * the two senses of a direction apart, and a turn over more than a right angle is far for them. A body is turned about a direction that the mates
 * before have settled for it, so that these go on holding.
 */
import { cross, dot, type Point3 } from '../geometry';
import { combine, inverse, multiply, normalise, relativeTo, rotate, STANDING, toOutside, turnAbout, type Stance } from '../instances';
import { across, nearestTurn, unit } from './equations';
import { directionOf, turnOf, type MateBodies } from './mate-equations';
import type { Mate } from './model';

export interface Turnable {
  readonly mate: Mate;
  readonly bodies: MateBodies;
}

/** `known` tells how far the first body of mates that couple turns has turned, over full turns, where values tell it. */
export function turnOver(mates: readonly Turnable[], stances: Stance[], held: readonly boolean[], known: ReadonlyMap<string, number>): void {
  const isSettled = held.slice();
  /** Directions of bodies that mates before have settled, in the space of the assembly. */
  const settled = new Map<number, Point3[]>();
  // What is geared follows what turns it, and what is fixed to something goes where that has gone.
  const waiting = [0, 1, 2].map((rank) => mates.filter(({ mate }) => rankOf(mate) === rank));
  for (;;) {
    const next = takeNext(waiting, isSettled);
    if (!next) return;
    const { first, second } = next.bodies;
    const free = held[second] === true || (isSettled[first] !== true && isSettled[second] === true) ? first : second;
    if (held[free] !== true) turnOne(next, free, stances, settled, { isPlaced: isSettled[free] === true, known });
    isSettled[first] = isSettled[second] = true;
  }
}

function rankOf({ kind }: Mate): number {
  return kind === 'together' ? 2 : kind === 'gears' || kind === 'screw' ? 1 : 0;
}

/** The first mate that holds something to what is settled. */
function takeNext(waiting: readonly Turnable[][], isSettled: readonly boolean[]): Turnable | undefined {
  for (const ranked of waiting) {
    const at = ranked.findIndex(({ bodies: { first, second } }) => isSettled[first] === true || isSettled[second] === true);
    if (at >= 0) return ranked.splice(at, 1)[0];
  }
  return undefined;
}

interface Before {
  /** Whether mates before have put the body somewhere. */
  readonly isPlaced: boolean;
  readonly known: ReadonlyMap<string, number>;
}

function turnOne({ mate, bodies }: Turnable, free: number, stances: Stance[], settled: Map<number, Point3[]>, { isPlaced, known }: Before): void {
  const { first, second, third } = bodies;
  const [a, b] = [stances[first], stances[second]];
  const own = stances[free];
  if (!a || !b || !own) return;
  if (mate.kind === 'together' && mate.within) {
    if (!isPlaced) stances[free] = free === second ? combine(a, mate.within) : combine(b, relativeTo(mate.within, STANDING));
    return;
  }
  if (mate.kind === 'gears') {
    const around = stances[third];
    if (around) turnGear(mate, free === second ? 'second' : 'first', { around, one: a, two: b }, known.get(mate.id), (turned) => (stances[free] = turned));
    return;
  }
  const v = directionOf(mate.second.geometry);
  const now: Point3 | undefined = v && rotate(b.turn, v);
  const wanted = now && wantedDirection(mate, a, now);
  if (!wanted || !now) return;
  const before = settled.get(free) ?? [];
  settled.set(free, [...before, wanted]);
  if (dot(wanted, now) >= NEAR) return;
  const [fixed, ...others] = before;
  // Two directions that are not one hold it altogether.
  if (fixed && others.some((other) => Math.abs(dot(other, fixed)) < 1 - 1e-6)) return;
  const about = mate.kind === 'angle' && mate.about ? unit(rotate(a.turn, mate.about)) : undefined;
  const normal = cross(now, wanted);
  const axis = fixed ?? about ?? (Math.hypot(...normal) > 1e-6 ? unit(normal) : across(unit(now))[0]);
  const point = free === second ? mate.second.geometry.point : mate.first.geometry.point;
  stances[free] = turnedAbout(own, point, axis, (free === second ? 1 : -1) * angleAbout(axis, now, wanted));
}

/** Turns one of two gears to where the other has it, where it is far from there. */
function turnGear(
  mate: Mate,
  side: 'first' | 'second',
  { around, one, two }: { readonly around: Stance; readonly one: Stance; readonly two: Stance },
  known: number | undefined,
  put: (turned: Stance) => void,
): void {
  const [turned, ratio] = [mate.turned ?? 0, mate.value * mate.sense];
  const angles = (['first', 'second'] as const).map((which) => {
    const how = turnOf(mate, which);
    const near = which === 'first' ? (known ?? turned) : ratio * (known ?? turned);
    return how && angleIn(around, which === 'first' ? one : two, how, near);
  });
  const how = turnOf(mate, side);
  const [first, second] = angles;
  if (first === undefined || second === undefined || !how || ratio === 0) return;
  const by = side === 'second' ? ratio * (known ?? first) - second : second / ratio - first;
  if (Math.abs(by) < FAR) return;
  const geometry = side === 'second' ? mate.second.geometry : mate.first.geometry;
  put(turnedAbout(side === 'second' ? two : one, geometry.point, rotate(around.turn, how.about), by));
}

/** How far a direction of something has turned from one of what is around it, about an axis of that: nearest to an angle, over full turns. */
export function angleIn(
  around: Stance,
  stance: Stance,
  { about, u, v }: { readonly about: Point3; readonly u: Point3; readonly v: Point3 },
  near: number,
): number {
  const now: Point3 = rotate(multiply(inverse(around.turn), stance.turn), v);
  return nearestTurn(Math.atan2(dot(now, cross(about, u)), dot(now, u)), near);
}

/** Turned about a direction through a point of its own, which stays where it is. */
function turnedAbout(own: Stance, point: Point3, axis: Point3, angle: number): Stance {
  const turn = normalise(multiply(turnAbout(axis, angle), own.turn));
  const at = toOutside(own, point);
  const after = rotate(turn, point);
  return { turn, origin: [at[0] - after[0], at[1] - after[1], at[2] - after[2]] };
}

/** A direction that is off by more than 60 degrees, by its cosine, is turned to where it should be before anything is solved. */
const NEAR = 0.5;
/** Likewise a gear, in radians. */
const FAR = 1;

/** The angle about an axis that takes one direction to another, as seen along it; half a turn where they tell none. */
function angleAbout(axis: Point3, from: Point3, to: Point3): number {
  const flat = (v: Point3): Point3 => [v[0] - dot(v, axis) * axis[0], v[1] - dot(v, axis) * axis[1], v[2] - dot(v, axis) * axis[2]];
  const [p, q] = [flat(from), flat(to)];
  if (Math.hypot(...p) < 1e-9 || Math.hypot(...q) < 1e-9) return Math.PI;
  return Math.atan2(dot(axis, cross(p, q)), dot(p, q));
}

/** The direction, in the space of the assembly, that the second's is to have; undefined where a mate leaves that open. */
function wantedDirection({ kind, first, second, sense, value, about, limits, within }: Mate, a: Stance, now: Point3): Point3 | undefined {
  const own = directionOf(first.geometry);
  if (!own) return undefined;
  const u: Point3 = rotate(a.turn, own);
  if (kind === 'angle' && about && !limits) {
    const side = rotate(a.turn, cross(about, own));
    const [cos, sin] = [Math.cos(value), Math.sin(value)];
    return [u[0] * cos + side[0] * sin, u[1] * cos + side[1] * sin, u[2] * cos + side[2] * sin];
  }
  const bothRun = first.geometry.kind === second.geometry.kind;
  if (kind === 'parallel' || kind === 'coaxial' || (kind === 'coplanar' && bothRun)) return [u[0] * sense, u[1] * sense, u[2] * sense];
  // Of a screw, the way that it had before any turn; of others either way is right, and the nearer one taken.
  const begun = kind === 'screw' && within && directionOf(second.geometry);
  const way = (begun ? dot(own, rotate(within.turn, begun)) : dot(u, now)) < 0 ? -1 : 1;
  return kind === 'slot' || kind === 'screw' || ((kind === 'tangent' || kind === 'centred') && bothRun) ? [u[0] * way, u[1] * way, u[2] * way] : undefined;
}
