/**
 * A tolerance stack: how far a value may be off when everything that it is made of is off by what its tolerance allows. A value with a tolerance
 * stands for itself: what it was computed from does not count beside it.
 *
 * Worst case adds all deviations, each with its sensitivity; root sum square adds them as independent, symmetric about their middles, with the
 * whole tolerance three standard deviations wide on each side (both common practice in any text on tolerancing); Monte Carlo draws each evenly
 * between its limits and evaluates the formulas themselves, so that what bends is told as it is.
 */
import { findRecord, limitsOf, type Document, type DocumentValues, type ShownValue } from '../document';
import { openValues, type InstanceSource } from '../instances';
import { generalDeviation, type GeneralClass } from '../tolerance';
import { kindDimension } from '../units';

export interface Contributor {
  readonly id: string;
  readonly name: string;
  readonly nominal: number;
  /** Limits in internal units, absolute. */
  readonly lower: number;
  readonly upper: number;
  /** How much the value changes by one of it. */
  readonly sensitivity: number;
  /** Of the width of the worst case, from 0 to 1. */
  readonly share: number;
  /** Its limits are those of the general tolerance: it has none of its own. */
  readonly isGeneral?: boolean;
}

/** Limits of the value, in internal units. */
export interface Spread {
  readonly lower: number;
  readonly upper: number;
}

export interface Stack {
  readonly nominal: number;
  /** The largest share first. */
  readonly contributors: readonly Contributor[];
  readonly worstCase: Spread;
  readonly rootSumSquare: Spread;
  /** 0.135 % and 99.865 % of what was drawn: as wide as three standard deviations to both sides. */
  readonly drawn: Spread;
  /** Typed values that reach it without a tolerance: they count as exact. */
  readonly exact: readonly string[];
}

/** In internal units. */
const MILLIMETRE = 10_000;

/** Draws of Monte Carlo. */
const DRAWS = 4000;

export interface StackOptions {
  /** Gives evenly spread numbers from 0 to 1. */
  readonly random: () => number;
  /** The class of ISO 2768-1 that typed lengths without a tolerance have; they count as exact without. */
  readonly general?: GeneralClass | undefined;
}

/** Undefined for what is no amount. */
export function stackOf(document: Document, id: string, source: InstanceSource, { random, general }: StackOptions): Stack | undefined {
  const values = openValues(document, source);
  const nominal = values.sheet.readNumber(id);
  if (values.sheet.read(id)?.type?.kind !== 'quantity' || Number.isNaN(nominal)) return undefined;
  const { toleranced, exact } = reach(values, id, general);
  const runner = new Runner(document, values, toleranced, source);
  const judged = toleranced.map((one) => ({ ...one, sensitivity: runner.sensitivity(id, one) }));
  const shares = judged.map(({ sensitivity, lower, upper }) => Math.abs(sensitivity) * (upper - lower));
  const whole = shares.reduce((sum, share) => sum + share, 0);
  const contributors = judged.map((one, i) => ({ ...one, share: whole === 0 ? 0 : (shares[i] ?? 0) / whole }));
  return {
    nominal,
    contributors: [...contributors].sort((a, b) => b.share - a.share),
    worstCase: worstCase(nominal, judged),
    rootSumSquare: rootSumSquare(nominal, judged),
    drawn: contributors.length === 0 ? { lower: nominal, upper: nominal } : draw(runner, id, judged, random),
    exact,
  };
}

type Toleranced = Omit<Contributor, 'sensitivity' | 'share'>;

