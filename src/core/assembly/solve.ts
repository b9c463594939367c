/**
 * Where components stand, from where they are to where every mate holds.
 *
 * Levenberg-Marquardt (K. Levenberg, Quarterly of Applied Mathematics 2, 1944; D. Marquardt, SIAM Journal 11, 1963) on six unknowns a body, a
 * shift and a small turn, taken into the body's stance after each step, so that no angle is ever near a pole. The normal matrix is sparse.
 * Steps lie in the span of the equations, so that what no mate says anything of stays where it is. Groups of bodies that no mate joins are
 * solved apart; in a group without a held body, the first one is held.
 *
 * Mates whose sense is not that of the start are turned over first, the free body about its own point: equations alone do not tell the two
 * senses apart. Invariant, tested: moving everything rigidly changes nothing but that.
 */
import { analyseRowSpace, SparseCholesky } from '../numeric';
import { cross, dot, type Point3 } from '../geometry';
import { multiply, normalise, rotate, toOutside, turnAbout, type Stance } from '../instances';
import type { Mate, MatedBody, Placements, Pull } from './model';
import { across, directionOf, equationsOf, evaluate, pullEquations, unit, type Equation } from './residuals';

const MOST_ITERATIONS = 100;
/** A mate holds when each of its equations is within this, of the size of the assembly or in radians. */
const HOLDS = 1e-11;
/** What is left of one that cannot hold is more than this. */
const BROKEN = 1e-8;

/** `pull` drags a body first; how much everything can still move is not told then. */
export function solvePlacements(bodies: readonly MatedBody[], mates: readonly Mate[], pull?: Pull): Placements {
  const index = new Map(bodies.map(({ id }, i) => [id, i]));
  const joined = mates.flatMap((mate) => {
    const [first, second] = [index.get(mate.first.body), index.get(mate.second.body)];
    const equations = first === undefined || second === undefined ? undefined : equationsOf(mate, first, second);
    return equations && first !== undefined && second !== undefined ? [{ mate, first, second, equations }] : [];
  });
  const stances: Stance[] = bodies.map(({ at }) => at);
  const size = sizeOf(bodies, mates);
  const groups = groupsOf(bodies.length, joined);
  const held = bodies.map(({ isHeld }) => isHeld);
  const result = { redundant: [] as string[], conflicting: [] as string[], status: 'placed' as Placements['status'], iterations: 0, degreesOfFreedom: 0 };
  const freedom = new Map<string, number>();
  for (const group of groups) {
    const own = joined.filter(({ first }) => group.includes(first));
    const pulled = pull === undefined ? undefined : group.find((i) => bodies[i]?.id === pull.body && !held[i]);
    if (pull && pulled !== undefined) drag(pull, pulled, { own, group, held, stances, size });
    if (own.length === 0) {
      for (const i of group) if (!held[i]) noteFree(freedom, bodies[i]?.id ?? '', 6, result);
      continue;
    }
    if (!group.some((i) => held[i])) held[pulled ?? group[0] ?? 0] = true;
    if (pulled === undefined) turnOver(own, stances, held);
    const equations = own.flatMap((one) => one.equations);
    const outcome = iterate(equations, group, held, stances, size);
    result.iterations = Math.max(result.iterations, outcome.iterations);
    if (outcome.worst > BROKEN) {
      const conflict = smallestConflict(own, group, held, bodies, size);
      result.conflicting.push(...conflict);
      result.status = conflict.length > 0 ? 'conflicting' : 'not-converged';
    }
    if (!pull) describeFreedom({ equations, group, held, stances, size, bodies }, freedom, result);
  }
  return { stances: new Map(bodies.map(({ id }, i) => [id, stances[i] ?? bodies[i]?.at ?? STILL])), freedom, ...result };
}

interface Dragged {
  readonly own: readonly Joined[];
  readonly group: readonly number[];
  readonly held: readonly boolean[];
  readonly stances: Stance[];
  readonly size: number;
}

