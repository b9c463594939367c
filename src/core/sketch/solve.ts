/**
 * Solving a sketch: from the shape it has to one in which every constraint holds, on the same branch.
 *
 * The dimensions are moved from what they read at the start to what they should be; in one go if that
 * stays on the branch, else in ever smaller steps (homotopy). A solution in which a line has turned by
 * more than a quarter within one step, or has vanished, is on another branch and is refused. Connected
 * components are solved apart, so that one in conflict leaves the others alone.
 */
import { analyseRowSpace } from '../numeric';
import { buildEquations, type BuiltEquations } from './build-equations';
import { splitComponents } from './components';
import { findConflict } from './conflict';
import { at, type Equation } from './equations/equation';
import type { SketchModel, SketchSolution } from './model';
import { SketchSystem } from './system';

/** Numbers of homotopy steps that are tried, in turn. */
const STEP_COUNTS = [1, 4, 16, 64] as const;
/** A turn of more than this within a step is a jump to another branch: its cosine. */
const LEAST_COSINE = 0;

/** Solves from the model's own shape. */
export function solveSketch(model: SketchModel): SketchSolution {
  const built = buildEquations(model);
  const { variables } = built;
  const x = variables.start.slice();
  const conflicting: string[] = [];
  let failed = false;
  for (const component of splitComponents(built.equations, variables.count)) {
    const local = x.slice();
    if (solveComponent(component.equations, built, local)) {
      for (const index of component.unknowns) x[index] = local[index] as number;
      continue;
    }
    const conflict = findConflict(component.equations, variables.count, variables.start);
    if (conflict.length > 0) conflicting.push(...conflict);
    else failed = true;
  }
  return describe(model, built, x, conflicting, failed);
}

function solveComponent(equations: readonly Equation[], built: BuiltEquations, x: Float64Array): boolean {
  const { variables } = built;
  const system = new SketchSystem(equations, variables.count, x.length);
  const goals = equations.map((equation) => equation.target);
  const isDimension = equations.map((equation) => built.dimensions.has(equation.source));
  const starts = equations.map((equation) => equation.measure(variables.start));
  try {
    for (const steps of STEP_COUNTS) {
      const trial = variables.start.slice();
      let isOnBranch = true;
      for (let step = 1; step <= steps && isOnBranch; step++) {
        const before = trial.slice();
        const share = step / steps;
        equations.forEach((equation, i) => {
          const [goal, start] = [goals[i] as number, starts[i] as number];
          equation.target = isDimension[i] === true ? start + (goal - start) * share : goal;
        });
        isOnBranch = system.solve(trial) && staysOnBranch(built, before, trial, step === 1);
      }
      if (isOnBranch) {
        x.set(trial);
        return true;
      }
    }
    return false;
  } finally {
    equations.forEach((equation, i) => (equation.target = goals[i] as number));
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
