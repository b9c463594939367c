/**
 * A tolerance stack: how far a value may be off when everything that it is made of is off by what its tolerance allows. A value with a tolerance
 * stands for itself: what it was computed from does not count beside it.
 *
 * Sensitivities are exact slopes of the formulas. The worst case is the least and the greatest that the formulas come to with every contributor at
 * one of its limits (of many contributors, at those that their slopes point to), and of what is drawn between them. Root sum square adds deviations as
 * independent, symmetric about their middles, with the whole tolerance three standard deviations wide on each side (common practice in any text on
 * tolerancing). Monte Carlo draws each between its limits and evaluates the formulas themselves, so that what bends is told as it is.
 *
 * Where something on the way is computed elsewhere (in a component, in an outside calculation), whole documents are evaluated instead: slopes are
 * differences over the tolerance, the worst case is their sum, and less is drawn. What is read off the geometry stays as it is, and is told.
 */
import {
  findRecord,
  limitsOf,
  sampleValue,
  valuesRead,
  type Distribution,
  type Document,
  type DocumentValues,
  type MeasuredValue,
  type StackReading,
} from '../document';
import { openValues, type InstanceSource } from '../instances';
import type { GeneralClass } from '../tolerance';
import { drawBetween } from './distributions';

export interface Contributor {
  readonly id: string;
  readonly name: string;
  readonly nominal: number;
  /** Limits in internal units, absolute. */
  readonly lower: number;
  readonly upper: number;
  /** How much the value changes by one of it. */
  readonly sensitivity: number;
  /** The value bends sharply just here: the other way it changes by less. */
  readonly isCorner: boolean;
  /** So many pieces of their own, each off by itself, instead of one piece that counts so many times; 1 as a rule. */
  readonly pieces: number;
  readonly distribution: Distribution;
  /** How dear it is to hold closely, beside the others; 1 as a rule. */
  readonly cost: number;
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
  /** What is read off the geometry on the way: it stays as it is here, so that what reaches the value through it does not count. */
  readonly measured: readonly string[];
}

/** Draws of Monte Carlo where formulas alone are evaluated, and where whole documents are. */
const DRAWS = 20_000;
const FEW_DRAWS = 4_000;

/** Draws between the limits that are looked at for the worst case, for what is worse in the middle. */
const DRAWS_BETWEEN = 4_000;

const MOST_PIECES = 50;
/** Of so many contributors every combination of limits is looked at. */
const MOST_COMBINED = 12;

export interface StackOptions {
  /** Gives evenly spread numbers from 0 to 1. */
  readonly random: () => number;
  /** What the geometry measures as it is. */
  readonly measured?: Readonly<Record<string, MeasuredValue>> | undefined;
  /** How it is read in the place of what is kept with the value. */
  readonly reading?: StackReading | undefined;
  /** The class of ISO 2768-1 that typed lengths without a tolerance have, in the place of that of the document. */
  readonly general?: GeneralClass | undefined;
}

/** Undefined for what is no amount. */
export function stackOf(given: Document, id: string, source: InstanceSource, options: StackOptions): Stack | undefined {
  const document = withoutLimits(options.general ? { ...given, general: options.general } : given, id);
  const values = openValues(document, source);
  if (options.measured) values.setMeasured(options.measured);
  const nominal = values.sheet.readNumber(id);
  if (values.sheet.read(id)?.type?.kind !== 'quantity' || Number.isNaN(nominal)) return undefined;
  const { toleranced, exact } = reach(values, id);
  const ids = toleranced.map((one) => one.id);
  const elsewhere = values.sheet.listOutsideBetween(ids, id);
  const isInside = elsewhere.length === 0;
  const runner: Runner = isInside ? new FormulaRunner(values, id, ids) : new DocumentRunner(document, values, id, toleranced, source, options.measured);
  const slopes = runner.slopes(toleranced);
  const reading = options.reading ?? findRecord(given, id, 'parameter')?.stack ?? {};
  const judged = toleranced.map((one, i) => judgedAs(one, slopes[i], reading));
  const shares = judged.map(({ sensitivity, lower, upper }) => Math.abs(sensitivity) * (upper - lower));
  const whole = shares.reduce((sum, share) => sum + share, 0);
  const contributors = judged.map((one, i) => ({ ...one, share: whole === 0 ? 0 : (shares[i] ?? 0) / whole }));
  const drawn = draw(runner, nominal, judged, options.random, isInside ? DRAWS : FEW_DRAWS);
  return {
    nominal,
    contributors: [...contributors].sort((a, b) => b.share - a.share),
    worstCase: isInside ? atLimits(runner, nominal, judged, options.random) : addUp(nominal, judged),
    rootSumSquare: rootSumSquare(nominal, judged),
    drawn,
    exact,
    measured: elsewhere.flatMap((one) => (values.isOfGeometry(one) ? (values.sheet.nameOf(one) ?? []) : [])),
  };
}

/** What lies beyond the limits of the value itself is to be told, not refused. */
function withoutLimits(document: Document, id: string): Document {
  const parameter = findRecord(document, id, 'parameter');
  if (!parameter || (!parameter.least && !parameter.most && !parameter.choices)) return document;
  const { least: _, most: __, choices: ___, ...free } = parameter;
  return { ...document, records: { ...document.records, [id]: free } };
}

