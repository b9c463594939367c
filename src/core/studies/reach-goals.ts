/**
 * Amounts within bounds at which several goals are met at once, or as nearly as can be: damped least squares (K. Levenberg, Quarterly of Applied
 * Mathematics 2, 1944; D. W. Marquardt, SIAM Journal 11, 1963), begun at the present and then at points that fill the bounds evenly (J. H. Halton,
 * Numerische Mathematik 2, 1960). A value that would leave its bounds stays on them while the others go on. With fewer goals than values the step
 * is the shortest, so that what need not change stays near to what it is. Counts and choices are looked through by {@link minimise} first.
 */
import { minimise, type Axis } from './minimise';

/** What the goals come to at amounts. */
export interface GoalsTrial {
  readonly at: readonly number[];
  /** How far each goal is off, in internal units. */
  readonly off: readonly number[];
  readonly problems: readonly string[];
}

export interface GoalsFound {
  /** The best of all trials; undefined where nothing could be computed. */
  readonly best: GoalsTrial | undefined;
  /** Every goal is as near as it is to be. */
  readonly isReached: boolean;
  readonly isStopped: boolean;
  readonly trials: number;
}

export interface GoalsSearch {
  readonly axes: readonly Axis[];
  /** The present amounts. */
  readonly start: readonly number[];
  /** How far off each goal may be: goals are weighed by it where not all can be met. */
  readonly within: readonly number[];
  /** How near, of what is allowed, is near enough to stop. */
  readonly enough?: number;
  /** How often it begins anew. */
  readonly restarts?: number;
  readonly onTrial?: (trial: GoalsTrial) => void;
}

/** The slopes of every goal by every value at the amounts that were evaluated last, in internal units; undefined where they are not known. */
export type GoalSlopes = () => readonly (readonly number[])[] | undefined;

type Evaluate = (at: readonly number[]) => Promise<Pick<GoalsTrial, 'off' | 'problems'> | undefined>;

const MOST_ROUNDS = 60;
/** Damping that no step survives. */
const MOST_DAMPING = 1e12;
/** Of the bounds: where slopes are taken from differences. */
const STEP = 1e-5;
const PRIMES = [2, 3, 5, 7, 11, 13] as const;

/** Thrown by nobody else, and caught here. */
class Stopped extends Error {}

/** `evaluate` gives how far off the goals are, and what is wrong; undefined to stop. */
export async function reachGoals(search: GoalsSearch, evaluate: Evaluate, slopes: GoalSlopes = () => undefined): Promise<GoalsFound> {
  const { axes, start, within, enough = 1e-3, restarts = 12, onTrial = () => undefined } = search;
  let best: GoalsTrial | undefined;
  let trials = 0;
  const ask = async (at: readonly number[]): Promise<GoalsTrial> => {
    const found = await evaluate(at);
    if (!found) throw new Stopped();
    trials++;
    const trial = { at, ...found };
    if (!best || isBetter(trial, best, within)) best = trial;
    onTrial(trial);
    return trial;
  };
  const isDone = (): boolean => best !== undefined && best.problems.length === 0 && worst(best, within) <= enough;
  const told = (isStopped: boolean): GoalsFound => ({ best, isReached: best !== undefined && worst(best, within) <= 1, isStopped, trials });
  try {
    const fixed = axes.some(({ allowed }) => allowed) ? await chooseAllowed(search, ask) : start;
    for (let turn = 0; turn <= restarts && !isDone(); turn++) {
      const from = axes.map((axis, i) => (axis.allowed ? (fixed[i] ?? axis.from) : turn === 0 ? (fixed[i] ?? axis.from) : between(axis, halton(turn, i))));
      await descend({ axes, within, enough }, from, ask, slopes);
      if (axes.every(({ allowed }) => allowed)) break;
    }
    return told(false);
  } catch (problem) {
    if (!(problem instanceof Stopped)) throw problem;
    return told(true);
  }
}

