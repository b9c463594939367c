/** What a value means in the formulas that read it. */
import type { Meaning } from '../formula';
import { causeOf, tellCause, type Entry } from './entry';

export function meaningOf(entry: Entry): Meaning {
  const { definition, place, finding } = entry;
  if (definition.kind === 'table') return { kind: 'table', table: definition.table };
  if (finding.type) return { kind: 'value', slot: place, type: finding.type };
  return { kind: 'waiting', slot: place, problem: tellCause(causeOf(entry)) };
}
