/**
 * The least of a value over several others within bounds, by the simplex method of J. A. Nelder and R. Mead (A simplex method for function minimization,
 * Computer Journal 7, 1965, 308-313), which needs no slopes: a count jumps, a step fails. Points outside the bounds are moved onto them. Where something is
 * wrong a point is worse than any at which nothing is, and the fewer things the better (K. Deb, An efficient constraint handling method for genetic
 * algorithms, 2000: feasible points first). Begun anew about the best, with
 * another simplex, until that brings nothing more.
 */

export interface Axis {
  readonly from: number;
  readonly to: number;
  /** What alone it may be, in rising order; anything between its bounds otherwise. */
  readonly allowed?: readonly number[] | undefined;
}

export interface Trial {
  /** An amount for each axis. */
  readonly at: readonly number[];
  /** Not a number where it has none. */
  readonly value: number;
  readonly problems: readonly string[];
}

export interface Minimum {
  /** The best of all trials; undefined where there was none. */
  readonly best: Trial | undefined;
  readonly trials: number;
  /** It came to rest by itself: neither stopped nor out of trials. */
  readonly isSettled: boolean;
}

export interface MinimiseOptions {
  readonly axes: readonly Axis[];
  /** Where it begins. */
  readonly start: readonly number[];
  readonly mostTrials?: number;
  readonly onTrial?: (trial: Trial, best: Trial) => void;
}

const MOST_TRIALS = 400;
/** How large the first simplex is and how small the last one, of the bounds. */
const FIRST = 0.2;
const LAST = 1e-6;
/** Values that are this near to one another, of themselves, are alike: no kernel measures better. */
const ALIKE = 1e-10;
const MOST_ROUNDS = 20;
const MOST_IN_VAIN = 5;

/** Thrown by nobody else, and caught here. */
class Ended extends Error {}

/** `evaluate` gives what the value comes to, and what is wrong; undefined to stop. The same point is asked once. */
export async function minimise(
  { axes, start, mostTrials = MOST_TRIALS, onTrial = () => undefined }: MinimiseOptions,
  evaluate: (at: readonly number[]) => Promise<Pick<Trial, 'value' | 'problems'> | undefined>,
): Promise<Minimum> {
  const known = new Map<string, Trial>();
  let best: Trial | undefined;
  const ask = async (place: readonly number[]): Promise<Vertex> => {
    const at = axes.map((axis, i) => amountAt(axis, place[i] ?? 0));
    const key = at.join(' ');
    let trial = known.get(key);
    if (!trial) {
      if (known.size >= mostTrials) throw new Ended();
      const found = await evaluate(at);
      if (!found) throw new Ended();
      trial = { at, ...found };
      known.set(key, trial);
      if (!best || isBetter(trial, best)) best = trial;
      onTrial(trial, best);
    }
    return { place, trial };
  };
  try {
    let centre = start.map((amount, i) => placeOf(axes[i] as Axis, amount));
    // A simplex that has been pressed flat against a bound is made anew, smaller and the other way round, before it is given up.
    for (let [round, inVain] = [0, 0]; round < MOST_ROUNDS && inVain < MOST_IN_VAIN; round++) {
      const before = best;
      const size = FIRST / 4 ** inVain;
      const simplex = await firstSimplex(centre, round % 2 === 0 ? size : -size, ask);
      await descend(simplex, ask);
      const now = best;
      if (!now) break;
      inVain = before && !isBetter(now, before) ? inVain + 1 : 0;
      centre = now.at.map((amount, i) => placeOf(axes[i] as Axis, amount));
    }
    return { best, trials: known.size, isSettled: true };
  } catch (problem) {
    if (!(problem instanceof Ended)) throw problem;
    return { best, trials: known.size, isSettled: false };
  }
}

/** Places are from 0 to 1 between the bounds. */
interface Vertex {
  readonly place: readonly number[];
  readonly trial: Trial;
}

type Ask = (place: readonly number[]) => Promise<Vertex>;

async function firstSimplex(centre: readonly number[], size: number, ask: Ask): Promise<Vertex[]> {
  const simplex = [await ask(centre)];
  for (const axis of centre.keys()) {
    // Away from the bound that is near.
    const step = (centre[axis] ?? 0) + size > 1 || (centre[axis] ?? 0) + size < 0 ? -size : size;
    simplex.push(await ask(inside(centre.map((coordinate, i) => (i === axis ? coordinate + step : coordinate)))));
  }
  return simplex;
}

/** Reflects, expands, contracts and shrinks the simplex until it is as small as it is to be. */
async function descend(simplex: Vertex[], ask: Ask): Promise<void> {
  const n = simplex.length - 1;
  for (;;) {
    simplex.sort((a, b) => (isBetter(a.trial, b.trial) ? -1 : isBetter(b.trial, a.trial) ? 1 : 0));
    const [first, second, last] = [simplex[0], simplex[n - 1], simplex[n]] as [Vertex, Vertex, Vertex];
    if (sizeOf(simplex) < LAST || isFlat(first.trial, last.trial)) return;
    const centre = first.place.map((_, i) => simplex.slice(0, n).reduce((sum, { place }) => sum + (place[i] ?? 0), 0) / n);
    const along = (by: number): number[] => inside(centre.map((coordinate, i) => coordinate + by * (coordinate - (last.place[i] ?? 0))));
    const reflected = await ask(along(1));
    if (isBetter(reflected.trial, first.trial)) {
      const expanded = await ask(along(2));
      simplex[n] = isBetter(expanded.trial, reflected.trial) ? expanded : reflected;
    } else if (isBetter(reflected.trial, second.trial)) simplex[n] = reflected;
    else {
      const isOutside = isBetter(reflected.trial, last.trial);
      const contracted = await ask(along(isOutside ? 0.5 : -0.5));
      if (isBetter(contracted.trial, (isOutside ? reflected : last).trial)) simplex[n] = contracted;
      else for (let i = 1; i <= n; i++) simplex[i] = await ask(first.place.map((coordinate, k) => (coordinate + ((simplex[i] as Vertex).place[k] ?? 0)) / 2));
    }
  }
}

function isFlat(one: Trial, other: Trial): boolean {
  return one.problems.length === other.problems.length && Math.abs(one.value - other.value) <= ALIKE * Math.abs(one.value);
}

function sizeOf(simplex: readonly Vertex[]): number {
  const [first, ...others] = simplex;
  return Math.max(...others.map(({ place }) => Math.max(...place.map((coordinate, i) => Math.abs(coordinate - (first?.place[i] ?? 0))))));
}

function inside(place: readonly number[]): number[] {
  return place.map((coordinate) => Math.min(1, Math.max(0, coordinate)));
}

/** Whether a trial is better than another: with less that is wrong, then with a value, then with a lower one. */
function isBetter(one: Trial, other: Trial): boolean {
  if (one.problems.length !== other.problems.length) return one.problems.length < other.problems.length;
  if (Number.isNaN(one.value) || Number.isNaN(other.value)) return !Number.isNaN(one.value) && Number.isNaN(other.value);
  return one.value < other.value;
}

function amountAt({ from, to, allowed }: Axis, place: number): number {
  const amount = from + (to - from) * place;
  if (!allowed || allowed.length === 0) return amount;
  return allowed.reduce((nearest, one) => (Math.abs(one - amount) < Math.abs(nearest - amount) ? one : nearest));
}

function placeOf({ from, to }: Axis, amount: number): number {
  return to === from ? 0 : Math.min(1, Math.max(0, (amount - from) / (to - from)));
}
