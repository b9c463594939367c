/** The values that a document hands to others: what a revision publishes. */
import { findRecord, type Document, type DocumentValues, type TakenValue } from '../document';

/** Every value by id, as it would be taken. What is offered can be linked; the rest is kept for compare. */
export function publishValues(values: DocumentValues): Record<string, TakenValue> {
  const published: Record<string, TakenValue> = {};
  for (const record of Object.values(values.document.records)) {
    if (record.type === 'parameter' || record.type === 'take') published[record.id] = values.handOver(record.id);
  }
  return published;
}

/** Whether other documents may link that value: offered parameters, and values passed on. */
export function isOffered(document: Document, id: string): boolean {
  return findRecord(document, id, 'parameter')?.offered === true;
}