/**
 * Brings a point of a body near to where it is dragged. A body that nothing holds is shifted there. Else each step is one of Gauss and Newton,
 * in which the pull counts a little beside the mates: it goes along what they leave open, and they are solved by themselves after it. It ends
 * where no step brings the point nearer.
 */
function drag(pull: Pull, body: number, { own, group, held, stances, size }: Dragged): void {
  const before = stances[body];
  if (!before) return;
  if (own.length === 0) {
    const from = toOutside(before, pull.point);
    const [x, y, z] = before.origin;
    stances[body] = { ...before, origin: [x + pull.to[0] - from[0], y + pull.to[1] - from[1], z + pull.to[2] - from[2]] };
    return;
  }
  const equations = own.flatMap((one) => one.equations);
  const all = [...equations, ...pullEquations(pull, body, stances.length)];
  const column = new Map(group.filter((i) => !held[i]).map((one, i) => [one, 6 * i]));
  const n = 6 * column.size;
  const matrix = new SparseCholesky(n, couplings(all, column));
  const farOff = (): number => distanceOf(pull, stances[body] ?? STILL);
  let best = farOff();
  for (let round = 0; round < MOST_DRAG_ROUNDS && best > NEAR_ENOUGH * size; round++) {
    const step = assemble(matrix, all, column, [...stances, STILL], size, n);
    if (!matrix.factor(new Float64Array(n).fill(DRAG_DAMPING))) return;
    matrix.solve(step);
    const longest = step.reduce((most, one) => Math.max(most, Math.abs(one)), 0);
    const kept = stances.slice();
    let isNearer = false;
    for (let share = Math.min(1, LONGEST_DRAG / longest); !isNearer && share > 1e-3; share /= 4) {
      for (const [one, at] of column)
        stances[one] = moved(
          kept[one] ?? STILL,
          step.map((value) => value * share),
          at,
          size,
        );
      const { worst } = iterate(equations, group, held, stances, size);
      isNearer = worst <= BROKEN && farOff() < best * (1 - 1e-4);
      if (!isNearer) for (const one of column.keys()) stances[one] = kept[one] ?? STILL;
    }
    if (!isNearer) return;
    best = farOff();
  }
}

function distanceOf({ point, to }: Pull, stance: Stance): number {
  const [x, y, z] = toOutside(stance, point);
  return Math.hypot(to[0] - x, to[1] - y, to[2] - z);
}

const MOST_DRAG_ROUNDS = 12;
/** Of the size of the assembly, or in radians. */
const LONGEST_DRAG = 0.5;
const NEAR_ENOUGH = 1e-7;
const DRAG_DAMPING = 1e-10;

const STILL: Stance = { origin: [0, 0, 0], turn: [1, 0, 0, 0] };

interface Joined {
  readonly mate: Mate;
  readonly first: number;
  readonly second: number;
  readonly equations: readonly Equation[];
}

