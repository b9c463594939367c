/** One value of a program, by its dense index: what is known of it whatever the numbers are. Never changed: an edit puts another in its place. */
import type { Definition } from './definition';
import { NOTHING, type Finding } from './finding';

export const NO_READS: readonly number[] = [];

/**
 * Why a value has no number, for those who read it: the value that is wrong in itself, by its name; or what was said of it in the document
 * that it comes from.
 */
export type Cause = { readonly root: string } | { readonly passedOn: string };

/**
 * How its number comes about: its code is run; it stands for itself, as a typed number or an input does; or it has none, whatever the others
 * are.
 */
export type How = 'run' | 'given' | 'refused';

export interface Entry {
  readonly id: string;
  readonly definition: Definition;
  /** Where its number lies in a state. */
  readonly place: number;
  /** Indexes of the values that it reads, without repeats. */
  readonly reads: readonly number[];
  /** Those of `reads` that it only might mean: values called like a unit that it uses. */
  readonly unitNames: readonly number[];
  readonly codeFrom: number;
  readonly codeTo: number;
  readonly how: How;
  /** What holds whatever the numbers are: its type, what is wrong with its formula. */
  readonly finding: Finding;
  /** What its readers wait for, where that is not the value itself. */
  readonly cause: Cause | undefined;
  /** A closed path through it, shared by the values on it, and its place on it. */
  readonly cycle: { readonly path: readonly number[]; readonly at: number } | undefined;
}

/** A value of which nothing is known yet but where its number lies. */
export function makeEntry(id: string, definition: Definition, place: number): Entry {
  return {
    id,
    definition,
    place,
    reads: NO_READS,
    unitNames: NO_READS,
    codeFrom: 0,
    codeTo: 0,
    how: 'refused',
    finding: NOTHING,
    cause: undefined,
    cycle: undefined,
  };
}

/** What those who read the value wait for, where it has no number by its definition alone. */
export function causeOf(entry: Entry): Cause {
  return entry.cause ?? { root: entry.definition.name };
}

export function sameCause(a: Cause | undefined, b: Cause | undefined): boolean {
  if (a === undefined || b === undefined) return a === b;
  return 'root' in a ? 'root' in b && a.root === b.root : 'passedOn' in b && a.passedOn === b.passedOn;
}

/** The words for it. */
export function tellCause(cause: Cause): string {
  return 'root' in cause ? `Waiting on ${cause.root}.` : cause.passedOn;
}
