/**
 * A stack held to what is required of the value: by how much it is missed, what share of all that is made would miss it, and what one tolerance
 * would have to be for the requirement to be met by that alone.
 */
import { addUp, rootSumSquare, type Contributor, type Spread, type Stack } from './stack';

/** Limits in internal units, of which one may be open. */
export interface Required {
  readonly lower?: number | undefined;
  readonly upper?: number | undefined;
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

/** By which way of adding up a requirement is to be met. */
export type Basis = 'worst-case' | 'root-sum-square';

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
  const add = basis === 'worst-case' ? addUp : rootSumSquare;
  const isMet = (factor: number): boolean => {
    const tightened = contributors.map((one) => (ids.includes(one.id) ? scaled(one, factor) : one));
    return beyond(add(nominal, tightened), required) === 0;
  };
  if (isMet(1)) return 1;
  if (!isMet(0)) return undefined;
  let [met, missed] = [0, 1];
  for (let i = 0; i < 60; i++) {
    const middle = (met + missed) / 2;
    if (isMet(middle)) met = middle;
    else missed = middle;
  }
  return met;
}

function scaled(one: Contributor, factor: number): Contributor {
  return { ...one, lower: one.nominal + (one.lower - one.nominal) * factor, upper: one.nominal + (one.upper - one.nominal) * factor };
}