async function chooseAllowed({ axes, start, within }: GoalsSearch, ask: (at: readonly number[]) => Promise<GoalsTrial>): Promise<readonly number[]> {
  const found = await minimise({ axes, start }, async (at) => {
    const trial = await ask(at);
    return { value: squares(trial, within), problems: trial.problems };
  });
  return found.best?.at ?? start;
}

type Descent = Pick<GoalsSearch, 'axes' | 'within'> & { readonly enough: number };

async function descend(
  { axes, within, enough }: Descent,
  from: readonly number[],
  ask: (at: readonly number[]) => Promise<GoalsTrial>,
  slopes: GoalSlopes,
): Promise<void> {
  let now = await ask(from.map((amount, i) => clamp(axes[i] as Axis, amount)));
  let damping = 1e-3;
  for (let round = 0; round < MOST_ROUNDS && worst(now, within) > enough; round++) {
    const jacobian = await scaledSlopes(axes, within, now, ask, slopes);
    if (!jacobian) return;
    const before = now;
    while (now === before) {
      const step = dampedStep(jacobian, now, within, axes, damping);
      const at = now.at.map((amount, i) => clamp(axes[i] as Axis, amount + (step[i] ?? 0) * lengthOf(axes[i] as Axis)));
      const trial = at.every((amount, i) => amount === now.at[i]) ? undefined : await ask(at);
      if (trial && squares(trial, within) < squares(now, within)) {
        now = trial;
        damping = Math.max(damping / 10, 1e-14);
      } else {
        damping *= 10;
        if (damping > MOST_DAMPING) return;
      }
    }
    // What is lost in computing is not to be won back.
    if (squares(now, within) > squares(before, within) * (1 - 1e-9)) return;
  }
}

/** Slopes in what is allowed of each goal, over the bounds of each value; undefined where a goal has no value beside. */
async function scaledSlopes(
  axes: readonly Axis[],
  within: readonly number[],
  now: GoalsTrial,
  ask: (at: readonly number[]) => Promise<GoalsTrial>,
  slopes: GoalSlopes,
): Promise<number[][] | undefined> {
  const exact = slopes();
  if (exact?.every((row) => row.every(Number.isFinite)) === true) {
    return exact.map((row, k) => row.map((slope, i) => (axes[i]?.allowed ? 0 : (slope * lengthOf(axes[i] as Axis)) / (within[k] ?? 1))));
  }
  const columns: number[][] = [];
  for (const [i, axis] of axes.entries()) {
    if (axis.allowed) {
      columns.push(within.map(() => 0));
      continue;
    }
    const amount = now.at[i] ?? 0;
    const step = (amount + STEP * lengthOf(axis) > axis.to ? -STEP : STEP) * lengthOf(axis);
    const beside = await ask(now.at.map((one, k) => (k === i ? amount + step : one)));
    columns.push(within.map((allowed, k) => (((beside.off[k] ?? NaN) - (now.off[k] ?? NaN)) / allowed / step) * lengthOf(axis)));
  }
  return columns.flat().every(Number.isFinite) ? within.map((_, k) => columns.map((column) => column[k] ?? 0)) : undefined;
}

