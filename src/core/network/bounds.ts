/** The limits that a value has now. */
import type { Entry } from './entry';
import type { Program } from './program';
import type { Bound } from './rules';

/** A limit of a value, which is another of the values that it reads, by its id. */
export function boundOf({ entries }: Pick<Program, 'entries'>, { reads }: Entry, id: string | undefined, numbers: Float64Array): Bound | undefined {
  if (id === undefined) return undefined;
  for (const index of reads) {
    const entry = entries[index];
    if (entry?.id !== id) continue;
    return entry.definition.kind === 'table' ? undefined : { value: numbers[entry.place] ?? NaN, text: entry.definition.text ?? '' };
  }
  return undefined;
}
