/** What is known of a node beyond its number; shared when there is nothing to say. */
import type { Adoption, FormulaDiagnostic, ValueType } from '../formula';
import type { Unit } from '../units';

export interface Finding {
  readonly type: ValueType | undefined;
  readonly diagnostics: readonly FormulaDiagnostic[];
  readonly adopted: readonly Adoption[];
  readonly typedUnit: Unit | undefined;
  readonly isLiteral: boolean;
}

export const NOTHING: Finding = { type: undefined, diagnostics: [], adopted: [], typedUnit: undefined, isLiteral: false };

export function sameFinding(a: Finding, b: Finding): boolean {
  return (
    a.type === b.type &&
    a.isLiteral === b.isLiteral &&
    a.typedUnit === b.typedUnit &&
    sameDiagnostics(a.diagnostics, b.diagnostics) &&
    sameAdoptions(a.adopted, b.adopted)
  );
}

function sameDiagnostics(a: readonly FormulaDiagnostic[], b: readonly FormulaDiagnostic[]): boolean {
  return (
    a === b ||
    (a.length === b.length &&
      a.every((diagnostic, i) => {
        const other = b[i];
        return diagnostic.code === other?.code && diagnostic.message === other.message && diagnostic.from === other.from && diagnostic.to === other.to;
      }))
  );
}

function sameAdoptions(a: readonly Adoption[], b: readonly Adoption[]): boolean {
  return (
    a === b ||
    (a.length === b.length &&
      a.every((adoption, i) => {
        const other = b[i];
        return adoption.unit === other?.unit && adoption.span.from === other.span.from && adoption.span.to === other.span.to;
      }))
  );
}
