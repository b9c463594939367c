/** A stack as a chain: each contributor a stretch as long as it counts, one after the other, to where the value ends. */
import type { DocumentValues } from '../document';
import type { Contributor, Stack } from './stack';

export interface ChainLink {
  /** Undefined for what has no tolerance, all together. */
  readonly id: string | undefined;
  readonly name: string;
  /** Where it begins and ends, in internal units, from where the chain begins. */
  readonly from: number;
  readonly to: number;
}

/** Of the whole: no longer stretch is left over by computing. */
const LOST = 1e-9;

/**
 * The chain of a value, those that add before those that take away; undefined where a contributor is of another kind than the value, or bends, so that no
 * stretches add up to it.
 */
export function chainOf(values: DocumentValues, of: string, { nominal, contributors }: Stack): ChainLink[] | undefined {
  const own = values.sheet.read(of)?.type;
  const isLike = (one: Contributor): boolean => own?.kind === 'quantity' && one.dimension === own.dimension.key;
  if (contributors.length === 0 || contributors.some((one) => !isLike(one) || one.isCorner || !Number.isFinite(one.sensitivity))) return undefined;
  const stretches = contributors.map(({ id, name, nominal: amount, sensitivity }) => ({ id, name, length: sensitivity * amount }));
  const rest = nominal - stretches.reduce((sum, { length }) => sum + length, 0);
  const scale = Math.max(Math.abs(nominal), ...stretches.map(({ length }) => Math.abs(length)));
  const all = [...stretches, ...(Math.abs(rest) > scale * LOST ? [{ id: undefined, name: 'without a tolerance', length: rest }] : [])];
  let at = 0;
  return [...all.filter(({ length }) => length >= 0), ...all.filter(({ length }) => length < 0)].map(({ id, name, length }) => {
    const from = at;
    at += length;
    return { id, name, from, to: at };
  });
}
