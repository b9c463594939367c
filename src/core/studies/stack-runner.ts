/**
 * How a value answers to each of its contributors, for its stack: by the formulas alone, by slopes through sketches, or by straight lines through what whole
 * documents come to, where something on the way (a component, the geometry, mates) is told by more than formulas.
 */
import {
  findRecord,
  hasComponents,
  limitsOf,
  measuresGeometry,
  sampleValue,
  valuesRead,
  type Document,
  type DocumentValues,
  type MeasuredValue,
} from '../document';
import { diffDocuments, openValues, type InstanceSource } from '../instances';
import type { GeneralClass } from '../tolerance';
import { dependenceOf } from './depends-on';
import { deviationsOf, readDeviations, type Deviation, type Deviations } from './deviations';

/** A value with a tolerance that another depends on. */
export interface Toleranced {
  /** Of one in a component: the ids of the components on the way and its own, joined with spaces. */
  readonly id: string;
  /** With those of the components on the way, joined with dots. */
  readonly name: string;
  /** The key of its dimension, and the unit that it is shown in. */
  readonly dimension: string;
  readonly unit: string;
  readonly nominal: number;
  /** Limits in internal units, absolute. */
  readonly lower: number;
  readonly upper: number;
  /** Its limits are those of the general tolerance: it has none of its own. */
  readonly isGeneral?: boolean;
}

export interface Sloped extends Toleranced {
  /** How much the value changes by one of it. */
  readonly sensitivity: number;
  /** The value bends sharply just here: the other way it changes by less. */
  readonly isCorner: boolean;
}

/**
 * By the formulas alone: exact slopes, and draws of the formulas themselves. By slopes through the sketch too, or by differences over the tolerances: draws are
 * straight then.
 */
export type StackWay = 'formulas' | 'slopes' | 'differences';

export interface JudgeOptions {
  /** What the geometry measures as it is. */
  readonly measured?: Readonly<Record<string, MeasuredValue>> | undefined;
  /** The class of ISO 2768-1 that typed lengths without a tolerance have, in the place of that of the document. */
  readonly general?: GeneralClass | undefined;
  /** What was read of it where only the geometry tells; see {@link deviationsOf}. */
  readonly deviations?: Deviations | undefined;
  /** How fast a value that is read off the geometry moves by others, where that is known: by their ids, in internal units. */
  readonly slopesOfReading?: (values: DocumentValues, id: string) => ReadonlyMap<string, number> | undefined;
}

/** The value with all contributors held at amounts, none of them computed from another. */
export interface Runner {
  readonly way: StackWay;
  readonly nominal: number;
  readonly deviations?: Deviations | undefined;
  readonly contributors: readonly Sloped[];
  /** `amounts`: a column for each contributor. Not a number where it has none. */
  readonly evaluate: (amounts: readonly Float64Array[], count: number) => Float64Array;
}

/** Whether only built documents tell how a value is off: its stack is asked for with its deviations. */
export function needsGeometry(given: Document, id: string, source: InstanceSource, options: Omit<JudgeOptions, 'deviations'>): boolean {
  const opened = openJudged(given, id, source, options);
  return opened !== undefined && runnerFor(opened, source, options) === 'geometry';
}

export interface Opened {
  readonly id: string;
  readonly document: Document;
  readonly values: DocumentValues;
  readonly nominal: number;
  readonly toleranced: readonly Toleranced[];
  readonly exact: readonly string[];
}

export function openJudged(given: Document, id: string, source: InstanceSource, { measured, general }: JudgeOptions): Opened | undefined {
  const document = judgedDocument(given, id, general);
  const values = openValues(document, source);
  if (measured) values.setMeasured(measured);
  const nominal = values.sheet.readNumber(id);
  return values.sheet.read(id)?.type?.kind === 'quantity' ? { id, document, values, nominal, ...reach(values, id) } : undefined;
}

