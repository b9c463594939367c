/** Tolerance stacks from the command line. */
import {
  BASES,
  DISTRIBUTIONS,
  findRecord,
  type Basis,
  type ContributorReading,
  type Distribution,
  type Document,
  type DocumentValues,
  type StackReading,
} from '../core/document';
import { openValues } from '../core/instances';
import {
  amountOf,
  askedTexts,
  cheapestToMeet,
  evenNumbers,
  fitOf,
  judgedDocument,
  judgeRequired,
  needsGeometry,
  stackOf,
  type Fit,
  type Required,
  type Stack,
} from '../core/studies';
import { slopesOfReading } from '../core/steps';
import type { RegenerationClient } from '../workers/client';
import { buildDeviations } from '../workers/stack-build';
import { GENERAL_CLASSES } from '../core/tolerance';
import { parseUnit } from '../core/units';
import { CommandProblem } from './problem';
import { findTarget, inUnit, unitOf, type Project } from './studies';
import { MILLIMETRE } from '@/core/units';

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
    readonly distribution: Distribution;
    readonly cost: number;
    readonly share: number;
    readonly general: boolean;
  }[];
  readonly worstCase: readonly (number | null)[];
  readonly rootSumSquare: readonly (number | null)[];
  readonly monteCarlo: readonly (number | null)[];
  readonly exact: readonly string[];
  /** How sensitivities were found: exact slopes of formulas, and of sketches, or differences over the tolerances. */
  readonly way: Stack['way'];
  /** Values with tolerances that cannot be off by themselves, and why. */
  readonly stuck: Stack['stuck'];
  /** By how much mates that hold something a second time are off at the worst: millimetres, or degrees. */
  readonly misfits: readonly { readonly mate: string; readonly amount: number; readonly unit: 'mm' | 'deg' }[];
  /** Components that can still move, and take the value with them: nothing is told of its tolerances then. */
  readonly free: readonly string[];
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
    readonly judgedBy: Basis;
    readonly isMet: boolean;
    /** Limits of contributors that would meet it at least cost, in their own units; empty where it is met, null where no tolerances do. */
    readonly tighten: readonly { readonly name: string; readonly lower: number | null; readonly upper: number | null; readonly unit: string }[] | null;
  } | null;
}

export interface StackWish {
  readonly general: string | undefined;
  /** Of all contributors, or of one: `normal`, `washer=triangular`. */
  readonly distribution: readonly string[];
  /** Names of contributors that are several pieces, with how many: `washer=2`. */
  readonly pieces: readonly string[];
  /** Names of contributors with what they cost beside the others: `bore=4`. */
  readonly cost: readonly string[];
  readonly judgedBy: string | undefined;
  readonly least: string | undefined;
  readonly most: string | undefined;
  /** How often it is drawn; undefined for as often as in the page. */
  readonly samples: string | undefined;
  /** Decides what is drawn: the same one, the same figures. */
  readonly seed: number;
}

/** More are held in no memory. */
const MOST_DRAWS = 1_000_000;

type StackProject = Pick<Project, 'documents' | 'source'> & {
  /** Opened where something has to be built. */
  readonly openClient: () => Promise<RegenerationClient>;
};

