/**
 * Solving a sketch: from the shape it has to one in which every constraint holds, on the same branch.
 *
 * The dimensions are moved from what they read at the start to what they should be, and fixed geometry to where it is held; in one go if that
 * stays on the branch, else in ever smaller steps (homotopy). A solution in which a line has turned by
 * more than a quarter within one step, or has vanished, is on another branch and is refused. Connected
 * components are solved apart but move in step, and one in conflict leaves the others alone.
 *
 * What is free stays where it is, unless the rest would be turned over by that: then it grows or shrinks
 * along with the dimensions.
 */
import { analyseRowSpace } from '../numeric';
import { buildEquations, type BuiltEquations } from './build-equations';
import { splitComponents, type Component } from './components';
import { findConflict } from './conflict';
import { at } from './equations/equation';
import type { SketchModel, SketchSolution } from './model';
import { SketchSystem } from './system';

/** Numbers of homotopy steps that are tried, in turn. */
const STEP_COUNTS = [1, 4, 16, 64] as const;
/** A turn of more than this within a step is a jump to another branch: its cosine. */
const LEAST_COSINE = 0;

interface Part {
  readonly component: Component;
  readonly system: SketchSystem;
  /** The wanted value of each equation, and whether it is moved to in steps. */
  readonly goals: readonly number[];
  readonly isMoving: readonly boolean[];
  /** What each equation reads where the solve starts. */
  readonly starts: readonly number[];
}

/** Solves from the model's own shape. */
export function solveSketch(model: SketchModel): SketchSolution {
  const built = buildEquations(model);
  const { variables } = built;
  const parts = splitComponents(built.equations, variables.count).map((component) => makePart(component, built));
  const x = variables.start.slice();
  const conflicting: string[] = [];
  let failed = false;
  try {
    for (const part of solveTogether(parts, built, x)) {
      if (solveAlone(part, built, x) || solveInProportion(part, parts, built, x)) continue;
      setTargets(part, 1);
      const conflict = findConflict(part.component.equations, variables.count, variables.start);
      if (conflict.length > 0) conflicting.push(...conflict);
      else failed = true;
    }
  } finally {
    for (const part of parts) setTargets(part, 1);
  }
  return describe(model, built, x, conflicting, failed);
}

function makePart(component: Component, { variables, moving }: BuiltEquations): Part {
  const { equations } = component;
  return {
    component,
    system: new SketchSystem(equations, variables.count, variables.start.length),
    goals: equations.map((equation) => equation.target),
    isMoving: equations.map((equation) => moving.has(equation.source)),
    starts: equations.map((equation) => equation.measure(variables.start)),
  };
}

/** Moves the wanted values to a share of the way from what they read at the start. */
function setTargets({ component, goals, isMoving, starts }: Part, share: number): void {
  component.equations.forEach((equation, i) => {
    const [goal, start] = [goals[i] as number, starts[i] as number];
    equation.target = share < 1 && isMoving[i] === true ? start + (goal - start) * share : goal;
  });
}

/**
 * Moves all components in step, so that lines between two of them are judged where both have gone. Writes the
 * solution of those that were solved to `x` and returns the others.
 */
function solveTogether(parts: readonly Part[], built: BuiltEquations, x: Float64Array): readonly Part[] {
  for (const steps of STEP_COUNTS) {
    const walk = new Walk(built, built.variables.start);
    const failed = new Set<Part>();
    let isOnBranch = true;
    for (let step = 1; step <= steps && isOnBranch; step++) {
      walk.begin();
      for (const part of parts) if (!failed.has(part) && !walk.solve(part, step / steps)) failed.add(part);
      isOnBranch = walk.isOnBranch(step === 1);
    }
    if (!isOnBranch) continue;
    x.set(walk.place);
    return [...failed];
  }
  return parts;
}

/** One component, with the others where they are. */
function solveAlone(part: Part, built: BuiltEquations, x: Float64Array): boolean {
  for (const steps of STEP_COUNTS) {
    const walk = new Walk(built, x);
    let isOnBranch = true;
    for (let step = 1; step <= steps && isOnBranch; step++) {
      walk.begin();
      isOnBranch = walk.solve(part, step / steps) && walk.isOnBranch(step === 1);
    }
    if (!isOnBranch) continue;
    x.set(walk.place);
    return true;
  }
  return false;
}

/** Ratios of dimensions that are tried, the greatest first. */
const MOST_RATIOS = 3;

/** A component with what lines join it to, from a shape that has grown as its dimensions do: both ways, across, or up. */
function solveInProportion(part: Part, parts: readonly Part[], built: BuiltEquations, x: Float64Array): boolean {
  const joined = listJoined(part, parts, built);
  for (const ratio of ratiosOf(part)) {
    for (const [across, up] of [
      [ratio, ratio],
      [ratio, 1],
      [1, ratio],
    ] as const) {
      const walk = new Walk(built, x);
      walk.begin();
      if (!joined.every((each) => walk.solveScaled(each, across, up)) || !walk.isOnBranch(false)) continue;
      x.set(walk.place);
      return true;
    }
  }
  return false;
}

/** The components that have ends of the same lines, theirs, and so on. */
function listJoined(part: Part, parts: readonly Part[], { directed }: BuiltEquations): readonly Part[] {
  const owners = new Map(parts.flatMap((each) => [...each.component.unknowns].map((index) => [index, each] as const)));
  const joined = new Set([part]);
  const lines = directed.map(([a, b]) => [a, a + 1, b, b + 1].flatMap((index) => owners.get(index) ?? []));
  for (let size = 0; size < joined.size;) {
    size = joined.size;
    for (const line of lines) if (line.some((each) => joined.has(each))) for (const each of line) joined.add(each);
  }
  return [...joined];
}

