/**
 * A stack held to what is required of the value: by how much it is missed, what share of all that is made would miss it, and what one tolerance
 * would have to be for the requirement to be met by that alone.
 */
import { findRecord, type Basis, type Document, type StackReading } from '../document';
import { addUp, rootSumSquare, type Contributor, type Spread, type Stack } from './stack';

/** Limits in internal units, of which one may be open. */
export interface Required {
  readonly lower?: number | undefined;
  readonly upper?: number | undefined;
}

/** Both as formulas, empty where nothing is asked: the value's own limits, until the reading says otherwise. */
export function askedTexts(document: Document, id: string, { atLeast, atMost }: StackReading): { readonly atLeast: string; readonly atMost: string } {
  const own = findRecord(document, id, 'parameter');
  return { atLeast: (atLeast ?? own?.least)?.text ?? '', atMost: (atMost ?? own?.most)?.text ?? '' };
}

export interface Verdict {
  /** By how much each way of adding up goes beyond the limits; 0 where it is within. */
  readonly worstCase: number;
  readonly rootSumSquare: number;
  /** Of what was drawn, from 0 to 1; and between what it lies for all that could be drawn, at 95 %. */
  readonly outside: number;
  readonly outsideBetween: Spread;
  /** Room between the mean and the nearer limit, in threes of standard deviations; common practice asks for 1.33. Infinite where nothing varies. */
  readonly cpk: number;
}

export function judgeRequired({ worstCase, rootSumSquare: squares, drawn }: Stack, required: Required): Verdict {
  const { lower = -Infinity, upper = Infinity } = required;
  const missed = drawn.values.reduce((count, value) => count + (value < lower || value > upper ? 1 : 0), 0);
  const room = Math.min(upper - drawn.mean, drawn.mean - lower);
  return {
    worstCase: beyond(worstCase, required),
    rootSumSquare: beyond(squares, required),
    outside: missed / drawn.values.length,
    outsideBetween: wilson(missed, drawn.values.length),
    cpk: room / (3 * drawn.deviation),
  };
}

function beyond(spread: Spread, { lower = -Infinity, upper = Infinity }: Required): number {
  const found = Math.max(0, lower - spread.lower, spread.upper - upper);
  // The last bits of sums are no miss.
  return found <= 1e-9 * Math.max(1, Math.abs(spread.lower), Math.abs(spread.upper)) ? 0 : found;
}

/** The share that is to be expected, at 95 %. E. B. Wilson, Probable inference, the law of succession, and statistical inference, JASA 22 (1927). */
function wilson(hits: number, of: number): Spread {
  const z = 1.959964;
  const share = hits / of;
  const middle = (share + (z * z) / (2 * of)) / (1 + (z * z) / of);
  const half = (z / (1 + (z * z) / of)) * Math.sqrt((share * (1 - share)) / of + (z * z) / (4 * of * of));
  return { lower: Math.max(0, middle - half), upper: Math.min(1, middle + half) };
}

/**
 * What part of their tolerances some contributors may keep for the requirement to be met, all others as they are; 1 where it is met, undefined
 * where these cannot do it. By slopes: what bends is met nearly.
 */
export function factorToMeet(
  { nominal, contributors }: Pick<Stack, 'nominal' | 'contributors'>,
  ids: readonly string[],
  required: Required,
  basis: Basis,
): number | undefined {
  return greatest(1, (factor) => isMet(nominal, contributors, (one) => (ids.includes(one.id) ? factor : 1), required, basis));
}

/**
 * What part of its tolerance each of some contributors keeps, by id, for the requirement to be met at least cost, all others as they are; undefined
 * where these cannot do it. By slopes: what bends is met nearly.
 *
 * A tolerance of width w and cost c costs c / w: the reciprocal model, as in K. W. Chase and others, Least cost tolerance allocation for mechanical
 * assemblies with automated process selection, Manufacturing Review 3 (1990), from memory. With a multiplier for what is required, the worst case, a
 * sum of terms u w, is met at least cost by w in proportion to sqrt(c / u), the root of a sum of terms (s w)² by w in proportion to the cube root of
 * c / s². None becomes wider than it is, so that the others share what it leaves.
 */
export function cheapestToMeet(
  { nominal, contributors }: Pick<Stack, 'nominal' | 'contributors'>,
  ids: readonly string[],
  required: Required,
  basis: Basis,
): ReadonlyMap<string, number> | undefined {
  if (isMet(nominal, contributors, () => 1, required, basis)) return new Map(ids.map((id) => [id, 1]));
  const { lower = -Infinity, upper = Infinity } = required;
  const worst = addUp(nominal, contributors);
  const [isBelow, isAbove] = [worst.lower < lower, worst.upper > upper];
  const proportions = new Map(
    contributors.flatMap((one) => {
      if (!ids.includes(one.id)) return [];
      const width = one.upper - one.lower;
      if (basis === 'root-sum-square') return [[one.id, Math.cbrt((one.cost * one.pieces) / (one.sensitivity ** 2 * width ** 3))] as const];
      const { lower: down, upper: up } = addUp(0, [one]);
      const used = (isBelow ? -down : 0) + (isAbove ? up : 0);
      return [[one.id, Math.sqrt(one.cost / (used * width))] as const];
    }),
  );
  const factorAt = (multiplier: number, { id }: Contributor): number => Math.min(1, (proportions.get(id) ?? Infinity) * multiplier);
  const most = Math.max(0, ...[...proportions.values()].map((proportion) => 1 / proportion));
  const multiplier = greatest(most, (at) =>
    isMet(nominal, contributors, (one) => (at === 0 && proportions.has(one.id) ? 0 : factorAt(at, one)), required, basis),
  );
  if (multiplier === undefined || multiplier === 0) return undefined;
  return new Map(contributors.flatMap((one) => (proportions.has(one.id) ? [[one.id, factorAt(multiplier, one)] as const] : [])));
}

function isMet(nominal: number, contributors: readonly Contributor[], factorOf: (one: Contributor) => number, required: Required, basis: Basis): boolean {
  const add = basis === 'worst-case' ? addUp : rootSumSquare;
  const tightened = contributors.map((one) => scaled(one, factorOf(one)));
  return beyond(add(nominal, tightened), required) === 0;
}

/** The greatest from 0 to `most` that holds; what is less than one that holds does, too. Undefined where 0 does not. */
function greatest(most: number, holds: (at: number) => boolean): number | undefined {
  if (holds(most)) return most;
  if (!holds(0)) return undefined;
  let [met, missed] = [0, most];
  for (let i = 0; i < 60; i++) {
    const middle = (met + missed) / 2;
    if (holds(middle)) met = middle;
    else missed = middle;
  }
  return met;
}

function scaled(one: Contributor, factor: number): Contributor {
  return { ...one, lower: one.nominal + (one.lower - one.nominal) * factor, upper: one.nominal + (one.upper - one.nominal) * factor };
}
