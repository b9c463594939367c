/**
 * Free bodies brought to where their equations hold: Levenberg-Marquardt (K. Levenberg, Quarterly of Applied Mathematics 2, 1944; D. Marquardt,
 * SIAM Journal 11, 1963) on six unknowns a body, a shift and a small turn, taken into the body's stance after each step, so that no angle is
 * ever near a pole. The normal matrix is sparse. Steps lie in the span of the equations, so that what no mate says anything of stays where it is.
 */
import { multiply, normalise, turnAbout, type Stance } from '../instances';
import { SparseCholesky } from '../numeric';
import { countTurns, evaluate, evaluateTerm, type Equation } from './equations';
import type { MateEquations } from './mate-equations';

const MOST_ITERATIONS = 100;
/** A mate holds when each of its equations is within this, of the size of the assembly or in radians. */
const HOLDS = 1e-11;
/** What is left of one that cannot hold is more than this. */
export const BROKEN = 1e-8;

export const STILL: Stance = { origin: [0, 0, 0], turn: [1, 0, 0, 0] };

/** Bodies that are solved together, by their numbers; `stances` is where all bodies stand, and changes. */
export interface Group {
  readonly bodies: readonly number[];
  readonly held: readonly boolean[];
  readonly stances: Stance[];
  /** A length that the assembly is about as large as, in millimetres. */
  readonly size: number;
}

export interface Outcome {
  readonly worst: number;
  readonly iterations: number;
}

/** Brings a group to where its mates hold: one that has come past a limit is held at it. */
export function settle(mates: readonly MateEquations[], group: Group): Outcome {
  const equations = mates.flatMap((one) => one.equations);
  const limits = mates.flatMap((one) => one.limits);
  let outcome = iterate(equations, group);
  const reached: Equation[] = [];
  for (let round = 0; round < limits.length && outcome.worst <= BROKEN; round++) {
    let [worst, next]: [number, Equation | undefined] = [1e-9, undefined];
    for (const { terms, least, most, isLength, mate } of limits) {
      const value = terms.reduce((sum, term) => sum + evaluateTerm(term, group.stances).value * (term.factor ?? 1), 0);
      const past = Math.max(least - value, value - most) / (isLength ? group.size : 1);
      if (past > worst) [worst, next] = [past, { mate, terms, isLength, d: value < least ? least : most }];
    }
    if (!next) break;
    reached.push(next);
    const { worst: left, iterations } = iterate([...equations, ...reached], group);
    outcome = { worst: left, iterations: outcome.iterations + iterations };
  }
  return outcome;
}

function iterate(equations: readonly Equation[], group: Group): Outcome {
  const { stances, size } = group;
  const column = columnsOf(group);
  const n = 6 * column.size;
  countTurns(equations, stances);
  if (n === 0) return { worst: worstOf(equations, stances, size), iterations: 0 };
  const matrix = new SparseCholesky(n, couplings(equations, column));
  let damping = 1e-3;
  let error = errorOf(equations, stances, size);
  for (let iteration = 1; iteration <= MOST_ITERATIONS; iteration++) {
    const gradient = assemble(matrix, equations, column, group);
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
          countTurns(equations, stances);
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

/** By the number of each free body: where its six unknowns begin. */
export function columnsOf({ bodies, held }: Pick<Group, 'bodies' | 'held'>): ReadonlyMap<number, number> {
  return new Map(bodies.filter((i) => held[i] !== true).map((body, i) => [body, 6 * i]));
}

export function* couplings(equations: readonly Equation[], column: ReadonlyMap<number, number>): Generator<[number, number]> {
  const seen = new Set<string>();
  for (const { terms } of equations) {
    const bodies = new Set(terms.flatMap(({ first, second }) => [first, second]));
    const columns = [...bodies].flatMap((body) => column.get(body) ?? []);
    const key = columns.join(' ');
    if (seen.has(key)) continue;
    seen.add(key);
    const own = columns.flatMap((at) => [0, 1, 2, 3, 4, 5].map((k) => at + k));
    for (const i of own) for (const j of own) if (i < j) yield [i, j];
  }
}

/** Fills the normal matrix; gives the right side, minus the gradient. */
export function assemble(
  matrix: SparseCholesky,
  equations: readonly Equation[],
  column: ReadonlyMap<number, number>,
  { stances, size }: Pick<Group, 'stances' | 'size'>,
): Float64Array {
  matrix.values.fill(0);
  const right = new Float64Array(6 * column.size);
  for (const equation of equations) {
    const { value, gradients } = evaluate(equation, stances, size);
    const row: [number, number][] = [];
    for (const [body, gradient] of gradients) {
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
export function moved({ origin, turn }: Stance, step: Float64Array, at: number, size: number): Stance {
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

export function worstOf(equations: readonly Equation[], stances: readonly Stance[], size: number): number {
  return equations.reduce((worst, equation) => Math.max(worst, Math.abs(evaluate(equation, stances, size).value)), 0);
}