/** A length that the assembly is about as large as: how far apart things stand and reach. */
function sizeOf(bodies: readonly MatedBody[], mates: readonly Mate[]): number {
  let size = 1;
  for (const { at } of bodies) size = Math.max(size, ...at.origin.map(Math.abs));
  for (const { first, second, value, kind } of mates) {
    for (const { geometry } of [first, second]) size = Math.max(size, ...geometry.point.map(Math.abs));
    if (kind !== 'angle') size = Math.max(size, Math.abs(value));
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
  for (const { first, second } of joined) parent[rootOf(first)] = rootOf(second);
  const groups = new Map<number, number[]>();
  for (let i = 0; i < count; i++) {
    const root = rootOf(i);
    const group = groups.get(root);
    if (group) group.push(i);
    else groups.set(root, [i]);
  }
  return [...groups.values()];
}

/**
 * Bodies that stand the wrong way round for a mate are turned to it, outwards from what is held: about a direction that the mates before have
 * settled for them, so that these go on holding.
 */
function turnOver(joined: readonly Joined[], stances: Stance[], held: readonly boolean[]): void {
  const isSettled = held.slice();
  /** Directions of bodies that mates before have settled, in the space of the assembly. */
  const settled = new Map<number, Point3[]>();
  const left = [...joined];
  for (let moved = true; moved && left.length > 0;) {
    moved = false;
    for (let i = 0; i < left.length; i++) {
      const one = left[i];
      if (!one || (!isSettled[one.first] && !isSettled[one.second])) continue;
      left.splice(i, 1);
      i--;
      moved = true;
      const free = held[one.second] === true || (!isSettled[one.first] && isSettled[one.second] === true) ? one.first : one.second;
      if (held[free] !== true) turnOne(one, free, stances, settled);
      isSettled[one.first] = isSettled[one.second] = true;
    }
  }
}

function turnOne({ mate, first, second }: Joined, free: number, stances: Stance[], settled: Map<number, Point3[]>): void {
  const wanted = wantedDirection(mate);
  const [a, b] = [stances[first], stances[second]];
  const v = directionOf(mate.second.geometry);
  if (!wanted || !v || !a || !b) return;
  const [goal, now]: [Point3, Point3] = [rotate(a.turn, wanted), rotate(b.turn, v)];
  const before = settled.get(free) ?? [];
  settled.set(free, [...before, goal]);
  if (dot(goal, now) >= NEAR) return;
  const [fixed, ...others] = before;
  // Two directions that are not one hold it altogether.
  if (fixed && others.some((other) => Math.abs(dot(other, fixed)) < 1 - 1e-6)) return;
  const about = mate.kind === 'angle' && mate.about ? unit(rotate(a.turn, mate.about)) : undefined;
  const normal = cross(now, goal);
  const axis = fixed ?? about ?? (Math.hypot(...normal) > 1e-6 ? unit(normal) : awayFrom(now));
  const own = stances[free];
  const point = free === second ? mate.second.geometry.point : mate.first.geometry.point;
  if (!own) return;
  const turn = normalise(multiply(turnAbout(axis, (free === second ? 1 : -1) * angleAbout(axis, now, goal)), own.turn));
  // It turns about the point that it is held by.
  const at = toOutside(own, point);
  const after = rotate(turn, point);
  stances[free] = { turn, origin: [at[0] - after[0], at[1] - after[1], at[2] - after[2]] };
}

/** A direction that is off by more than 60 degrees, by its cosine, is turned to where it should be before anything is solved. */
const NEAR = 0.5;

/** The angle about an axis that takes one direction to another, as seen along it; half a turn where they tell none. */
function angleAbout(axis: Point3, from: Point3, to: Point3): number {
  const flat = (v: Point3): Point3 => [v[0] - dot(v, axis) * axis[0], v[1] - dot(v, axis) * axis[1], v[2] - dot(v, axis) * axis[2]];
  const [p, q] = [flat(from), flat(to)];
  if (Math.hypot(...p) < 1e-9 || Math.hypot(...q) < 1e-9) return Math.PI;
  return Math.atan2(dot(axis, cross(p, q)), dot(p, q));
}

/** The direction, in the space of the first, that the second's is to have; undefined where a mate leaves that open. */
function wantedDirection({ kind, first, second, sense, value, about }: Mate): Point3 | undefined {
  const u = directionOf(first.geometry);
  if (!u) return undefined;
  if (kind === 'angle' && about) {
    const side = cross(about, u);
    const [cos, sin] = [Math.cos(value), Math.sin(value)];
    return [u[0] * cos + side[0] * sin, u[1] * cos + side[1] * sin, u[2] * cos + side[2] * sin];
  }
  const isParallel = kind === 'parallel' || kind === 'coaxial' || (kind === 'coplanar' && second.geometry.kind === 'plane');
  return isParallel ? [u[0] * sense, u[1] * sense, u[2] * sense] : undefined;
}

function awayFrom(direction: Point3): Point3 {
  return across(unit(direction))[0];
}

interface Outcome {
  readonly worst: number;
  readonly iterations: number;
}

/** Brings the free bodies of a group to where the equations hold; what is left of the worst. */
function iterate(equations: readonly Equation[], group: readonly number[], held: readonly boolean[], stances: Stance[], size: number): Outcome {
  const free = group.filter((i) => !held[i]);
  const column = new Map(free.map((body, i) => [body, 6 * i]));
  const n = 6 * free.length;
  if (n === 0) return { worst: worstOf(equations, stances, size), iterations: 0 };
  const matrix = new SparseCholesky(n, couplings(equations, column));
  let damping = 1e-3;
  let error = errorOf(equations, stances, size);
  for (let iteration = 1; iteration <= MOST_ITERATIONS; iteration++) {
    const gradient = assemble(matrix, equations, column, stances, size, n);
    let isBetter = false;
    for (let attempt = 0; attempt < 12 && !isBetter; attempt++) {
      const shift = new Float64Array(n).fill(damping);
      const step = gradient.slice();
      if (matrix.factor(shift)) {
        matrix.solve(step);
        const tried = stances.slice();
        for (const [body, at] of column) tried[body] = moved(stances[body] ?? STILL, step, at, size);
        const next = errorOf(equations, tried, size);
        if (next < error || next < HOLDS * HOLDS) {
          isBetter = true;
          for (const [body] of column) stances[body] = tried[body] ?? STILL;
          error = next;
          damping = Math.max(damping * 0.1, 1e-13);
          continue;
        }
      }
      damping = Math.max(damping * 10, 1e-12);
    }
    if (!isBetter || worstOf(equations, stances, size) < HOLDS) return { worst: worstOf(equations, stances, size), iterations: iteration };
  }
  return { worst: worstOf(equations, stances, size), iterations: MOST_ITERATIONS };
}

function* couplings(equations: readonly Equation[], column: ReadonlyMap<number, number>): Generator<[number, number]> {
  const seen = new Set<string>();
  for (const { first, second } of equations) {
    const [a, b] = [column.get(first), column.get(second)];
    const key = `${a ?? '-'} ${b ?? '-'}`;
    if (seen.has(key)) continue;
    seen.add(key);
    const own = [a, b].flatMap((at) => (at === undefined ? [] : [0, 1, 2, 3, 4, 5].map((k) => at + k)));
    for (const i of own) for (const j of own) if (i < j) yield [i, j];
  }
}

/** Fills the normal matrix; gives the right side, minus the gradient. */
function assemble(
  matrix: SparseCholesky,
  equations: readonly Equation[],
  column: ReadonlyMap<number, number>,
  stances: readonly Stance[],
  size: number,
  n: number,
): Float64Array {
  matrix.values.fill(0);
  const right = new Float64Array(n);
  for (const equation of equations) {
    const { value, first, second } = evaluate(equation, stances, size);
    const row: [number, number][] = [];
    for (const [body, gradient] of [
      [equation.first, first],
      [equation.second, second],
    ] as const) {
      const at = column.get(body);
      if (at === undefined) continue;
      gradient.forEach((derivative, k) => {
        // A turn by one is as far as a shift by the size.
        const scaled = k < 3 ? derivative * size : derivative;
        if (scaled !== 0) row.push([at + k, scaled]);
      });
    }
    for (const [i, a] of row) {
      right[i] = (right[i] ?? 0) - a * value;
      for (const [j, b] of row) {
        if (j > i) continue;
        const place = matrix.place(i, j);
        matrix.values[place] = (matrix.values[place] ?? 0) + a * b;
      }
    }
  }
  return right;
}

/** A stance after a step, in which shifts are counted in sizes of the assembly. */
function moved({ origin, turn }: Stance, step: Float64Array, at: number, size: number): Stance {
  const part = (k: number): number => (step[at + k] ?? 0) * (k < 3 ? size : 1);
  const angle = Math.hypot(part(3), part(4), part(5));
  const added = angle < 1e-300 ? ([1, 0, 0, 0] as const) : turnAbout([part(3) / angle, part(4) / angle, part(5) / angle], angle);
  return { origin: [origin[0] + part(0), origin[1] + part(1), origin[2] + part(2)], turn: normalise(multiply(added, turn)) };
}

function errorOf(equations: readonly Equation[], stances: readonly Stance[], size: number): number {
  let sum = 0;
  for (const equation of equations) sum += evaluate(equation, stances, size).value ** 2;
  return sum;
}

function worstOf(equations: readonly Equation[], stances: readonly Stance[], size: number): number {
  return equations.reduce((worst, equation) => Math.max(worst, Math.abs(evaluate(equation, stances, size).value)), 0);
}

/** Mates without any one of which the others could hold: each is left out in turn, and stays out where the conflict stays without it. */
function smallestConflict(own: readonly Joined[], group: readonly number[], held: readonly boolean[], bodies: readonly MatedBody[], size: number): string[] {
  const isBroken = (kept: readonly Joined[]): boolean => {
    const stances = bodies.map(({ at }) => at);
    turnOver(kept, stances, held);
    return (
      iterate(
        kept.flatMap(({ equations }) => equations),
        group,
        held,
        stances,
        size,
      ).worst > BROKEN
    );
  };
  let kept = [...own];
  if (!isBroken(kept)) return [];
  for (const one of [...own].reverse()) {
    const without = kept.filter((other) => other !== one);
    if (isBroken(without)) kept = without;
  }
  return kept.map(({ mate }) => mate.id);
}

interface SolvedGroup {
  readonly equations: readonly Equation[];
  readonly group: readonly number[];
  readonly held: readonly boolean[];
  readonly stances: readonly Stance[];
  readonly size: number;
  readonly bodies: readonly MatedBody[];
}

interface Counts {
  readonly redundant: string[];
  degreesOfFreedom: number;
}

function describeFreedom({ equations, group, held, stances, size, bodies }: SolvedGroup, freedom: Map<string, number>, counts: Counts): void {
  const free = group.filter((i) => !held[i]);
  const column = new Map(free.map((body, i) => [body, 6 * i]));
  const rows = equations.map((equation) => {
    const { first, second } = evaluate(equation, stances, size);
    return [...entriesOf(column.get(equation.first), first, size), ...entriesOf(column.get(equation.second), second, size)];
  });
  const space = analyseRowSpace(rows, 6 * free.length);
  counts.degreesOfFreedom += 6 * free.length - space.rank;
  const dependent = new Set(space.dependentRows);
  const mates = new Map<string, { all: number; dependent: number }>();
  equations.forEach(({ mate }, i) => {
    const known = mates.get(mate) ?? { all: 0, dependent: 0 };
    mates.set(mate, { all: known.all + 1, dependent: known.dependent + (dependent.has(i) ? 1 : 0) });
  });
  for (const [mate, { all, dependent: lost }] of mates) if (all === lost) counts.redundant.push(mate);
  for (const [body, at] of column) {
    const ways = [0, 1, 2, 3, 4, 5].filter((k) => (space.freedom[at + k] ?? 0) > 1e-9).length;
    if (ways > 0) freedom.set(bodies[body]?.id ?? '', ways);
  }
}

function entriesOf(at: number | undefined, gradient: readonly number[], size: number): number[] {
  if (at === undefined) return [];
  return gradient.flatMap((derivative, k) => {
    const scaled = k < 3 ? derivative * size : derivative;
    return Math.abs(scaled) < 1e-14 ? [] : [at + k, scaled];
  });
}

function noteFree(freedom: Map<string, number>, body: string, ways: number, counts: Counts): void {
  freedom.set(body, ways);
  counts.degreesOfFreedom += ways;
}
