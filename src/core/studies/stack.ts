/**
 * A tolerance stack: how far a value may be off when everything that it is made of is off by what its tolerance allows. A value with a tolerance
 * stands for itself: what it was computed from does not count beside it.
 *
 * Sensitivities are exact slopes of the formulas. The worst case is the least and the greatest that the formulas come to with every contributor at
 * one of its limits (of many contributors, at those that their slopes point to), and of what is drawn between them. Root sum square adds deviations as
 * independent, symmetric about their middles, with the whole tolerance three standard deviations wide on each side (common practice in any text on
 * tolerancing). Monte Carlo draws each between its limits and evaluates the formulas themselves, so that what bends is told as it is.
 *
 * Where something on the way is told by more than formulas (a component, the geometry, mates), whole documents are evaluated instead, and built where
 * only that tells: each contributor at both limits, all others at their nominals. The worst case is the sum then, and draws are of straight lines
 * through what was read.
 */
import { findRecord, type Distribution, type Document, type StackReading } from '../document';
import type { InstanceSource } from '../instances';
import type { Deviations, Misfit } from './deviations';
import { drawBetween } from './distributions';
import { openJudged, runnerFor, type JudgeOptions, type Runner, type Sloped, type StackWay } from './stack-runner';

export interface Contributor extends Sloped {
  /** So many pieces of their own, each off by itself, instead of one piece that counts so many times; 1 as a rule. */
  readonly pieces: number;
  readonly distribution: Distribution;
  /** How dear it is to hold closely, beside the others; 1 as a rule. */
  readonly cost: number;
  /** Of the width of the worst case, from 0 to 1. */
  readonly share: number;
}

/** Limits of the value, in internal units. */
export interface Spread {
  readonly lower: number;
  readonly upper: number;
}

/** What was drawn. `lower` and `upper`: 0.135 % and 99.865 % of it, as wide as three standard deviations to both sides. */
export interface Drawn extends Spread {
  readonly mean: number;
  readonly deviation: number;
  /** In order, least first. */
  readonly values: Float64Array;
}

export interface Stack {
  readonly nominal: number;
  /** The largest share first. */
  readonly contributors: readonly Contributor[];
  readonly worstCase: Spread;
  readonly rootSumSquare: Spread;
  readonly drawn: Drawn;
  /** Typed values that reach it without a tolerance: they count as exact. */
  readonly exact: readonly string[];
  readonly way: StackWay;
  /** Values with tolerances that cannot be off by themselves, and why. */
  readonly stuck: Deviations['stuck'];
  /** By how much mates that hold something a second time are off at the worst. */
  readonly misfits: readonly Misfit[];
  /** Components that can still move, and take the value with them: there are no contributors then. */
  readonly free: readonly string[];
}

/** Draws of Monte Carlo, where nothing else is said. */
const DRAWS = 20_000;

/** Draws between the limits that are looked at for the worst case, for what is worse in the middle. */
const DRAWS_BETWEEN = 4_000;

const MOST_PIECES = 50;
/** Of so many contributors every combination of limits is looked at. */
const MOST_COMBINED = 12;

export interface StackOptions extends JudgeOptions {
  /** Gives evenly spread numbers from 0 to 1. */
  readonly random: () => number;
  /** How it is read in the place of what is kept with the value. */
  readonly reading?: StackReading | undefined;
  /** How often it is drawn. */
  readonly draws?: number | undefined;
}

/** Undefined for what is no amount, and for what {@link needsGeometry} without its deviations. */
export function stackOf(given: Document, id: string, source: InstanceSource, options: StackOptions): Stack | undefined {
  const opened = openJudged(given, id, source, options);
  const runner = opened && runnerFor(opened, source, options);
  if (!opened || !runner || runner === 'geometry' || Number.isNaN(runner.nominal)) return undefined;
  const { nominal, way, deviations } = runner;
  const reading = options.reading ?? findRecord(given, id, 'parameter')?.stack ?? {};
  const judged = runner.contributors.map((one) => judgedAs(one, reading));
  const shares = judged.map(({ sensitivity, lower, upper }) => Math.abs(sensitivity) * (upper - lower));
  const whole = shares.reduce((sum, share) => sum + share, 0);
  const contributors = judged.map((one, i) => ({ ...one, share: whole === 0 ? 0 : (shares[i] ?? 0) / whole }));
  return {
    nominal,
    contributors: [...contributors].sort((a, b) => b.share - a.share),
    worstCase: way === 'formulas' ? atLimits(runner, nominal, judged, options.random) : atOwnLimits(runner, judged),
    rootSumSquare: rootSumSquare(nominal, judged),
    drawn: draw(runner, judged, options),
    // Through components and mates everything counts that might: too much to name.
    exact: way === 'differences' ? [] : opened.exact,
    way,
    stuck: deviations?.stuck ?? [],
    misfits: deviations?.misfits ?? [],
    free: deviations?.free ?? [],
  };
}

type Judged = Omit<Contributor, 'share'>;