export async function reportStack({ documents, source, openClient }: StackProject, of: string, wish: StackWish): Promise<StackReport> {
  const general = wish.general === undefined ? undefined : oneOf(GENERAL_CLASSES, wish.general, 'general class');
  const { document, id, name } = findTarget(documents, of);
  const record = findRecord(document, id, 'parameter');
  const reading = readingOf(document, record?.stack ?? {}, wish);
  const deviations = needsGeometry(document, id, source, { general, slopesOfReading })
    ? await buildDeviations(await openClient(), { document: judgedDocument(document, id, general), id, source })
    : undefined;
  const stack = stackOf(document, id, source, {
    random: evenNumbers(wish.seed),
    draws: readDraws(wish.samples),
    general,
    reading,
    deviations,
    slopesOfReading,
  });
  if (!stack) throw new CommandProblem(deviations?.problem ? `${name} has no value: ${deviations.problem}` : `${name} is not a number with a unit.`);
  const values = openValues(document, source);
  const range = ({ lower, upper }: { readonly lower: number; readonly upper: number }) => [inUnit(values, id, lower), inUnit(values, id, upper)];
  return {
    value: name,
    unit: unitOf(values, id)?.symbol ?? '',
    nominal: inUnit(values, id, stack.nominal),
    contributors: stack.contributors.map((one) => ({
      name: one.name,
      lower: inOwnUnit(one, one.lower),
      upper: inOwnUnit(one, one.upper),
      unit: one.unit,
      sensitivity: Number(one.sensitivity.toPrecision(6)),
      share: Number(one.share.toPrecision(6)),
      general: one.isGeneral === true,
      pieces: one.pieces,
      distribution: one.distribution,
      cost: one.cost,
    })),
    worstCase: range(stack.worstCase),
    rootSumSquare: range(stack.rootSumSquare),
    monteCarlo: range(stack.drawn),
    exact: stack.exact,
    way: stack.way,
    stuck: stack.stuck,
    misfits: stack.misfits.map(({ mate, amount, isLength }) => ({
      mate,
      amount: Number((isLength ? amount / MILLIMETRE : amount).toPrecision(6)),
      unit: isLength ? ('mm' as const) : ('deg' as const),
    })),
    free: stack.free,
    fit: reportFit(values, id, stack),
    required: reportRequired(values, { id, name, stack, reading }, wish),
  };
}

/** What is kept with the value, and in its place what is wished for. */
function readingOf(document: Document, kept: StackReading, wish: StackWish): StackReading {
  const contributors: Record<string, ContributorReading> = { ...kept.contributors };
  const put = (text: string, read: (amount: string) => ContributorReading): void => {
    const [name = '', amount = ''] = text.split('=').map((part) => part.trim());
    const { id } = findTarget([document], name, document);
    contributors[id] = { ...contributors[id], ...read(amount) };
  };
  for (const text of wish.pieces) put(text, (amount) => readPieces(text, amount));
  for (const text of wish.cost) put(text, (amount) => ({ cost: readCost(text, amount) }));
  let { distribution } = kept;
  for (const text of wish.distribution) {
    if (text.includes('=')) put(text, (amount) => ({ distribution: oneOf(DISTRIBUTIONS, amount, 'distribution') }));
    else distribution = oneOf(DISTRIBUTIONS, text, 'distribution');
  }
  const basis = wish.judgedBy === undefined ? kept.basis : oneOf(BASES, wish.judgedBy, 'way of adding up');
  return { ...kept, contributors, ...(distribution ? { distribution } : {}), ...(basis ? { basis } : {}) };
}

function readDraws(text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  const draws = Number(text);
  if (!Number.isInteger(draws) || draws < 1_000 || draws > MOST_DRAWS)
    throw new CommandProblem(`--samples is a whole number from 1000 to ${MOST_DRAWS}, not ${text}.`);
  return draws;
}

function oneOf<T extends string>(known: readonly T[], text: string, what: string): T {
  const found = known.find((one) => one === text);
  if (found === undefined) throw new CommandProblem(`There is no ${what} ${text}. There are ${known.join(', ')}.`);
  return found;
}

function readPieces(text: string, count: string): ContributorReading {
  const pieces = Number(count);
  if (!Number.isInteger(pieces) || pieces < 1) throw new CommandProblem(`"${text}" says no number of pieces. Write it as "washer=2".`);
  return { pieces };
}

function readCost(text: string, amount: string): number {
  const cost = Number(amount);
  if (!(cost > 0 && cost <= 1e6)) throw new CommandProblem(`"${text}" says no cost. Write it as "bore=4": four times as dear to hold as another.`);
  return cost;
}