/** By formulas, through sketches, by whole documents: the first that tells it; `geometry` where they would have to be built. */
export function runnerFor(opened: Opened, source: InstanceSource, { deviations, measured, slopesOfReading }: JudgeOptions): Runner | 'geometry' {
  const { id, document, values, nominal, toleranced } = opened;
  const ids = toleranced.map((one) => one.id);
  const elsewhere = values.sheet.listOutsideBetween(ids, id);
  const isUnbuilt = Number.isNaN(nominal) && (measuresGeometry(document) || hasComponents(document));
  if (elsewhere.length === 0 && !isUnbuilt && !dependenceOf(values, id).isThroughComponents) return new FormulaRunner(values, id, toleranced);
  const slopes = Number.isNaN(nominal) ? undefined : slopesThrough(opened, elsewhere, slopesOfReading);
  if (slopes) return new LineRunner(nominal, slopes);
  if (deviations) return ofDeviations(deviations);
  if (Number.isNaN(nominal) || [id, ...elsewhere].some((one) => values.isOfGeometry(one))) return 'geometry';
  const found = byValues(opened, source, measured);
  return found ? ofDeviations(found) : 'geometry';
}

/** By evaluation alone: one document is moved from state to state. Undefined where the value is nothing in one of them: only the geometry tells it there. */
function byValues({ id, document }: Opened, source: InstanceSource, measured: JudgeOptions['measured']): Deviations | undefined {
  let at: { readonly document: Document; readonly values: DocumentValues } | undefined;
  return readDeviations(deviationsOf(document, id, source, measured), (state) => {
    const values = at?.values ?? openValues(state, source);
    if (at) values.apply(state, diffDocuments(at.document, state));
    else if (measured) values.setMeasured(measured);
    at = { document: state, values };
    const value = values.sheet.readNumber(id);
    return Number.isNaN(value) ? undefined : { value };
  });
}

/** Exact slopes, where all that is computed elsewhere on the way has some; what counts for nothing is left out. */
function slopesThrough(
  { id, values, toleranced }: Opened,
  elsewhere: readonly string[],
  slopesOfReading: JudgeOptions['slopesOfReading'],
): Sloped[] | undefined {
  const known = new Map<string, ReadonlyMap<string, number>>();
  for (const one of new Set([id, ...elsewhere])) {
    if (!values.isOfGeometry(one)) continue;
    const slopes = slopesOfReading?.(values, one);
    if (!slopes) return undefined;
    known.set(one, slopes);
  }
  const through = new Set([...known.keys()].flatMap((one) => values.sheet.listReads(one)));
  if (known.size === 0 || elsewhere.some((one) => !known.has(one) && !through.has(one))) return undefined;
  return slopedBy(values, id, toleranced, known).filter(({ sensitivity }) => sensitivity !== 0);
}

function slopedBy(
  values: DocumentValues,
  id: string,
  toleranced: readonly Toleranced[],
  elsewhere?: ReadonlyMap<string, ReadonlyMap<string, number>>,
): Sloped[] {
  const slopes = values.sheet.slopes(
    toleranced.map((one) => one.id),
    id,
    elsewhere,
  );
  return toleranced.map((one, i) => ({ ...one, sensitivity: slopes[i]?.value ?? NaN, isCorner: slopes[i]?.isCorner ?? false }));
}

/** A document as its stack is judged: what lies beyond the limits of the value itself is to be told, not refused. */
export function judgedDocument(given: Document, id: string, general?: GeneralClass): Document {
  const document = general ? { ...given, general } : given;
  const parameter = findRecord(document, id, 'parameter');
  if (!parameter || (!parameter.least && !parameter.most && !parameter.choices)) return document;
  const { least: _, most: __, choices: ___, ...free } = parameter;
  return { ...document, records: { ...document.records, [id]: free } };
}