/** What the dimensions of a component grow by, where they do. */
function ratiosOf({ goals, starts, isMoving }: Part): number[] {
  const ratios = goals.flatMap((goal, i) => {
    const ratio = goal / (starts[i] as number);
    return isMoving[i] === true && ratio > 0 && Number.isFinite(ratio) && Math.abs(ratio - 1) > 1e-6 ? [ratio] : [];
  });
  return [...new Set(ratios)].sort((a, b) => Math.abs(Math.log(b)) - Math.abs(Math.log(a))).slice(0, MOST_RATIOS);
}

/**
 * A walk from the start to the wanted values. Each step is begun where the last one leads to, so that what moves
 * together keeps its order while it moves.
 */
class Walk {
  readonly place: Float64Array;
  private before: Float64Array;
  private earlier: Float64Array;

  constructor(
    private readonly built: BuiltEquations,
    private readonly from: Float64Array,
  ) {
    this.place = from.slice();
    this.before = from.slice();
    this.earlier = from.slice();
  }

  begin(): void {
    this.earlier = this.before;
    this.before = this.place.slice();
  }

  /** Solves one component at a share of the way; where that fails, it is put back to where it started from. */
  solve(part: Part, share: number): boolean {
    const { place, before, earlier } = this;
    const { unknowns } = part.component;
    setTargets(part, share);
    for (const index of unknowns) place[index] = 2 * at(before, index) - at(earlier, index);
    if (part.system.solve(place)) return true;
    for (const index of unknowns) place[index] = at(before, index);
    if (part.system.solve(place)) return true;
    for (const index of unknowns) place[index] = at(this.from, index);
    return false;
  }

  /** Solves one component all the way, from its shape made larger about the origin. */
  solveScaled(part: Part, across: number, up: number): boolean {
    const { place, from, built } = this;
    setTargets(part, 1);
    for (const index of part.component.unknowns) {
      const factor = index >= built.variables.radiiFrom ? Math.sqrt(across * up) : index % 2 === 0 ? across : up;
      place[index] = at(from, index) * factor;
    }
    return part.system.solve(place);
  }

  isOnBranch(isFirst: boolean): boolean {
    return staysOnBranch(this.built, this.before, this.place, isFirst);
  }
}

/** In the first step a rough sketch may still turn a little more, to meet its constraints. */
function staysOnBranch(built: BuiltEquations, before: Float64Array, after: Float64Array, isFirst: boolean): boolean {
  const least = isFirst ? LEAST_COSINE - 0.2 : LEAST_COSINE;
  for (const [a, b] of built.directed) {
    const [dx, dy] = [at(before, b) - at(before, a), at(before, b + 1) - at(before, a + 1)];
    const [ex, ey] = [at(after, b) - at(after, a), at(after, b + 1) - at(after, a + 1)];
    const lengths = Math.hypot(dx, dy) * Math.hypot(ex, ey);
    if (Math.hypot(dx, dy) < 1e-9) continue;
    if (lengths === 0 || Math.hypot(ex, ey) < 1e-9) return false;
    if ((dx * ex + dy * ey) / lengths < least) return false;
  }
  return built.radii.every((index) => at(after, index) > 0);
}

/** The solution as others see it. */
export function describe(
  model: SketchModel,
  built: BuiltEquations,
  x: Float64Array,
  conflicting: readonly string[],
  failed: boolean,
  withFreedom = true,
): SketchSolution {
  const { variables } = built;
  const points = new Map<string, readonly [number, number]>();
  const radii = new Map<string, number>();
  for (const entity of model.entities) {
    const point = variables.point(entity.id);
    const round = variables.round(entity.id);
    if (point !== undefined) points.set(entity.id, [at(x, point), at(x, point + 1)]);
    if (round) radii.set(entity.id, at(x, round.radius));
  }
  const measured = new Map<string, number>();
  for (const [id, equation] of built.readings) measured.set(id, equation.measure(x) / equation.scale);
  const freedom = withFreedom ? findFreedom(built, x) : { degreesOfFreedom: 0, free: new Set<string>(), redundant: [] };
  const status = conflicting.length > 0 ? 'conflicting' : failed ? 'not-converged' : 'solved';
  return { status, points, radii, ...freedom, conflicting, measured, invalid: built.invalid };
}

/** Movement of an unknown below which it counts as determined, where what is free moves by 1. */
const FREE = 1e-7;

function findFreedom(built: BuiltEquations, x: Float64Array) {
  const { variables, equations } = built;
  const system = new SketchSystem(equations, variables.count, x.length);
  const space = analyseRowSpace(system.rows(x), variables.count);
  const free = new Set<string>();
  for (const entity of variables.entities) {
    if (variables.unknownsOf(entity).some((index) => (space.freedom[index] ?? 0) > FREE)) free.add(entity.id);
  }
  const redundant = new Set(space.dependentRows.map((row) => equations[row]?.source ?? ''));
  // A constraint of several equations is redundant only if all of them are; those of arcs belong to nobody.
  for (const equation of equations) {
    const rows = equations.flatMap((other, row) => (other.source === equation.source ? [row] : []));
    if (!rows.every((row) => space.dependentRows.includes(row))) redundant.delete(equation.source);
  }
  redundant.delete('');
  return { degreesOfFreedom: variables.count - space.rank, free, redundant: [...redundant] };
}
