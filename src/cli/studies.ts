/** Judging values from the command line: tolerance stacks, range runs, goals. */
import { findNamed, listNamed, type Document, type DocumentValues } from '../core/document';
import { openValues, type InstanceSource } from '../core/instances';
import { nameNearest } from '../core/kit';
import {
  amountIn,
  amountOf,
  DISTRIBUTIONS,
  evenly,
  evenNumbers,
  fitOf,
  judgeRequired,
  findGoal,
  runMap,
  runRange,
  safeRanges,
  Sampler,
  stackOf,
  type Fit,
  type RangeSample,
  type Stack,
} from '../core/studies';
import { quantityType } from '../core/formula';
import { GENERAL_CLASSES, type GeneralClass } from '../core/tolerance';
import { kindDimension, type Unit } from '../core/units';
import type { RegenerationClient } from '../workers/client';
import { buildWith, MASS } from '../workers/study-build';
import { CommandProblem } from './problem';

/** A value of a document, or the mass of all that is in it. */
interface Target {
  readonly document: Document;
  readonly id: string;
  readonly name: string;
}

/** `Loom sizes.weaving_width`, or `weaving_width` of the document at hand; `mass` is that of everything in it. */
export function findTarget(documents: readonly Document[], text: string, among?: Document): Target {
  const dot = text.lastIndexOf('.');
  const [owner, name] = dot < 0 ? [undefined, text.trim()] : [text.slice(0, dot).trim(), text.slice(dot + 1).trim()];
  const document = owner === undefined ? among : documents.find((one) => one.name === owner || one.id === owner);
  if (!document) {
    const names = documents.map((one) => one.name);
    throw new CommandProblem(`There is no document "${owner ?? ''}".${nameNearest(owner ?? '', names)} There are ${names.join(', ')}.`);
  }
  if (among && document !== among) throw new CommandProblem(`${text} is not a value of ${among.name}: what is read stands in the document whose value is run.`);
  const record = findNamed(document, name);
  if (record) return { document, id: record.id, name };
  if (name === 'mass') return { document, id: MASS, name };
  const known = listNamed(document).map((one) => one.name);
  throw new CommandProblem(`${document.name} has no value ${name}.${nameNearest(name, known)}`);
}

/** The unit that a target is told in. */
export function unitOf(values: DocumentValues, id: string): Unit | undefined {
  if (id === MASS) return values.unitOf(undefined, { type: quantityType(kindDimension('mass')), typedUnit: undefined });
  return values.show(id)?.unit;
}

export function inUnit(values: DocumentValues, id: string, amount: number | undefined): number | null {
  if (amount === undefined || Number.isNaN(amount)) return null;
  return Number((amount / (unitOf(values, id)?.size ?? 1)).toPrecision(12));
}

/** `DOC.value=from..to/samples`; the amounts in internal units. */
export function readRange(documents: readonly Document[], source: InstanceSource, text: string) {
  const match = /^(?<value>[^=]+)=(?<from>.+?)\.\.(?<to>.+?)(?:\/(?<count>\d+))?$/.exec(text);
  const { value = '', from = '', to = '', count = '21' } = match?.groups ?? {};
  if (!match) throw new CommandProblem(`"${text}" is no range. Write one as "DOC.value=200 mm..600 mm/21".`);
  const target = findTarget(documents, value);
  const sampler = new Sampler(target.document, [target.id], source);
  if (!sampler.isAmount) throw new CommandProblem(`${target.name} is not an amount: it cannot be run through a range.`);
  const [low, high] = [from, to].map((end) => amountOf(sampler.values, target.id, end));
  if (low === undefined || high === undefined || low >= high)
    throw new CommandProblem(`The range of ${target.name} must run from less to more, in amounts of it.`);
  const samples = Number(count);
  if (samples < 2 || samples > MOST_SAMPLES) throw new CommandProblem(`A range has 2 to ${MOST_SAMPLES} samples.`);
  return { target, sampler, low, high, samples };
}

const MOST_SAMPLES = 10_000;

