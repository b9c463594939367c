/** What is known of a node beyond its number; shared when there is nothing to say. */
import type { Adoption, FormulaDiagnostic, ValueType } from '../formula';
import type { Unit } from '../units';
import type { InputDefinition } from './definition';

export interface Finding {
  readonly type: ValueType | undefined;
  readonly diagnostics: readonly FormulaDiagnostic[];
  readonly adopted: readonly Adoption[];
  readonly typedUnit: Unit | undefined;
  readonly isLiteral: boolean;
}

export const NOTHING: Finding = { type: undefined, diagnostics: [], adopted: [], typedUnit: undefined, isLiteral: false };

/** What comes from outside has no formula to point into: its problem is said of the whole value. */
export function findingOfInput({ type, problem, unit }: InputDefinition): Finding {
  const diagnostics: FormulaDiagnostic[] = problem === undefined ? [] : [{ code: 'waiting', message: problem, from: 0, to: 0 }];
  return { ...NOTHING, type, diagnostics, typedUnit: unit };
}

const shared = new Map<ValueType | undefined, Finding[]>();

/** One object for all findings that say the same without a word about places: most values have such a one. */
export function shareFinding(finding: Finding): Finding {
  if (finding.adopted.length > 0 || finding.diagnostics.length > 0) return finding;
  const known = shared.get(finding.type) ?? [];
  const same = known.find((other) => other.isLiteral === finding.isLiteral && other.typedUnit === finding.typedUnit);
  if (same) return same;
  if (known.length < 200) shared.set(finding.type, [...known, finding]);
  return finding;
}
