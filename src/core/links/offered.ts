/** The values that a document hands to others: what a revision publishes. */
import type { DocumentValues, TakenValue } from '../document';

/** Every value by id, as it would be taken. What is offered can be linked; the rest is kept for compare. */
export function publishValues(values: DocumentValues): Record<string, TakenValue> {
  const published: Record<string, TakenValue> = {};
  for (const record of Object.values(values.document.records)) {
    if (record.type === 'parameter' || record.type === 'take') published[record.id] = values.handOver(record.id);
  }
  return published;
}