export interface RunReport {
  readonly document: string;
  readonly value: string;
  readonly unit: string;
  readonly outputs: readonly { readonly name: string; readonly unit: string }[];
  readonly samples: readonly {
    readonly at: number | null;
    readonly values: readonly (number | null)[];
    readonly problems: readonly string[];
    readonly held: readonly string[];
  }[];
  /** Stretches of samples in which nothing is wrong, in the unit of the value. */
  readonly safe: readonly { readonly from: number | null; readonly to: number | null }[];
}

export interface Project {
  readonly documents: readonly Document[];
  readonly source: InstanceSource;
  readonly client: RegenerationClient;
}

export async function reportRun({ documents, source, client }: Project, range: string, of: readonly string[]): Promise<RunReport> {
  const { target, sampler, low, high, samples: count } = readRange(documents, source, range);
  const outputs = of.map((text) => findTarget(documents, text, target.document));
  const ids = outputs.map(({ id }) => id);
  const named = ids.filter((id) => id !== MASS);
  const build = buildWith(client, target.document, source, named);
  const present = openValues(target.document, source);
  const found = await runRange(sampler, evenly(low, high, count), named, build);
  const at = (amount: number): number | null => inUnit(present, target.id, amount);
  const read = ({ outputs: reached }: RangeSample): (number | null)[] => ids.map((id) => inUnit(present, id, reached[id]));
  return {
    document: target.document.name,
    value: target.name,
    unit: unitOf(present, target.id)?.symbol ?? '',
    outputs: outputs.map(({ id, name }) => ({ name, unit: unitOf(present, id)?.symbol ?? '' })),
    samples: found.map((sample) => ({ at: at(sample.at), values: read(sample), problems: sample.problems, held: sample.held })),
    safe: safeRanges(found).map(({ from, to }) => ({ from: at(from), to: at(to) })),
  };
}

/** A row for each sample, as a spreadsheet reads it. */
export function runCells({ value, unit, outputs, samples }: RunReport): string[][] {
  return cellsOf(
    [{ name: value, unit }, ...outputs],
    samples.map((sample) => ({ ...sample, amounts: [sample.at, ...sample.values] })),
  );
}

interface SampleRow {
  readonly amounts: readonly (number | null)[];
  readonly problems: readonly string[];
  readonly held: readonly string[];
}

function cellsOf(columns: readonly { readonly name: string; readonly unit: string }[], rows: readonly SampleRow[]): string[][] {
  return [
    [...columns.map(({ name, unit }) => (unit === '' ? name : `${name} in ${unit}`)), 'wrong'],
    ...rows.map(({ amounts, problems, held }) => [
      ...amounts.map((amount) => String(amount ?? '')),
      [...problems, ...held.map((name) => `${name} held`)].join('; '),
    ]),
  ];
}

function alignCells(cells: readonly (readonly string[])[]): string[] {
  return cells.map((row) => `  ${row.map((cell) => cell.padStart(20)).join('')}`.trimEnd());
}

export function formatRun(report: RunReport): string {
  const { document, value, unit, safe } = report;
  const told = safe.map(({ from, to }) => `${from ?? '?'} to ${to ?? '?'} ${unit}`.trim());
  return [
    `${document}, ${value}`,
    ...alignCells(runCells(report)),
    told.length === 0 ? 'Something is wrong everywhere.' : `Nothing is wrong from ${told.join(', and from ')}.`,
  ].join('\n');
}

export interface MapReport {
  readonly document: string;
  readonly values: readonly { readonly name: string; readonly unit: string }[];
  readonly outputs: readonly { readonly name: string; readonly unit: string }[];
  readonly samples: readonly {
    /** Of the first and of the second value, in their units. */
    readonly at: readonly (number | null)[];
    readonly values: readonly (number | null)[];
    readonly problems: readonly string[];
    readonly held: readonly string[];
  }[];
}

