/** What the names in a formula mean among the values of a sheet. */
import { fullName, type ParsedFormula } from '../formula';
import type { FormulaDefinition } from './definition';
import type { NameTable } from './name-table';

export interface NamesRead {
  readonly reads: readonly number[];
  /** Values called like a unit that the formula uses: it would read them, were they of that unit's kind. */
  readonly unitNames: readonly number[];
}

/**
 * Names that nothing has are noted, so that the formula is looked at again when one of them appears; `find` gives the value of a
 * name, also one that only now enters the sheet.
 */
export function readNames(
  index: number,
  { name: own, typedFor }: FormulaDefinition,
  parsed: ParsedFormula,
  names: NameTable,
  find: (name: string) => number | undefined,
): NamesRead {
  if (!parsed.ok) {
    names.noteUnparsed(index);
    return { reads: [], unitNames: [] };
  }
  const reads = parsed.names.flatMap((node) => {
    const name = fullName(node);
    const found = find(name);
    if (found === undefined) names.noteMissing(name, index);
    return found ?? [];
  });
  // Its own name is no reading of a unit in it: `m = 2 m` is two metres.
  const unitNames = parsed.unitWords.flatMap((word) => (word === (typedFor ?? own) ? [] : (names.find(word) ?? [])));
  return { reads, unitNames: unitNames.filter((other) => !reads.includes(other)) };
}