function judgedAs(one: Sloped, reading: StackReading): Judged {
  const { pieces = 1, distribution = reading.distribution ?? 'even', cost = 1 } = reading.contributors?.[one.id] ?? {};
  // Pieces that were chosen before the formula became another are no more.
  return { ...one, pieces: pieces === mostPieces(one) ? pieces : 1, distribution, cost };
}

/** The least and the greatest with everything at one of its limits, and of some that are drawn evenly between them: none beyond, as others may lie. */
function atLimits(runner: Runner, nominal: number, contributors: readonly Judged[], random: () => number): Spread {
  if (contributors.length === 0) return { lower: nominal, upper: nominal };
  const count = contributors.length <= MOST_COMBINED ? 2 ** contributors.length : 2;
  const isUp = (combination: number, i: number, slope: number): boolean =>
    contributors.length <= MOST_COMBINED ? ((combination >> i) & 1) === 1 : combination === 0 ? slope < 0 : slope >= 0;
  const columns = contributors.map((one, i) =>
    Float64Array.from({ length: count + DRAWS_BETWEEN }, (_, at) =>
      at >= count ? drawBetween(one.lower, one.upper, 'even', random) : isUp(at, i, one.sensitivity) ? one.upper : one.lower,
    ),
  );
  const found = runner.evaluate(columns, count + DRAWS_BETWEEN);
  // The nominal is not among them where a tolerance is off to one side of its own.
  const isAmong = contributors.every((one) => one.lower <= one.nominal && one.nominal <= one.upper);
  const seen = [...found, ...(isAmong ? [nominal] : [])].filter((value) => !Number.isNaN(value));
  if (seen.length === 0) return { lower: nominal, upper: nominal };
  return { lower: seen.reduce((a, b) => Math.min(a, b)), upper: seen.reduce((a, b) => Math.max(a, b)) };
}

/** What each comes to at its limits by itself, added up: at a corner the one side counts for what it is, the other for what that is. */
function atOwnLimits(runner: Runner, contributors: readonly Judged[]): Spread {
  const count = 2 * contributors.length;
  const columns = contributors.map(({ nominal, lower, upper }, i) => {
    const column = new Float64Array(count).fill(nominal);
    column.set([lower, upper], 2 * i);
    return column;
  });
  const ends = runner.evaluate(columns, count);
  let [lower, upper] = [runner.nominal, runner.nominal];
  for (let at = 0; at < count; at += 2) {
    const [low, high] = [ends[at] ?? NaN, ends[at + 1] ?? NaN];
    lower += Math.min(low, high) - runner.nominal;
    upper += Math.max(low, high) - runner.nominal;
  }
  return { lower, upper };
}

/** All deviations, each with its sensitivity. */
export function addUp(nominal: number, contributors: readonly Judged[]): Spread {
  let [lower, upper] = [nominal, nominal];
  for (const one of contributors) {
    const ends = [one.lower, one.upper].map((limit) => one.sensitivity * (limit - one.nominal));
    lower += Math.min(...ends);
    upper += Math.max(...ends);
  }
  return { lower, upper };
}

export function rootSumSquare(nominal: number, contributors: readonly Judged[]): Spread {
  let [middle, squares] = [nominal, 0];
  for (const { lower, upper, nominal: own, sensitivity, pieces } of contributors) {
    middle += sensitivity * ((lower + upper) / 2 - own);
    // Each piece is off by itself, by its part of the sensitivity.
    squares += (sensitivity * ((upper - lower) / 2)) ** 2 / pieces;
  }
  const half = Math.sqrt(squares);
  return { lower: middle - half, upper: middle + half };
}

function draw(runner: Runner, contributors: readonly Judged[], { random, draws = DRAWS }: Pick<StackOptions, 'random' | 'draws'>): Drawn {
  const { nominal } = runner;
  if (contributors.length === 0) return { lower: nominal, upper: nominal, mean: nominal, deviation: 0, values: Float64Array.of(nominal) };
  const columns = contributors.map((one) => {
    const column = new Float64Array(draws);
    for (let at = 0; at < draws; at++) column[at] = drawMean(one, random);
    return column;
  });
  const values = runner
    .evaluate(columns, draws)
    .filter((value) => !Number.isNaN(value))
    .sort();
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  const squares = values.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  const at = (share: number): number => values[Math.min(values.length - 1, Math.max(0, Math.round(share * (values.length - 1))))] ?? NaN;
  return { lower: at(0.00135), upper: at(0.99865), mean, deviation: Math.sqrt(squares / Math.max(1, values.length - 1)), values };
}

/** Of one piece; of several, what they come to together, as one that counts so many times. */
function drawMean({ lower, upper, pieces, distribution }: Judged, random: () => number): number {
  let sum = 0;
  for (let piece = 0; piece < pieces; piece++) sum += drawBetween(lower, upper, distribution, random);
  return sum / pieces;
}

/** How many pieces a contributor may be: as many as it counts times, where that is a whole number; 1 where there is nothing to choose. */
export function mostPieces({ sensitivity }: Pick<Contributor, 'sensitivity'>): number {
  const times = Math.round(Math.abs(sensitivity));
  return times >= 2 && times <= MOST_PIECES && Math.abs(Math.abs(sensitivity) - times) < 1e-6 ? times : 1;
}