/** Two values of one document through their ranges, over all pairs of amounts. */
export async function reportMap({ documents, source, client }: Project, ranges: readonly [string, string], of: readonly string[]): Promise<MapReport> {
  const [first, second] = ranges.map((range) => readRange(documents, source, range)) as [ReturnType<typeof readRange>, ReturnType<typeof readRange>];
  const { document } = first.target;
  if (second.target.document !== document)
    throw new CommandProblem(`${second.target.name} is not a value of ${document.name}: both ranges are of one document.`);
  if (second.target.id === first.target.id) throw new CommandProblem(`Both ranges are of ${first.target.name}.`);
  if (first.samples * second.samples > MOST_SAMPLES) throw new CommandProblem(`Two ranges have ${MOST_SAMPLES} pairs of samples at most.`);
  const outputs = of.map((text) => findTarget(documents, text, document));
  const ids = outputs.map(({ id }) => id);
  const named = ids.filter((id) => id !== MASS);
  const amounts = [first, second].map(({ low, high, samples }) => evenly(low, high, samples)) as [number[], number[]];
  const sampler = new Sampler(document, [first.target.id, second.target.id], source);
  const found = await runMap(sampler, amounts, named, buildWith(client, document, source, named));
  const present = openValues(document, source);
  const head = ({ id, name }: Pick<Target, 'id' | 'name'>) => ({ name, unit: unitOf(present, id)?.symbol ?? '' });
  const targets = [first.target, second.target];
  return {
    document: document.name,
    values: targets.map(head),
    outputs: outputs.map(head),
    samples: found.map(({ at, outputs: reached, problems, held }) => ({
      at: targets.map(({ id }, i) => inUnit(present, id, at[i])),
      values: ids.map((id) => inUnit(present, id, reached[id])),
      problems,
      held,
    })),
  };
}

export function mapCells({ values, outputs, samples }: MapReport): string[][] {
  return cellsOf(
    [...values, ...outputs],
    samples.map((sample) => ({ ...sample, amounts: [...sample.at, ...sample.values] })),
  );
}

export function formatMap(report: MapReport): string {
  return [report.document, ...alignCells(mapCells(report))].join('\n');
}

export interface SolveReport {
  readonly goal: string;
  readonly by: string;
  readonly unit: string;
  /** In the unit of the value; null where it is not reached. */
  readonly at: number | null;
  readonly reached: number | null;
  readonly evaluations: number | null;
  /** The nearest that was seen, where it is not reached. */
  readonly nearest: { readonly at: number | null; readonly reached: number | null } | null;
}

/** `goal`: `DOC.mass=2 kg`; `by`: `DOC.value=from..to`. */
export async function reportSolve({ documents, source, client }: Project, goal: string, by: string): Promise<SolveReport> {
  const { target, sampler, low, high } = readRange(documents, source, by);
  const equals = goal.indexOf('=');
  if (equals < 0) throw new CommandProblem(`"${goal}" is no goal. Write one as "DOC.value=2 kg".`);
  const wish = findTarget(documents, goal.slice(0, equals), target.document);
  const present = openValues(target.document, source);
  const text = goal.slice(equals + 1);
  const wanted = wish.id === MASS ? amountIn(present, undefined, text) : amountOf(present, wish.id, text);
  if (wanted === undefined) throw new CommandProblem(`${wish.name} cannot be ${text.trim()}: that is not an amount of its kind.`);
  const ids = wish.id === MASS ? [] : [wish.id];
  const build = buildWith(client, target.document, source, ids);
  const found = await findGoal({ from: low, to: high, present: sampler.present[0] ?? NaN, wanted }, async (at) => {
    const [sample] = await runRange(sampler, [at], ids, build);
    return sample?.outputs[wish.id];
  });
  const told = (place: { readonly at: number; readonly reached: number }) => ({
    at: inUnit(present, target.id, place.at),
    reached: inUnit(present, wish.id, place.reached),
  });
  const base = { goal, by: target.name, unit: unitOf(present, target.id)?.symbol ?? '' };
  if (found.ok) return { ...base, ...told(found.value), evaluations: found.value.evaluations, nearest: null };
  return { ...base, at: null, reached: null, evaluations: null, nearest: found.failure.nearest ? told(found.failure.nearest) : null };
}

