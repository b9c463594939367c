/**
 * Where components stand, from where they are to where every mate holds. Groups of bodies that no mate joins are solved apart; in a group without a
 * held body, the first one is held.
 *
 * A value that is far from what it is at the start is gone to in steps, so that a linkage stays on the branch that it is on; what stands the
 * wrong way round is turned over first. Invariant, tested: moving everything rigidly changes nothing but that.
 */
import { dot } from '../geometry';
import { rotate, STANDING, toOutside, type Stance } from '../instances';
import { drag } from './drag';
import { describeFreedom, smallestConflict } from './freedom';
import { knownTurns } from './known-turns';
import { bodiesOf, directionOf, equationsOf, type MateBodies, type MateEquations } from './mate-equations';
import { valueOf } from './equations';
import type { Mate, MatedBody, Misfit, Placements, Pull } from './model';
import { BROKEN, missBy, settle, systemOf, type Group, type Outcome } from './settle';
import { angleIn, turnOver } from './turn-over';

interface Joined extends MateEquations {
  readonly mate: Mate;
  readonly bodies: MateBodies;
}

/** `pull` drags a body first; how much everything can still move is not told then. */
export function solvePlacements(bodies: readonly MatedBody[], mates: readonly Mate[], pull?: Pull): Placements {
  const index = new Map(bodies.map(({ id }, i) => [id, i]));
  const joined = mates.flatMap((mate) => join(mate, index) ?? []);
  const stances: Stance[] = bodies.map(({ at }) => at);
  const held = bodies.map(({ isHeld }) => isHeld);
  const size = Math.max(sizeOf(bodies, mates), ...(pull ? [...pull.point, ...pull.to].map(Math.abs) : []));
  const result = { redundant: [] as string[], conflicting: [] as string[], status: 'placed' as Placements['status'], iterations: 0, degreesOfFreedom: 0 };
  const dependent = new Map<string, readonly number[]>();
  const freedom = new Map<string, number>();
  const turned = new Map<string, number>();
  for (const numbers of groupsOf(bodies.length, joined)) {
    const inGroup = new Set(numbers);
    const own = joined.filter((one) => inGroup.has(one.bodies.first));
    const group: Group = { bodies: numbers, held, stances, size };
    const pulled = pull === undefined ? undefined : numbers.find((i) => bodies[i]?.id === pull.body && !held[i]);
    const system = pulled === undefined ? undefined : systemOf(own, group);
    if (pull && pulled !== undefined && system) drag(pull, pulled, own, group, system);
    if (own.length === 0) {
      const free = numbers.filter((i) => !held[i]);
      for (const i of free) freedom.set(bodies[i]?.id ?? '', 6);
      result.degreesOfFreedom += 6 * free.length;
      continue;
    }
    const isFloating = !numbers.some((i) => held[i]);
    if (isFloating) held[pulled ?? numbers[0] ?? 0] = true;
    const { outcome, counted } = pulled === undefined ? place(own, group) : { outcome: settle(own, group, isFloating ? undefined : system), counted: own };
    result.iterations = Math.max(result.iterations, outcome.iterations);
    if (outcome.worst > BROKEN) {
      // Copies are where they are whatever holds them.
      const copies = own.filter(({ mate }) => mate.kind === 'copy');
      const isBroken = (kept: readonly Joined[]): boolean =>
        placeAtOnce([...copies, ...kept], { ...group, stances: bodies.map(({ at }) => at) }).outcome.worst > BROKEN;
      const conflict = smallestConflict(
        own.filter(({ mate }) => mate.kind !== 'copy'),
        isBroken,
      ).map(({ mate }) => mate.id);
      result.conflicting.push(...conflict);
      result.status = conflict.length > 0 ? 'conflicting' : 'not-converged';
    }
    for (const { mate, turned: count } of counted) if (count) turned.set(mate.id, count.angle);
    if (pull) continue;
    const equations = counted.flatMap((one) => one.equations);
    const found = describeFreedom(equations, group);
    result.redundant.push(...found.redundant);
    result.degreesOfFreedom += found.degreesOfFreedom;
    for (const [mate, places] of found.dependent) dependent.set(mate, places);
    for (const [body, ways] of found.ways) freedom.set(bodies[body]?.id ?? '', ways);
  }
  const stood = new Map(bodies.map(({ id }, i) => [id, stances[i] ?? bodies[i]?.at ?? STANDING]));
  return { stances: stood, freedom, turned, dependent, misfits: misfitsOf(joined, stances), ...result };
}

function join(mate: Mate, index: ReadonlyMap<string, number>): Joined | undefined {
  const bodies = bodiesOf(mate, index);
  const found = bodies && solvedOf(mate, bodies);
  return found && { mate, bodies, ...found };
}

/** Without those that give way. */
function solvedOf(mate: Mate, bodies: MateBodies): MateEquations | undefined {
  const found = equationsOf(mate, bodies);
  const { yielding } = mate;
  return found && yielding ? { ...found, equations: found.equations.filter((_, i) => !yielding.includes(i)) } : found;
}

function misfitsOf(joined: readonly Joined[], stances: readonly Stance[]): Map<string, Misfit> {
  return new Map(
    joined.flatMap(({ mate, bodies }) => {
      const all = mate.yielding ? (equationsOf(mate, bodies)?.equations ?? []) : [];
      const off = all.flatMap((equation, i): Misfit[] =>
        mate.yielding?.includes(i) ? [{ amount: Math.abs(valueOf(equation, stances, 1)), isLength: equation.isLength }] : [],
      );
      // Lengths first: they say more than an angle.
      const [worst] = off.sort((a, b) => Number(b.isLength) - Number(a.isLength) || b.amount - a.amount);
      return worst ? [[mate.id, worst] as const] : [];
    }),
  );
}