/** Values with tolerances that the value depends on, and typed numbers without one. */
function reach(values: DocumentValues, id: string, general: GeneralClass | undefined): { readonly toleranced: Toleranced[]; readonly exact: string[] } {
  const toleranced: Toleranced[] = [];
  const exact: string[] = [];
  const seen = new Set<string>([id]);
  // Its limits judge a value; it does not come from them.
  const readsOf = (node: string): string[] => values.sheet.listReads(node).filter((read) => !read.startsWith(`${node}/`));
  const wave = readsOf(id);
  for (let next = wave.pop(); next !== undefined; next = wave.pop()) {
    if (seen.has(next)) continue;
    seen.add(next);
    const record = findRecord(values.document, next, 'parameter') ?? findRecord(values.document, next, 'take');
    const limits = record && limitsOf(values, next);
    if (record && limits && !('problem' in limits)) {
      toleranced.push({ id: next, name: record.name, nominal: values.sheet.readNumber(next), lower: limits.lower, upper: limits.upper });
      continue;
    }
    const reads = readsOf(next);
    wave.push(...reads);
    if (!record || reads.length > 0) continue;
    const nominal = values.sheet.readNumber(next);
    const by = general && isLength(values.sheet.read(next)) ? generalDeviation(nominal / MILLIMETRE, general) : undefined;
    if (by === undefined) exact.push(record.name);
    else {
      const width = by * MILLIMETRE;
      toleranced.push({ id: next, name: record.name, nominal, lower: nominal - width, upper: nominal + width, isGeneral: true });
    }
  }
  return { toleranced: toleranced.reverse(), exact };
}

function isLength(reading: Pick<ShownValue, 'type'> | undefined): boolean {
  return reading?.type?.kind === 'quantity' && reading.type.dimension === kindDimension('length');
}

function worstCase(nominal: number, contributors: readonly Omit<Contributor, 'share'>[]): Spread {
  let [lower, upper] = [nominal, nominal];
  for (const one of contributors) {
    const ends = [one.lower, one.upper].map((limit) => one.sensitivity * (limit - one.nominal));
    lower += Math.min(...ends);
    upper += Math.max(...ends);
  }
  return { lower, upper };
}

function rootSumSquare(nominal: number, contributors: readonly Omit<Contributor, 'share'>[]): Spread {
  let [middle, squares] = [nominal, 0];
  for (const { lower, upper, nominal: own, sensitivity } of contributors) {
    middle += sensitivity * ((lower + upper) / 2 - own);
    squares += (sensitivity * ((upper - lower) / 2)) ** 2;
  }
  const half = Math.sqrt(squares);
  return { lower: middle - half, upper: middle + half };
}

function draw(runner: Runner, id: string, contributors: readonly Toleranced[], random: () => number): Spread {
  const found: number[] = [];
  for (let i = 0; i < DRAWS; i++) {
    const amounts = new Map(contributors.map(({ id: one, lower, upper }) => [one, lower + (upper - lower) * random()]));
    const value = runner.read(id, amounts);
    if (!Number.isNaN(value)) found.push(value);
  }
  found.sort((a, b) => a - b);
  const at = (share: number): number => found[Math.min(found.length - 1, Math.max(0, Math.round(share * (found.length - 1))))] ?? NaN;
  return { lower: at(0.00135), upper: at(0.99865) };
}

/** The values of the document with all contributors held at amounts, none of them computed from another. */
class Runner {
  private readonly values: DocumentValues;
  private readonly kinds: ReadonlyMap<string, { readonly name: string; readonly type: ShownValue['type']; readonly nominal: number }>;

  constructor(document: Document, values: DocumentValues, contributors: readonly Toleranced[], source: InstanceSource) {
    this.values = openValues(document, source);
    this.kinds = new Map(contributors.map(({ id, name, nominal }) => [id, { name, type: values.sheet.read(id)?.type, nominal }]));
  }

  read(id: string, amounts: ReadonlyMap<string, number>): number {
    for (const [one, { name, type, nominal }] of this.kinds) this.values.sheet.define(one, { kind: 'input', name, type, value: amounts.get(one) ?? nominal });
    this.values.settle();
    return this.values.sheet.readNumber(id);
  }

  /** By central differences over the tolerance itself: exact where it is linear, the mean slope where it bends. */
  sensitivity(id: string, { id: one, nominal, lower, upper }: Toleranced): number {
    const half = Math.max(Math.abs(upper - nominal), Math.abs(nominal - lower), 1e-9 * Math.max(1, Math.abs(nominal)));
    const [high, low] = [nominal + half, nominal - half].map((amount) => this.read(id, new Map([[one, amount]])));
    return high === undefined || low === undefined ? NaN : (high - low) / (2 * half);
  }
}
