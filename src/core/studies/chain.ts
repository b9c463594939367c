/** A stack as a chain: each contributor a stretch as long as it counts, one after the other, to where the value ends. */
import type { DocumentValues } from '../document';
import type { Stack } from './stack';

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
  const isLike = (id: string): boolean => {
    const type = values.sheet.read(id)?.type;
    return own?.kind === 'quantity' && type?.kind === 'quantity' && type.dimension === own.dimension;
  };
  if (contributors.length === 0 || contributors.some(({ id, isCorner, sensitivity }) => !isLike(id) || isCorner || !Number.isFinite(sensitivity)))
    return undefined;
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