export function formatSolve({ goal, by, unit, at, reached, evaluations, nearest }: SolveReport): string {
  if (at !== null) return `${goal}: ${by} = ${at} ${unit} (reaches ${reached ?? '?'}, ${evaluations ?? 0} evaluations)`;
  return `${goal} is not reached.${nearest ? ` The nearest is ${nearest.reached ?? '?'}, at ${by} = ${nearest.at ?? '?'} ${unit}.` : ''}`;
}

export interface StackReport {
  readonly value: string;
  readonly unit: string;
  readonly nominal: number | null;
  readonly contributors: readonly {
    readonly name: string;
    readonly lower: number | null;
    readonly upper: number | null;
    readonly unit: string;
    readonly sensitivity: number;
    readonly pieces: number;
    readonly share: number;
    readonly general: boolean;
  }[];
  readonly worstCase: readonly (number | null)[];
  readonly rootSumSquare: readonly (number | null)[];
  readonly monteCarlo: readonly (number | null)[];
  readonly exact: readonly string[];
  /** Read off the geometry on the way, and not evaluated with the rest. */
  readonly measured: readonly string[];
  /** How a hole and a shaft fit, in the unit of the value; null where the value is nothing of that kind. */
  readonly fit: {
    readonly kind: Fit['kind'];
    readonly least: number | null;
    readonly most: number | null;
    readonly hole: string;
    readonly shaft: string;
    readonly classes: string | null;
  } | null;
  /** How it stands to what is asked of the value; null where nothing is. */
  readonly required: {
    readonly least: number | null;
    readonly most: number | null;
    readonly worstCaseBeyond: number | null;
    readonly rootSumSquareBeyond: number | null;
    /** Shares of all that is made, from 0 to 1: as drawn, and between what it lies at 95 %. */
    readonly outside: number;
    readonly outsideBetween: readonly [number, number];
    readonly cpk: number | null;
  } | null;
}

interface StackWish {
  readonly general: string | undefined;
  readonly distribution: string | undefined;
  /** Names of contributors that are several pieces, with how many: `washer=2`. */
  readonly pieces: readonly string[];
  readonly least: string | undefined;
  readonly most: string | undefined;
  /** Decides what is drawn: the same one, the same figures. */
  readonly seed: number;
}

export function reportStack({ documents, source }: Pick<Project, 'documents' | 'source'>, of: string, wish: StackWish): StackReport {
  const known: GeneralClass | undefined = GENERAL_CLASSES.find((one) => one === wish.general);
  if (wish.general !== undefined && known === undefined)
    throw new CommandProblem(`There is no general class ${wish.general}. There are ${GENERAL_CLASSES.join(', ')}.`);
  const distribution = DISTRIBUTIONS.find((one) => one === (wish.distribution ?? 'even'));
  if (!distribution) throw new CommandProblem(`There is no distribution ${wish.distribution ?? ''}. There are ${DISTRIBUTIONS.join(', ')}.`);
  const { document, id, name } = findTarget(documents, of);
  const pieces = new Map(wish.pieces.map((text) => readPieces(document, text)));
  const stack = stackOf(document, id, source, { random: evenNumbers(wish.seed), general: known, distribution, pieces });
  if (!stack) throw new CommandProblem(`${name} is not a number with a unit.`);
  const values = openValues(document, source);
  const range = ({ lower, upper }: { readonly lower: number; readonly upper: number }) => [inUnit(values, id, lower), inUnit(values, id, upper)];
  return {
    value: name,
    unit: unitOf(values, id)?.symbol ?? '',
    nominal: inUnit(values, id, stack.nominal),
    contributors: stack.contributors.map((one) => ({
      name: one.name,
      lower: inUnit(values, one.id, one.lower),
      upper: inUnit(values, one.id, one.upper),
      unit: unitOf(values, one.id)?.symbol ?? '',
      sensitivity: Number(one.sensitivity.toPrecision(6)),
      share: Number(one.share.toPrecision(6)),
      general: one.isGeneral === true,
      pieces: one.pieces,
    })),
    worstCase: range(stack.worstCase),
    rootSumSquare: range(stack.rootSumSquare),
    monteCarlo: range(stack.drawn),
    exact: stack.exact,
    measured: stack.measured,
    fit: reportFit(values, id, stack),
    required: reportRequired(values, { id, name, stack }, wish),
  };
}

