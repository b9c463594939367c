/** Judging values from the command line: range runs and goals. */
import { findNamed, listNamed, type Document, type DocumentValues } from '../core/document';
import { openValues, type InstanceSource } from '../core/instances';
import { nameNearest } from '../core/kit';
import { amountIn, amountOf, evenly, findGoal, inSteps, listedAmounts, runMap, runRange, safeRanges, Sampler, type RangeSample } from '../core/studies';
import { quantityType } from '../core/formula';
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

/** `DOC.value=from..to/samples`, `DOC.value=from..to by step` or `DOC.value=one; two; three`; the amounts in internal units, rising. */
export function readRange(documents: readonly Document[], source: InstanceSource, text: string) {
  const listed = /^(?<value>[^=]+)=(?<list>[^=]*;[^=]*)$/.exec(text);
  const match = listed ?? /^(?<value>[^=]+)=(?<from>.+?)\.\.(?<to>.+?)(?:\/(?<count>\d+)|\s+by\s+(?<step>.+))?$/.exec(text);
  const { value = '', from = '', to = '', count = '21', step, list } = match?.groups ?? {};
  if (!match)
    throw new CommandProblem(`"${text}" is no range. Write one as "DOC.value=200 mm..600 mm/21", with "by 50 mm" for steps, or as "DOC.value=12 mm; 15 mm".`);
  const target = findTarget(documents, value);
  const sampler = new Sampler(target.document, [target.id], source);
  if (!sampler.isAmount) throw new CommandProblem(`${target.name} is not an amount: it cannot be run through a range.`);
  const amounts = list === undefined ? betweenEnds(sampler.values, target, { from, to, count, step }) : listedAmounts(sampler.values, target.id, list);
  if (!amounts) throw new CommandProblem(`"${list ?? ''}" lists no amounts of ${target.name}.`);
  if (amounts.length < 2 || amounts.length > MOST_SAMPLES) throw new CommandProblem(`A range has 2 to ${MOST_SAMPLES} samples.`);
  return { target, sampler, low: amounts[0] ?? NaN, high: amounts.at(-1) ?? NaN, amounts };
}

interface Ends {
  readonly from: string;
  readonly to: string;
  readonly count: string;
  readonly step: string | undefined;
}

function betweenEnds(values: DocumentValues, { id, name }: Target, { from, to, count, step }: Ends): number[] {
  const [low, high] = [from, to].map((end) => amountOf(values, id, end));
  if (low === undefined || high === undefined || low >= high) throw new CommandProblem(`The range of ${name} must run from less to more, in amounts of it.`);
  if (step === undefined) return Number(count) > MOST_SAMPLES ? [] : evenly(low, high, Number(count));
  const by = amountOf(values, id, step);
  if (by === undefined || by <= 0) throw new CommandProblem(`"${step}" is no step of ${name}.`);
  return (high - low) / by > MOST_SAMPLES ? [] : inSteps(low, high, by);
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

/** What is read, and whether it is looked for what stands in one another. */
export interface RunWishes {
  readonly of: readonly string[];
  readonly isJudged: boolean;
}

export async function reportRun({ documents, source, client }: Project, range: string, { of, isJudged }: RunWishes): Promise<RunReport> {
  const { target, sampler, amounts } = readRange(documents, source, range);
  const outputs = of.map((text) => findTarget(documents, text, target.document));
  const ids = outputs.map(({ id }) => id);
  const named = ids.filter((id) => id !== MASS);
  const build = buildWith(client, target.document, source, { outputs: named, isJudged });
  const present = openValues(target.document, source);
  const found = await runRange(sampler, amounts, named, build);
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
export async function reportMap({ documents, source, client }: Project, ranges: readonly [string, string], { of, isJudged }: RunWishes): Promise<MapReport> {
  const [first, second] = ranges.map((range) => readRange(documents, source, range)) as [ReturnType<typeof readRange>, ReturnType<typeof readRange>];
  const { document } = first.target;
  if (second.target.document !== document)
    throw new CommandProblem(`${second.target.name} is not a value of ${document.name}: both ranges are of one document.`);
  if (second.target.id === first.target.id) throw new CommandProblem(`Both ranges are of ${first.target.name}.`);
  if (first.amounts.length * second.amounts.length > MOST_SAMPLES) throw new CommandProblem(`Two ranges have ${MOST_SAMPLES} pairs of samples at most.`);
  const outputs = of.map((text) => findTarget(documents, text, document));
  const ids = outputs.map(({ id }) => id);
  const named = ids.filter((id) => id !== MASS);
  const amounts = [first.amounts, second.amounts] as const;
  const sampler = new Sampler(document, [first.target.id, second.target.id], source);
  const found = await runMap(sampler, amounts, named, buildWith(client, document, source, { outputs: named, isJudged }));
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
  const build = buildWith(client, target.document, source, { outputs: ids });
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