/** The step of (JᵀJ + d·diag) s = -Jᵀr over the bounds of each value; a value on a bound that would leave it is held. */
function dampedStep(jacobian: readonly (readonly number[])[], now: GoalsTrial, within: readonly number[], axes: readonly Axis[], damping: number): number[] {
  const held = new Set<number>();
  for (;;) {
    const free = axes.flatMap((_, i) => (held.has(i) ? [] : i));
    const at = (k: number, i: number): number => jacobian[k]?.[i] ?? 0;
    const matrix = free.map((i) => free.map((j) => jacobian.reduce((sum, _, k) => sum + at(k, i) * at(k, j), 0)));
    const right = free.map((i) => -jacobian.reduce((sum, _, k) => sum + at(k, i) * ((now.off[k] ?? 0) / (within[k] ?? 1)), 0));
    const largest = Math.max(...matrix.map((row, i) => row[i] ?? 0), Number.MIN_VALUE);
    const damped = matrix.map((row, i) => row.map((one, j) => (i === j ? one + damping * Math.max(one, largest * 1e-9) : one)));
    const solved = solve(damped, right);
    const step = axes.map((_, i) => (held.has(i) ? 0 : (solved[free.indexOf(i)] ?? 0)));
    const leaving = axes.flatMap(({ from, to }, i) => {
      const [amount, by] = [now.at[i] ?? 0, step[i] ?? 0];
      return (amount <= from && by < 0) || (amount >= to && by > 0) ? i : [];
    });
    if (leaving.length === 0 || free.length === 0) return step;
    for (const i of leaving) held.add(i);
  }
}

/** By elimination with the largest pivot; 0 where nothing is left to tell. */
function solve(matrix: readonly (readonly number[])[], right: readonly number[]): number[] {
  const rows = matrix.map((row, i) => [...row, right[i] ?? 0]);
  const n = rows.length;
  for (let k = 0; k < n; k++) {
    const pivot = rows.slice(k).reduce((most, row, i) => (Math.abs(row[k] ?? 0) > Math.abs(rows[most]?.[k] ?? 0) ? k + i : most), k);
    [rows[k], rows[pivot]] = [rows[pivot] as number[], rows[k] as number[]];
    const top = rows[k] as number[];
    if (!top[k]) continue;
    for (const row of rows.slice(k + 1)) {
      const factor = (row[k] ?? 0) / (top[k] ?? 1);
      for (let j = k; j <= n; j++) row[j] = (row[j] ?? 0) - factor * (top[j] ?? 0);
    }
  }
  const solved = Array.from({ length: n }, () => 0);
  for (let k = n - 1; k >= 0; k--) {
    const row = rows[k] as number[];
    const known = solved.reduce((sum, one, j) => (j > k ? sum + one * (row[j] ?? 0) : sum), 0);
    solved[k] = row[k] ? ((row[n] ?? 0) - known) / (row[k] ?? 1) : 0;
  }
  return solved;
}

function squares({ off }: GoalsTrial, within: readonly number[]): number {
  return off.reduce((sum, one, k) => sum + (one / (within[k] ?? 1)) ** 2, 0);
}

/** How far the goal that is farthest off is, in what is allowed of it. */
function worst({ off }: GoalsTrial, within: readonly number[]): number {
  return off.some(Number.isNaN) ? Infinity : Math.max(...off.map((one, k) => Math.abs(one / (within[k] ?? 1))));
}

/** Whether all goals are met counts first, then what is wrong, then how far off they are. */
function isBetter(one: GoalsTrial, other: GoalsTrial, within: readonly number[]): boolean {
  const [isMet, wasMet] = [worst(one, within) <= 1, worst(other, within) <= 1];
  if (isMet !== wasMet) return isMet;
  if (isMet && one.problems.length !== other.problems.length) return one.problems.length < other.problems.length;
  const [now, before] = [squares(one, within), squares(other, within)];
  return Number.isNaN(before) ? !Number.isNaN(now) : now < before;
}

function lengthOf({ from, to }: Axis): number {
  return to - from;
}

function clamp({ from, to, allowed }: Axis, amount: number): number {
  return allowed ? amount : Math.min(to, Math.max(from, amount));
}

function between({ from, to }: Axis, place: number): number {
  return from + (to - from) * place;
}

/** The van der Corput sequence in a base of its own for each value. */
function halton(index: number, axis: number): number {
  const base = PRIMES[axis % PRIMES.length] ?? 2;
  let [place, share] = [0, 1 / base];
  for (let rest = index; rest > 0; rest = Math.floor(rest / base)) {
    place += share * (rest % base);
    share /= base;
  }
  return place;
}