function readPieces(document: Document, text: string): readonly [string, number] {
  const [name = '', count = ''] = text.split('=').map((part) => part.trim());
  const pieces = Number(count);
  if (!Number.isInteger(pieces) || pieces < 1) throw new CommandProblem(`"${text}" says no number of pieces. Write it as "washer=2".`);
  return [findTarget([document], name, document).id, pieces];
}

/** How a hole and a shaft fit, where the value is what is between them. */
function reportFit(values: DocumentValues, id: string, stack: Stack): StackReport['fit'] {
  const fit = fitOf(values, id, stack);
  return fit ? { ...fit, classes: fit.classes ?? null, least: inUnit(values, id, fit.least), most: inUnit(values, id, fit.most) } : null;
}

function reportRequired(
  values: DocumentValues,
  { id, name, stack }: { readonly id: string; readonly name: string; readonly stack: Stack },
  { least, most }: StackWish,
): StackReport['required'] {
  if (least === undefined && most === undefined) return null;
  const read = (text: string | undefined): number | undefined => {
    const amount = text === undefined ? undefined : amountOf(values, id, text);
    if (text !== undefined && amount === undefined) throw new CommandProblem(`${name} cannot be ${text.trim()}: that is not an amount of its kind.`);
    return amount;
  };
  const [lower, upper] = [read(least), read(most)];
  const { worstCase, rootSumSquare, outside, outsideBetween, cpk } = judgeRequired(stack, { lower, upper });
  return {
    least: lower === undefined ? null : inUnit(values, id, lower),
    most: upper === undefined ? null : inUnit(values, id, upper),
    worstCaseBeyond: inUnit(values, id, worstCase),
    rootSumSquareBeyond: inUnit(values, id, rootSumSquare),
    outside: Number(outside.toPrecision(6)),
    outsideBetween: [Number(outsideBetween.lower.toPrecision(6)), Number(outsideBetween.upper.toPrecision(6))],
    cpk: Number.isFinite(cpk) ? Number(cpk.toPrecision(6)) : null,
  };
}

export function formatStack({ value, unit, nominal, contributors, worstCase, rootSumSquare, monteCarlo, exact, measured, fit, required }: StackReport): string {
  const beyond = (by: number | null): string => (by === 0 ? 'within the limits' : `${by ?? '?'} ${unit} beyond the limits`);
  const range = ([lower, upper]: readonly (number | null)[]): string => `${lower ?? '?'} to ${upper ?? '?'} ${unit}`.trim();
  return [
    `${value} = ${nominal ?? '?'} ${unit}`.trim(),
    ...contributors.map(
      (one) =>
        `  ${one.name}: ${one.lower ?? '?'} to ${one.upper ?? '?'} ${one.unit}${one.general ? ', general' : ''}, × ${one.sensitivity}, ${Math.round(one.share * 100)} %`,
    ),
    `worst case: ${range(worstCase)}${required ? `, ${beyond(required.worstCaseBeyond)}` : ''}`,
    ...(fit
      ? [`${fit.classes === null ? '' : `${fit.classes}, `}${fit.kind} fit of ${fit.shaft} in ${fit.hole}: ${fit.least ?? '?'} to ${fit.most ?? '?'} ${unit}`]
      : []),
    `root sum square: ${range(rootSumSquare)}${required ? `, ${beyond(required.rootSumSquareBeyond)}` : ''}`,
    `Monte Carlo: ${range(monteCarlo)}`,
    ...(required ? [`out of limits: ${Number((required.outside * 100).toPrecision(3))} %, Cpk ${required.cpk?.toFixed(2) ?? 'without limit'}`] : []),
    ...(exact.length > 0 ? [`exact: ${exact.join(', ')}`] : []),
    ...(measured.length > 0 ? [`read off the geometry, and not varied: ${measured.join(', ')}`] : []),
  ].join('\n');
}
