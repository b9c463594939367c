/**
 * Free bodies brought to where their equations hold: Levenberg-Marquardt (K. Levenberg, Quarterly of Applied Mathematics 2, 1944; D. Marquardt,
 * SIAM Journal 11, 1963) on six unknowns a body, a shift and a small turn, taken into the body's stance after each step, so that no angle is
 * ever near a pole. The normal matrix is sparse. Steps lie in the span of the equations, so that what no mate says anything of stays where it is.
 */
import { multiply, normalise, STANDING, turnAbout, type Stance } from '../instances';
import { countTurns, evaluate, valueOf, valueOfTerm, type Equation } from './equations';
import type { Limit, MateEquations } from './mate-equations';
import { normalMatrix, type NormalMatrix } from './normal-matrix';

const MOST_ITERATIONS = 100;
/** A mate holds when each of its equations is within this, of the size of the assembly or in radians. */
const HOLDS = 1e-11;
/** Of the first step, where nothing is known of how far it is. */
const DAMPING = 1e-3;
/** What is left of one that cannot hold is more than this. */
export const BROKEN = 1e-8;

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

/** Equations of a group with what is found out of them once, however often they are solved. */
export interface System {
  readonly equations: readonly Equation[];
  /** Those that count turns. */
  readonly counting: readonly Equation[];
  readonly limits: readonly Limit[];
  /** By the number of each free body: where its six unknowns begin. */
  readonly column: ReadonlyMap<number, number>;
  readonly matrix: NormalMatrix;
}

export function systemOf(mates: readonly MateEquations[], group: Group, more: readonly Equation[] = []): System {
  const equations = [...mates.flatMap((one) => one.equations), ...more];
  const column = columnsOf(group);
  return {
    equations,
    counting: equations.filter(({ terms }) => terms.some(({ kind }) => kind === 'angle')),
    limits: mates.flatMap((one) => one.limits),
    column,
    matrix: normalMatrix(column.size, couplings(equations, column)),
  };
}

export interface SettleOptions {
  /** Of the first step. */
  readonly damping?: number;
  /** An equation that is off by less holds, of the size of the assembly or in radians. */
  readonly holds?: number;
}

/** Brings a group to where its mates hold: one that has come past a limit is held at it. */
export function settle(
  mates: readonly MateEquations[],
  group: Group,
  system: System = systemOf(mates, group),
  { damping = DAMPING, holds = HOLDS }: SettleOptions = {},
): Outcome {
  let outcome = iterate(system, group, damping, holds);
  const reached: Equation[] = [];
  for (let round = 0; round < system.limits.length && outcome.worst <= BROKEN; round++) {
    let [worst, next]: [number, Equation | undefined] = [1e-9, undefined];
    for (const { terms, least, most, isLength, mate } of system.limits) {
      const value = terms.reduce((sum, term) => sum + valueOfTerm(term, group.stances) * (term.factor ?? 1), 0);
      const past = Math.max(least - value, value - most) / (isLength ? group.size : 1);
      if (past > worst) [worst, next] = [past, { mate, terms, isLength, d: value < least ? least : most }];
    }
    if (!next) break;
    reached.push(next);
    const { worst: left, iterations } = iterate(systemOf(mates, group, reached), group, damping, holds);
    outcome = { worst: left, iterations: outcome.iterations + iterations };
  }
  return outcome;
}

function iterate({ equations, counting, column, matrix }: System, { stances, size }: Group, firstDamping: number, holds: number): Outcome {
  const n = 6 * column.size;
  countTurns(counting, stances);
  let miss = missBy(equations, stances, size);
  if (n === 0 || miss.worst < holds) return { worst: miss.worst, iterations: 0 };
  let damping = firstDamping;
  for (let iteration = 1; iteration <= MOST_ITERATIONS; iteration++) {
    const gradient = assemble(matrix, equations, column, { stances, size });
    let isBetter = false;
    for (let attempt = 0; attempt < 12 && !isBetter; attempt++) {
      const step = gradient.slice();
      if (matrix.factor(damping)) {
        matrix.solve(step);
        const tried = stances.slice();
        for (const [body, at] of column) tried[body] = moved(stances[body] ?? STANDING, step, at, size);
        const next = missBy(equations, tried, size);
        if (next.error < miss.error || next.error < holds * holds) {
          isBetter = true;
          for (const [body] of column) stances[body] = tried[body] ?? STANDING;
          countTurns(counting, stances);
          miss = next;
          damping = Math.max(damping * 0.1, 1e-13);
          continue;
        }
      }
      damping = Math.max(damping * 10, 1e-12);
    }
    if (!isBetter || miss.worst < holds) return { worst: miss.worst, iterations: iteration };
  }
  return { worst: miss.worst, iterations: MOST_ITERATIONS };
}

export function columnsOf({ bodies, held }: Pick<Group, 'bodies' | 'held'>): ReadonlyMap<number, number> {
  return new Map(bodies.filter((i) => held[i] !== true).map((body, i) => [body, 6 * i]));
}

/** Pairs of bodies, by their places among the free ones, that stand in one equation. */
function couplings(equations: readonly Equation[], column: ReadonlyMap<number, number>): (readonly [number, number])[] {
  const pairs: [number, number][] = [];
  const at: number[] = [];
  for (const { terms } of equations) {
    at.length = 0;
    for (const { first, second } of terms) {
      for (const body of [first, second]) {
        const begins = column.get(body);
        if (begins !== undefined) at.push(begins / 6);
      }
    }
    for (let i = 1; i < at.length; i++) for (let j = 0; j < i; j++) pairs.push([at[i] as number, at[j] as number]);
  }
  return pairs;
}

/** Fills the normal matrix; gives the right side, minus the gradient. */
export function assemble(
  matrix: NormalMatrix,
  equations: readonly Equation[],
  column: ReadonlyMap<number, number>,
  { stances, size }: Pick<Group, 'stances' | 'size'>,
): Float64Array {
  matrix.clear();
  const right = new Float64Array(6 * column.size);
  // Bodies of one equation, and its derivatives by each.
  const at: number[] = [];
  let by = new Float64Array(6 * 4);
  for (const equation of equations) {
    const { value, gradients } = evaluate(equation, stances, size);
    at.length = 0;
    if (6 * gradients.length > by.length) by = new Float64Array(6 * gradients.length);
    for (const pair of gradients) {
      const gradient = pair[1];
      const first = column.get(pair[0]);
      if (first === undefined) continue;
      const known = at.indexOf(first / 6);
      const slot = known < 0 ? at.push(first / 6) - 1 : known;
      for (let k = 0; k < 6; k++) {
        // A turn by one is as far as a shift by the size.
        const derivative = (gradient[k] as number) * (k < 3 ? size : 1);
        by[6 * slot + k] = derivative + (known < 0 ? 0 : (by[6 * slot + k] as number));
        right[first + k] = (right[first + k] as number) - derivative * value;
      }
    }
    matrix.add(at, by);
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

/** How far equations are from holding: the sum of squares, and the worst. */
export function missBy(equations: readonly Equation[], stances: readonly Stance[], size: number): Miss {
  let [error, worst] = [0, 0];
  for (const equation of equations) {
    const value = valueOf(equation, stances, size);
    error += value * value;
    worst = Math.max(worst, Math.abs(value));
  }
  return { error, worst };
}

interface Miss {
  readonly error: number;
  readonly worst: number;
}
