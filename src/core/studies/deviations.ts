/**
 * What a value comes to with each of its contributors at its limits, one after the other, all others at their nominals: by whole documents, for what
 * no formula tells alone. Slopes are differences over the whole tolerance: exact where it is straight, the mean slope where it bends.
 */
import type { Document, MeasuredValue } from '../document';
import { openValues, type InstanceSource } from '../instances';
import { listToleranced, withAmounts, type TolerancedValue } from './built-at';
import { dependenceOf } from './depends-on';

/** A mate that would hold a second time what others hold, and does not quite where sizes are off: millimetres or radians, in internal units or degrees. */
export interface Misfit {
  readonly mate: string;
  readonly amount: number;
  readonly isLength: boolean;
}

/** What is read at one state of the document. */
export interface DeviationReading {
  /** In internal units; not a number where it has none. */
  readonly value: number;
  /** Why it has none. */
  readonly problem?: string | undefined;
  readonly misfits?: readonly Misfit[];
  /** Of the nominal state: components that can still move, and take the value with them. */
  readonly free?: readonly string[];
  /** Of the nominal state: how fast the value moves by a contributor, by its path, where that is known exactly; it is not built at its limits then. */
  readonly slopeBy?: (path: string) => number | undefined;
}

export interface Deviation {
  readonly contributor: TolerancedValue;
  /** What the value comes to with it at its lower and at its upper limit. */
  readonly atLower: number;
  readonly atUpper: number;
}

export interface Deviations {
  readonly nominal: number;
  /** Why it has no nominal; nothing else is told then. */
  readonly problem?: string | undefined;
  readonly all: readonly Deviation[];
  /** Contributors that cannot be off by themselves, and why. */
  readonly stuck: readonly { readonly name: string; readonly problem: string }[];
  /** By how much mates are off at most, with all contributors at their worst. */
  readonly misfits: readonly Misfit[];
  /** Components that can still move, and take the value with them: it has no sensitivities then. */
  readonly free: readonly string[];
}

/** A state of the document that is to be read, and how many there are. */
export interface DeviationState {
  readonly document: Document;
  readonly done: number;
  readonly of: number;
}

/** Less of the greatest effect is none: what a kernel measures is no more exact. */
const NO_EFFECT = 1e-6;

/**
 * Gives the states that are to be read, and takes what was read of each; the nominal one comes first. `document` is without what would refuse the
 * value itself.
 */
export function* deviationsOf(
  document: Document,
  id: string,
  source: InstanceSource,
  measured: Readonly<Record<string, MeasuredValue>> = {},
): Generator<DeviationState, Deviations, DeviationReading> {
  const values = openValues(document, source);
  values.setMeasured(measured);
  const depends = dependenceOf(values, id);
  const contributors = listToleranced(document, source, measured).filter(({ path }) => path !== id && depends.has(path));
  const nominals = new Map(contributors.map(({ path, nominal }) => [path, nominal]));
  const of = 2 * contributors.length + 1;
  let done = 0;
  const state = (moved?: { readonly path: string; readonly amount: number }): DeviationState => {
    const own = moved && nominals.get(moved.path);
    return { document: withAmounts(document, own ? new Map(nominals).set(moved.path, { ...own, value: moved.amount }) : nominals), done: done++, of };
  };
  const { value: nominal, problem: noNominal, free = [], slopeBy } = yield state();
  if (free.length > 0 || Number.isNaN(nominal)) return { nominal, problem: noNominal, free, all: [], stuck: [], misfits: [] };
  const all: Deviation[] = [];
  const stuck: { name: string; problem: string }[] = [];
  const misfits = new Map<string, Misfit>();
  for (const contributor of contributors) {
    const { path, name, lower, upper, mayBe } = contributor;
    if (!mayBe(lower) || !mayBe(upper)) {
      stuck.push({ name, problem: 'its own limits or choices do not allow it.' });
      done += 2;
      continue;
    }
    const slope = slopeBy?.(path);
    if (slope !== undefined) {
      const at = (amount: number): number => nominal + slope * (amount - contributor.nominal.value);
      all.push({ contributor, atLower: at(lower), atUpper: at(upper) });
      done += 2;
      continue;
    }
    const ends: DeviationReading[] = [];
    for (const amount of [lower, upper]) ends.push(amount === contributor.nominal.value ? { value: nominal } : yield state({ path, amount }));
    const problem = ends.find(({ value }) => Number.isNaN(value))?.problem;
    if (ends.some(({ value }) => Number.isNaN(value))) stuck.push({ name, problem: problem ?? 'there is no value then.' });
    else all.push({ contributor, atLower: ends[0]?.value ?? NaN, atUpper: ends[1]?.value ?? NaN });
    addMisfits(misfits, ends);
  }
  const effects = all.map(({ atLower, atUpper }) => Math.max(Math.abs(atLower - nominal), Math.abs(atUpper - nominal)));
  const greatest = Math.max(0, ...effects);
  return {
    nominal,
    free,
    all: all.filter((_, i) => (effects[i] ?? 0) > greatest * NO_EFFECT),
    stuck,
    misfits: [...misfits.values()].filter(({ amount, isLength }) => amount > (isLength ? LEAST_MISFIT.length : LEAST_MISFIT.angle)),
  };
}

/** A ten-thousandth of a millimetre; of a degree. */
const LEAST_MISFIT = { length: 1, angle: 1e-4 };

/** One contributor is at one end only: the worse one counts; those of several add up. */
function addMisfits(all: Map<string, Misfit>, ends: readonly DeviationReading[]): void {
  const worse = new Map<string, Misfit>();
  for (const misfit of ends.flatMap((end) => end.misfits ?? [])) {
    if (misfit.amount > (worse.get(misfit.mate)?.amount ?? 0)) worse.set(misfit.mate, misfit);
  }
  for (const [mate, misfit] of worse) all.set(mate, { ...misfit, amount: misfit.amount + (all.get(mate)?.amount ?? 0) });
}

/** By values alone; undefined as soon as `read` gives nothing. */
export function readDeviations(
  states: Generator<DeviationState, Deviations, DeviationReading>,
  read: (document: Document) => DeviationReading | undefined,
): Deviations | undefined {
  let next = states.next();
  while (next.done !== true) {
    const reading = read(next.value.document);
    if (!reading) return undefined;
    next = states.next(reading);
  }
  return next.value;
}

/** Read elsewhere, one after the other; undefined as soon as `read` gives nothing. */
export async function awaitDeviations(
  states: Generator<DeviationState, Deviations, DeviationReading>,
  read: (state: DeviationState) => Promise<DeviationReading | undefined>,
): Promise<Deviations | undefined> {
  let next = states.next();
  while (next.done !== true) {
    const reading = await read(next.value);
    if (!reading) return undefined;
    next = states.next(reading);
  }
  return next.value;
}
