/**
 * What a formula may read: the names of its document, the units its bare numbers take, its tables. And
 * what is expected of its result: a {@link Slot}.
 */
import type { Dimension, Unit, UnitSystem } from '../units';
import type { ValueType } from './value-type';

export interface Scope {
  readonly units: UnitSystem;
  /** The meaning of a name, or undefined if the document has none of that name. */
  readonly resolve: (name: string, member: string | undefined) => Meaning | undefined;
  /** The name of the value whose formula is judged: in its own formula it is no reading of a unit. */
  readonly ownName?: string;
  /** For suggestions. */
  readonly listNames: () => Iterable<string>;
}

export type Meaning =
  | { readonly kind: 'value'; readonly slot: number; readonly type: ValueType }
  /** The value exists but has no type: `problem` says what it waits for, to whoever reads it. */
  | { readonly kind: 'waiting'; readonly problem: string; readonly slot: number }
  | { readonly kind: 'table'; readonly table: LookupTable };

/** A table for `lookup` and `interp`; the first column holds the keys. */
export interface LookupTable {
  readonly name: string;
  readonly columns: readonly LookupColumn[];
}

export interface LookupColumn {
  readonly name: string;
  readonly type: ValueType;
  /** Internal base units, or text numbers; one per row. */
  readonly cells: readonly number[];
}

export type Slot =
  | { readonly kind: 'any' }
  | { readonly kind: 'yes-no'; readonly label: string }
  | { readonly kind: 'text'; readonly label: string }
  | {
      readonly kind: 'quantity';
      readonly dimension: Dimension;
      /** Whether the value must be whole. */
      readonly isCount: boolean;
      /** The words for the slot in messages: `the depth`. */
      readonly label: string;
      /** What bare numbers of this dimension are read in, in place of the unit of the document. */
      readonly bareUnit?: Unit;
    };

export const ANY_SLOT: Slot = { kind: 'any' };
