/** Tolerances that are made tighter, so that what is required of a value is met. */
import { findRecord, type Basis, type DocumentValues, type Edit, type Tolerance } from '@/core/document';
import { cheapestToMeet, factorToMeet, type Contributor, type Required, type Stack } from '@/core/studies';
import { inUnit, prettyUnit } from '@/core/units';

/** Nobody makes a part to less than this share of a tolerance that was thought right. */
const LEAST_FACTOR = 0.05;

/** A tolerance that takes the place of another, and how it is written. */
export interface Tightened {
  readonly edit: Extract<Edit, { readonly type: 'parameter.update' }>;
  readonly text: string;
}

/**
 * A contributor with a part of its tolerance, rounded down to two figures; undefined for limits and classes of fit, which are chosen rather than
 * computed, and for values of other documents.
 */
export function tighten(values: DocumentValues, { id, nominal, lower, upper, isGeneral }: Contributor, factor: number): Tightened | undefined {
  const parameter = findRecord(values.document, id, 'parameter');
  const unit = values.show(id)?.unit;
  const kind = parameter?.tolerance?.kind ?? (isGeneral === true ? 'symmetric' : undefined);
  if (!parameter || !unit || (kind !== 'symmetric' && kind !== 'deviations')) return undefined;
  const write = (deviation: number): string => `${towardsZero(inUnit(deviation * factor, unit))} ${unit.symbol}`.trim();
  const [above, below] = [write(upper - nominal), write(lower - nominal)];
  const tolerance: Tolerance = kind === 'symmetric' ? { kind, by: { text: above } } : { kind, upper: { text: above }, lower: { text: below } };
  const signed = (text: string): string => (text.startsWith('-') ? text.replace('-', '−') : `+${text}`);
  return {
    edit: { type: 'parameter.update', id, changes: { tolerance } },
    text: prettyUnit(kind === 'symmetric' ? `±${above}` : `${signed(above)} ${signed(below)}`),
  };
}

/** To two figures, never further from 0. */
function towardsZero(amount: number): number {
  if (amount === 0) return 0;
  const step = 10 ** (Math.floor(Math.log10(Math.abs(amount))) - 1);
  // A hair more, so that what is a whole number of steps stays one.
  return Number((Math.trunc((amount / step) * (1 + 1e-9)) * step).toPrecision(2));
}

/** What one contributor alone would have to be for the requirement to be met; undefined where it is met, or that one cannot do it. */
export function tightenOne(values: DocumentValues, stack: Stack, one: Contributor, required: Required, basis: Basis): Tightened | undefined {
  const factor = factorToMeet(stack, [one.id], required, basis);
  return isWorth(factor) ? tighten(values, one, factor) : undefined;
}

function isWorth(factor: number | undefined): factor is number {
  return factor !== undefined && factor < 1 && factor >= LEAST_FACTOR;
}

export interface TightenedAll {
  /** Of what they are, rounded down. */
  readonly percent: number;
  readonly edit: Edit;
}

/** All that can be tightened by one factor; undefined where nothing has to be, or all together cannot do it. */
export function tightenAll(values: DocumentValues, stack: Stack, required: Required, basis: Basis): TightenedAll | undefined {
  const able = ableToTighten(values, stack);
  const ids = able.map(({ id }) => id);
  const factor = factorToMeet(stack, ids, required, basis);
  if (!isWorth(factor)) return undefined;
  const edits = able.flatMap((one) => tighten(values, one, factor)?.edit ?? []);
  return { percent: Math.floor(factor * 100), edit: { type: 'batch', edits } };
}

export interface TightenedCheaply {
  /** What becomes of whom: `shaft ±0.1 mm`. */
  readonly texts: readonly string[];
  readonly edit: Edit;
}

/** As little as it costs by what each is said to cost; undefined where nothing has to be, or all together cannot do it. */
export function tightenCheaply(values: DocumentValues, stack: Stack, required: Required, basis: Basis): TightenedCheaply | undefined {
  const ids = ableToTighten(values, stack).map(({ id }) => id);
  const factors = cheapestToMeet(stack, ids, required, basis);
  const tightened = stack.contributors.flatMap((one) => {
    const factor = factors?.get(one.id);
    const done = isWorth(factor) ? tighten(values, one, factor) : undefined;
    return done ? [{ text: `${one.name} ${done.text}`, edit: done.edit }] : [];
  });
  const isTooTight = [...(factors?.values() ?? [])].some((factor) => factor < LEAST_FACTOR);
  if (isTooTight || tightened.length === 0) return undefined;
  return { texts: tightened.map(({ text }) => text), edit: { type: 'batch', edits: tightened.map(({ edit }) => edit) } };
}

function ableToTighten(values: DocumentValues, stack: Stack): readonly Contributor[] {
  return stack.contributors.filter((one) => tighten(values, one, 0.5) !== undefined);
}
