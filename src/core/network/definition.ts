/** What a sheet is told of its values, and what it tells of them. */
import type { Adoption, FormulaDiagnostic, LookupTable, Slot, ValueType } from '../formula';
import type { Unit, UnitSystem } from '../units';

/** A value computed by a formula. */
export interface FormulaDefinition {
  readonly kind: 'formula';
  readonly name: string;
  readonly text: string;
  readonly slot: Slot;
  /** Units that bare numbers of this formula take; the sheet's own where not given. */
  readonly units?: UnitSystem;
  /** The name of the value that the formula is typed for, where it is not yet that value's own. */
  readonly typedFor?: string;
  /** Ids of values that bound this one. */
  readonly least?: string;
  readonly most?: string;
  /** The only values allowed, in internal units, with the words for them. */
  readonly choices?: readonly { readonly value: number; readonly text: string }[];
}

/** A value that comes from outside: taken from another document, or measured. */
export interface InputDefinition {
  readonly kind: 'input';
  readonly name: string;
  /** Undefined for a value that is refused where it comes from. */
  readonly type: ValueType | undefined;
  /** Internal units; NaN with a reason in `problem`. */
  readonly value: number;
  readonly problem?: string;
  /** The problem is one of what it depends on: what reads this one says the same, not that it waits on this one. */
  readonly isPassedOn?: boolean;
  readonly unit?: Unit;
  /** It is older than what it was computed from: everything that it reaches is to be told so. */
  readonly isHeld?: boolean;
  /** How it is written where it bounds another value. */
  readonly text?: string;
  /** Ids of values that decide it outside the sheet, as a measured value depends on what its body is built of. */
  readonly reads?: readonly string[];
}

/** A lookup table, read by name. */
export interface TableDefinition {
  readonly kind: 'table';
  readonly name: string;
  readonly table: LookupTable;
}

/** What is read of other documents by a path of names, `rail.length`: a value enters the sheet when a formula first reads it. */
export interface Outside {
  /** The value under that path, or undefined where there is none. */
  readonly supply: (path: string) => { readonly id: string; readonly definition: InputDefinition } | undefined;
  /** The same for one who only looks: nothing has to be kept up to date. */
  readonly peek: (path: string) => { readonly id: string; readonly definition: InputDefinition } | undefined;
  /** For suggestions. */
  readonly listPaths: () => Iterable<string>;
}

export type Definition = FormulaDefinition | InputDefinition | TableDefinition;

/** What is known of a value after {@link Sheet.settle}. */
export interface Reading {
  /** Internal units; 1 and 0 for yes and no; a text's number. NaN when there are diagnostics. */
  readonly value: number;
  /** Undefined when the formula is wrong and nothing says what it should yield. */
  readonly type: ValueType | undefined;
  readonly diagnostics: readonly FormulaDiagnostic[];
  readonly adopted: readonly Adoption[];
  /** The unit typed in the formula that fits the result. */
  readonly typedUnit: Unit | undefined;
  readonly isLiteral: boolean;
}