interface Placed {
  readonly outcome: Outcome;
  /** The mates, with how far each has turned then. */
  readonly counted: readonly Joined[];
}

/** Solves a group; by way of values between, where one is far from what it is now and everything holds as it stands. */
function place(own: readonly Joined[], group: Group): Placed {
  const tried = { ...group, stances: group.stances.slice() };
  let last: Placed | undefined;
  for (const mates of valuesBetween(own, group)) {
    last = placeAtOnce(joinAnew(mates, own), tried);
    if (last.outcome.worst > BROKEN) break;
  }
  if (!last || last.outcome.worst > BROKEN) return placeAtOnce(own, group);
  tried.stances.forEach((stance, i) => (group.stances[i] = stance));
  return last;
}

/** Solves a group from where it stands. */
function placeAtOnce(own: readonly Joined[], group: Group): Placed {
  const known = knownTurns(own);
  turnOver(own, group.stances, group.held, known);
  // What values tell of turns goes before what was counted.
  const counted = joinAnew(
    own.map(({ mate }) => (known.has(mate.id) ? { ...mate, turned: known.get(mate.id) ?? 0 } : mate)),
    own,
  );
  return { outcome: settle(counted, group), counted };
}

/** Mates that have other values now; those that count turns begin to count anew. */
function joinAnew(mates: readonly Mate[], own: readonly Joined[]): Joined[] {
  return own.map((one, i) => {
    const mate = mates[i] ?? one.mate;
    return mate === one.mate && !one.turned ? one : { ...one, mate, ...(solvedOf(mate, one.bodies) ?? one) };
  });
}

/** In one step: of an angle, in radians; of a distance, as a share of the size. */
const LONGEST_STEP = { angle: 0.35, length: 0.25 };
const MOST_STEPS = 60;

/** The mates with values from what they are where everything stands to those that they are to have; none where all are near, or do not hold now. */
function valuesBetween(own: readonly Joined[], { stances, size }: Group): readonly (readonly Mate[])[] {
  const ratio = own.reduce((most, { mate }) => (mate.kind === 'gears' ? Math.max(most, Math.abs(mate.value)) : most), 1);
  const now = own.map(({ mate, bodies }) => valueNow(mate, stances[bodies.first] ?? STANDING, stances[bodies.second] ?? STANDING) ?? mate.value);
  const far = own.map(({ mate }, i) => {
    const way = Math.abs(mate.value - (now[i] ?? mate.value));
    return mate.kind === 'angle' ? (way * ratio) / LONGEST_STEP.angle : way / size / LONGEST_STEP.length;
  });
  const count = Math.min(MOST_STEPS, Math.ceil(Math.max(...far)));
  if (count < 2) return [];
  const others = own.filter(({ mate }) => mate.kind !== 'gears' && mate.kind !== 'coplanar' && mate.kind !== 'angle').flatMap((one) => one.equations);
  if (missBy(others, stances, size).worst > HELD_NOW) return [];
  const asNow = joinAnew(
    own.map(({ mate }, i) => ({ ...mate, value: now[i] ?? mate.value })),
    own,
  );
  const equations = asNow.filter(({ mate }) => mate.kind !== 'gears').flatMap((one) => one.equations);
  if (missBy(equations, stances, size).worst > HELD_NOW) return [];
  return Array.from({ length: count }, (_, k) =>
    own.map(({ mate }, i) => {
      const from = now[i] ?? mate.value;
      return k === count - 1 || from === mate.value ? mate : { ...mate, value: from + ((mate.value - from) * (k + 1)) / count };
    }),
  );
}

/** Mates that are off by less hold, for going on from them. */
const HELD_NOW = 1e-6;

/** The offset or angle that there is where two bodies stand; of an angle, the one that is nearest to what is asked for. */
function valueNow({ kind, first, second, value, about, limits }: Mate, a: Stance, b: Stance): number | undefined {
  const [u, v] = [directionOf(first.geometry), directionOf(second.geometry)];
  if (limits || !u) return undefined;
  if (kind === 'angle') return about && v && angleIn(a, b, { about, u, v }, value);
  if (kind !== 'coplanar') return undefined;
  const [p, r] = [toOutside(a, first.geometry.point), toOutside(b, second.geometry.point)];
  return dot(rotate(a.turn, u), [r[0] - p[0], r[1] - p[1], r[2] - p[2]]);
}

/** A length that the assembly is about as large as: how far apart things stand and reach. */
export function sizeOf(bodies: readonly MatedBody[], mates: readonly Mate[]): number {
  let size = 1;
  for (const { at } of bodies) size = Math.max(size, ...at.origin.map(Math.abs));
  for (const { first, second, value, kind, limits } of mates) {
    for (const { geometry } of [first, second]) size = Math.max(size, ...geometry.point.map(Math.abs));
    if (kind === 'coplanar' || kind === 'tangent') size = Math.max(size, Math.abs(value), Math.abs(limits?.most ?? 0));
  }
  return size;
}

function groupsOf(count: number, joined: readonly Joined[]): number[][] {
  const parent = Array.from({ length: count }, (_, i) => i);
  const rootOf = (i: number): number => {
    let at = i;
    while (parent[at] !== at) at = parent[at] = parent[parent[at] ?? at] ?? at;
    return at;
  };
  for (const { bodies } of joined) {
    parent[rootOf(bodies.first)] = rootOf(bodies.second);
    parent[rootOf(bodies.third)] = rootOf(bodies.second);
  }
  const groups = new Map<number, number[]>();
  for (let i = 0; i < count; i++) {
    const root = rootOf(i);
    const group = groups.get(root);
    if (group) group.push(i);
    else groups.set(root, [i]);
  }
  return [...groups.values()];
}