/** How a hole and a shaft fit, where the value is what is between them. */
function reportFit(values: DocumentValues, id: string, stack: Stack): StackReport['fit'] {
  const fit = fitOf(values, id, stack);
  return fit ? { ...fit, classes: fit.classes ?? null, least: inUnit(values, id, fit.least), most: inUnit(values, id, fit.most) } : null;
}

function reportRequired(
  values: DocumentValues,
  { id, name, stack, reading }: { readonly id: string; readonly name: string; readonly stack: Stack; readonly reading: StackReading },
  wish: StackWish,
): StackReport['required'] {
  const read = (text: string | undefined): number | undefined => {
    if (text === undefined || text === '') return undefined;
    const amount = amountOf(values, id, text);
    if (amount === undefined) throw new CommandProblem(`${name} cannot be ${text.trim()}: that is not an amount of its kind.`);
    return amount;
  };
  const asked = askedTexts(values.document, id, reading);
  const required: Required = { lower: read(wish.least ?? asked.atLeast), upper: read(wish.most ?? asked.atMost) };
  if (required.lower === undefined && required.upper === undefined) return null;
  const { worstCase, rootSumSquare, outside, outsideBetween, cpk } = judgeRequired(stack, required);
  const basis = reading.basis ?? 'worst-case';
  return {
    least: inUnit(values, id, required.lower),
    most: inUnit(values, id, required.upper),
    worstCaseBeyond: inUnit(values, id, worstCase),
    rootSumSquareBeyond: inUnit(values, id, rootSumSquare),
    outside: Number(outside.toPrecision(6)),
    outsideBetween: [Number(outsideBetween.lower.toPrecision(6)), Number(outsideBetween.upper.toPrecision(6))],
    cpk: Number.isFinite(cpk) ? Number(cpk.toPrecision(6)) : null,
    judgedBy: basis,
    isMet: (basis === 'worst-case' ? worstCase : rootSumSquare) === 0,
    tighten: reportTightening(values, stack, required, basis),
  };
}

function reportTightening(values: DocumentValues, stack: Stack, required: Required, basis: Basis): NonNullable<StackReport['required']>['tighten'] {
  const own = stack.contributors.filter(({ id }) => findRecord(values.document, id, 'parameter')).map(({ id }) => id);
  const factors = cheapestToMeet(stack, own, required, basis);
  if (!factors) return null;
  return stack.contributors.flatMap(({ id, name, nominal, lower, upper, unit }) => {
    const factor = factors.get(id) ?? 1;
    const limit = (end: number): number | null => inOwnUnit({ unit }, nominal + (end - nominal) * factor);
    return factor === 1 ? [] : [{ name, lower: limit(lower), upper: limit(upper), unit }];
  });
}

/** In the unit that a contributor is shown in. */
function inOwnUnit({ unit }: { readonly unit: string }, amount: number): number | null {
  return Number.isNaN(amount) ? null : Number((amount / (parseUnit(unit)?.size ?? 1)).toPrecision(12));
}

export function formatStack(report: StackReport): string {
  const { value, unit, nominal, contributors, worstCase, rootSumSquare, monteCarlo, exact, stuck, misfits, free, fit, required } = report;
  if (free.length > 0) return `${value} = ${nominal ?? '?'} ${unit}\n${free.join(', ')} can still move, and ${value} changes with it. Add mates that hold it.`;
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
    ...(required?.tighten === null ? ['no tolerances are tight enough: change the nominal sizes'] : []),
    ...(required?.tighten ?? []).map((one) => `  tighten ${one.name} to ${one.lower ?? '?'} to ${one.upper ?? '?'} ${one.unit}`),
    ...(exact.length > 0 ? [`exact: ${exact.join(', ')}`] : []),
    ...stuck.map(({ name, problem }) => `${name} cannot be off by itself: ${problem}`),
    ...misfits.map(({ mate, amount, unit: of }) => `${mate} holds what other mates already hold; at worst it is off by ${amount} ${of}`),
  ].join('\n');
}