type Toleranced = Omit<Contributor, 'sensitivity' | 'isCorner' | 'pieces' | 'distribution' | 'cost' | 'share'>;

/** Values with tolerances that the value depends on, and typed numbers without one. */
function reach(values: DocumentValues, id: string): { readonly toleranced: Toleranced[]; readonly exact: string[] } {
  const toleranced: Toleranced[] = [];
  const exact: string[] = [];
  const seen = new Set<string>([id]);
  const wave = valuesRead(values, id);
  for (let next = wave.pop(); next !== undefined; next = wave.pop()) {
    if (seen.has(next)) continue;
    seen.add(next);
    const record = findRecord(values.document, next, 'parameter') ?? findRecord(values.document, next, 'take');
    const limits = record && limitsOf(values, next);
    if (record && limits && !('problem' in limits)) {
      const { lower, upper, isGeneral } = limits;
      toleranced.push({ id: next, name: record.name, nominal: values.sheet.readNumber(next), lower, upper, ...(isGeneral ? { isGeneral } : {}) });
      continue;
    }
    const reads = valuesRead(values, next);
    wave.push(...reads);
    if (record && reads.length === 0) exact.push(record.name);
  }
  return { toleranced: toleranced.reverse(), exact };
}

type Judged = Omit<Contributor, 'share'>;

function judgedAs(one: Toleranced, slope: Slope | undefined, reading: StackReading): Judged {
  const { pieces = 1, distribution = reading.distribution ?? 'even', cost = 1 } = reading.contributors?.[one.id] ?? {};
  const sensitivity = slope?.value ?? NaN;
  // Pieces that were chosen before the formula became another are no more.
  return { ...one, sensitivity, isCorner: slope?.isCorner ?? false, pieces: pieces === mostPieces({ sensitivity }) ? pieces : 1, distribution, cost };
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

function draw(runner: Runner, nominal: number, contributors: readonly Judged[], random: () => number, count: number): Drawn {
  if (contributors.length === 0) return { lower: nominal, upper: nominal, mean: nominal, deviation: 0, values: Float64Array.of(nominal) };
  const columns = contributors.map((one) => {
    const column = new Float64Array(count);
    for (let at = 0; at < count; at++) column[at] = drawMean(one, random);
    return column;
  });
  const values = runner
    .evaluate(columns, count)
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

/** The value with all contributors held at amounts, none of them computed from another. */
interface Runner {
  /** `amounts`: a column for each contributor. Not a number where it has none. */
  readonly evaluate: (amounts: readonly Float64Array[], count: number) => Float64Array;
  readonly slopes: (contributors: readonly Toleranced[]) => readonly Slope[];
}

interface Slope {
  readonly value: number;
  readonly isCorner: boolean;
}

/** By the formulas alone. */
class FormulaRunner implements Runner {
  constructor(
    private readonly values: DocumentValues,
    private readonly id: string,
    private readonly contributors: readonly string[],
  ) {}

  evaluate(amounts: readonly Float64Array[], count: number): Float64Array {
    const set = new Map(this.contributors.flatMap((id, i) => (amounts[i] ? [[id, amounts[i]] as const] : [])));
    return sampleValue(this.values, set, this.id, count);
  }

  slopes() {
    return this.values.sheet.slopes(this.contributors, this.id);
  }
}

/** By whole documents. */
class DocumentRunner implements Runner {
  private readonly values: DocumentValues;
  /** The contributors: inputs here, whatever they are computed from in the document. */
  private readonly held: readonly { readonly id: string; readonly nominal: number }[];

  constructor(
    document: Document,
    values: DocumentValues,
    private readonly id: string,
    contributors: readonly Toleranced[],
    source: InstanceSource,
    measured: StackOptions['measured'],
  ) {
    this.values = openValues(document, source);
    if (measured) this.values.setMeasured(measured);
    this.held = contributors.map((one) => ({ id: one.id, nominal: one.nominal }));
    for (const { id: one, name, nominal } of contributors)
      this.values.sheet.define(one, { kind: 'input', name, type: values.sheet.read(one)?.type, value: nominal });
    this.values.settle();
  }

  evaluate(amounts: readonly Float64Array[], count: number): Float64Array {
    return Float64Array.from({ length: count }, (_, at) => this.read((i) => amounts[i]?.[at]));
  }

  /** By central differences over the tolerance itself: exact where it is linear, the mean slope where it bends. */
  slopes(contributors: readonly Toleranced[]) {
    return contributors.map(({ nominal, lower, upper }, moved) => {
      const half = Math.max(Math.abs(upper - nominal), Math.abs(nominal - lower), 1e-9 * Math.max(1, Math.abs(nominal)));
      const [high = NaN, low = NaN] = [nominal + half, nominal - half].map((amount) => this.read((i) => (i === moved ? amount : undefined)));
      return { value: (high - low) / (2 * half), isCorner: false };
    });
  }

  private read(amount: (contributor: number) => number | undefined): number {
    this.held.forEach(({ id, nominal }, i) => this.values.sheet.setNumber(id, amount(i) ?? nominal));
    this.values.settle();
    return this.values.sheet.readNumber(this.id);
  }
}