/** Values with tolerances that the value depends on, and typed numbers without one. */
function reach(values: DocumentValues, id: string): Pick<Opened, 'toleranced' | 'exact'> {
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
      const shown = values.show(next);
      const { lower, upper, isGeneral } = limits;
      const dimension = shown?.type?.kind === 'quantity' ? shown.type.dimension.key : '';
      const how = { dimension, unit: shown?.unit?.symbol ?? '', ...(isGeneral ? { isGeneral } : {}) };
      toleranced.push({ id: next, name: record.name, nominal: values.sheet.readNumber(next), lower, upper, ...how });
      continue;
    }
    const reads = valuesRead(values, next);
    wave.push(...reads);
    if (record && reads.length === 0) exact.push(record.name);
  }
  return { toleranced: toleranced.reverse(), exact };
}

/** By the formulas alone. */
class FormulaRunner implements Runner {
  readonly way = 'formulas';
  readonly nominal: number;
  readonly contributors: readonly Sloped[];

  constructor(
    private readonly values: DocumentValues,
    private readonly id: string,
    toleranced: readonly Toleranced[],
  ) {
    this.nominal = values.sheet.readNumber(id);
    this.contributors = slopedBy(values, id, toleranced);
  }

  evaluate(amounts: readonly Float64Array[], count: number): Float64Array {
    const set = new Map(this.contributors.flatMap(({ id }, i) => (amounts[i] ? [[id, amounts[i]] as const] : [])));
    return sampleValue(this.values, set, this.id, count);
  }
}

/** By a straight line to either side of each contributor. */
class LineRunner implements Runner {
  readonly way: StackWay;

  /** `lines`: the slopes to the two sides of each, where they are not the same. */
  constructor(
    readonly nominal: number,
    readonly contributors: readonly Sloped[],
    private readonly lines?: readonly { readonly down: number; readonly up: number }[],
    readonly deviations?: Deviations | undefined,
  ) {
    this.way = deviations ? 'differences' : 'slopes';
  }

  evaluate(amounts: readonly Float64Array[], count: number): Float64Array {
    const found = new Float64Array(count).fill(this.nominal);
    this.contributors.forEach(({ nominal: at, sensitivity }, i) => {
      const { down, up } = this.lines?.[i] ?? { down: sensitivity, up: sensitivity };
      amounts[i]?.forEach((amount, k) => {
        found[k] = (found[k] ?? 0) + (amount - at) * (amount < at ? down : up);
      });
    });
    return found;
  }
}

function ofDeviations(deviations: Deviations): Runner {
  const { all, nominal } = deviations;
  const slopes = all.map((one) => slopesOf(one, nominal));
  const contributors = all.map(({ contributor }, i): Sloped => {
    const { path, name, nominal: own, lower, upper, isGeneral } = contributor;
    const { sensitivity = NaN, isCorner = false } = slopes[i] ?? {};
    const of = { id: path, name, nominal: own.value, dimension: own.dimension, unit: own.unit };
    return { ...of, lower, upper, sensitivity, isCorner, ...(isGeneral ? { isGeneral } : {}) };
  });
  return new LineRunner(nominal, contributors, slopes, deviations);
}

/** The slopes to the two sides differ by more of the greater one. */
const CORNER = 0.01;

/** At a corner the steeper side counts, else the mean of both; what is off to one side only has one slope. */
function slopesOf({ contributor: { nominal, lower, upper }, atLower, atUpper }: Deviation, around: number) {
  const [down, up] = [(around - atLower) / (nominal.value - lower), (atUpper - around) / (upper - nominal.value)];
  const mean = upper > lower ? (atUpper - atLower) / (upper - lower) : 0;
  const isBetween = lower < nominal.value && nominal.value < upper;
  const isCorner = isBetween && Math.abs(up - down) > CORNER * Math.max(Math.abs(up), Math.abs(down));
  if (!isBetween) return { sensitivity: mean, isCorner, down: mean, up: mean };
  return { sensitivity: isCorner ? (Math.abs(up) > Math.abs(down) ? up : down) : mean, isCorner, down, up };
}
