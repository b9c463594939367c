/**
 * A network of named values, compiled: everything that holds whatever the numbers are. Immutable: an edit makes another program, which shares
 * what did not change. What varies is a state, the array of the numbers; see `evaluate`.
 *
 * Vocabulary: a value's *index* names it within a program and those made from it by edits; its *place* is where its number lies in a state;
 * its *rank* is its position in the order of evaluation.
 */
import { compileFormula, fullName, readFormula, type LookupTable, type ParsedFormula, type TypedNode } from '../formula';
import type { UnitSystem } from '../units';
import type { Entry } from './entry';
import { meaningOf } from './meaning';
import { hasRules } from './rules';

/** Integers for each rank: code from, code to (0 for a value that needs more than its code run), place, first reader. */
export const STRIDE = 4;

export interface Program {
  /** What bare numbers are read in. */
  readonly units: UnitSystem;
  /** By index; undefined where a value was removed. */
  readonly entries: readonly (Entry | undefined)[];
  /** Indexes by rank: what a value reads stands before it. */
  readonly order: Int32Array;
  /** Ranks by index. */
  readonly rankOf: Int32Array;
  /** {@link STRIDE} integers for each rank, and one rank more that ends the last list of readers. */
  readonly rows: Int32Array;
  /** Ranks of readers, one value's after another's. */
  readonly readers: Int32Array;
  /** Register code; only what the rows point to belongs to this program. */
  readonly code: Int32Array;
  readonly tables: readonly LookupTable[];
  /** By place: constants, and the numbers of values that stand for themselves. */
  readonly given: Float64Array;
  /** How many places there are; what lies behind them is room. */
  readonly places: number;
}

/** Whether nothing but its code has to be run for its number. */
export function isPlain({ how, definition }: Entry): boolean {
  return how === 'run' && definition.kind === 'formula' && !hasRules(definition);
}

/** Writes what a walk over ranks has to know of one value. */
export function writeRow(rows: Int32Array, rank: number, entry: Entry): void {
  const runs = isPlain(entry);
  rows[rank * STRIDE] = runs ? entry.codeFrom : 0;
  rows[rank * STRIDE + 1] = runs ? entry.codeTo : 0;
  rows[rank * STRIDE + 2] = entry.place;
}

/** The formula of a value as the program compiled it, by names of what it reads alone: undefined for one that does not compile. */
export function typedFormula(program: Program, index: number): { readonly typed: TypedNode; readonly names: NamesIn } | undefined {
  const entry = program.entries[index];
  if (entry?.definition.kind !== 'formula') return undefined;
  const { text, slot, name, typedFor, units } = entry.definition;
  const meant = new Map<string, Entry>();
  for (const read of [index, ...entry.reads]) {
    const other = program.entries[read];
    if (other) meant.set(other.definition.name, other);
  }
  const parsed = readFormula(text, (word) => meant.has(word));
  if (!parsed.ok) return undefined;
  const result = compileFormula(
    text,
    parsed.node,
    {
      units: units ?? program.units,
      ownName: typedFor ?? name,
      listNames: () => [],
      resolve: (word, member) => {
        const other = meant.get(fullName({ name: word, member }));
        return other && meaningOf(other);
      },
    },
    slot,
  );
  return result.ok ? { typed: result.compiled.typed, names: parsed.names } : undefined;
}

export type NamesIn = Extract<ParsedFormula, { readonly ok: true }>['names'];
