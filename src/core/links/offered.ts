/** The values that a document hands to others: what a revision publishes. */
import { DocumentValues, isNamed, type Document, type MeasuredValue, type TakenValue } from '../document';

/** Every value by id, as it would be taken. What is offered can be linked; the rest is kept for compare. */
export function publishValues(values: DocumentValues): Record<string, TakenValue> {
  const published: Record<string, TakenValue> = {};
  for (const record of Object.values(values.document.records)) {
    if (isNamed(record)) published[record.id] = values.handOver(record.id);
  }
  return published;
}

/**
 * The values of a document where no kernel is at hand: what is read off its geometry is what it last published.
 * Once the geometry has been built, what it measures takes its place.
 */
export function valuesAsPublished(document: Document, published: Readonly<Record<string, TakenValue>>): DocumentValues {
  const values = new DocumentValues(document);
  const known: Record<string, MeasuredValue> = {};
  for (const [id, value] of Object.entries(published)) {
    if (value.kind === 'quantity' && values.isMeasured(id)) known[id] = { value: value.value };
  }
  values.setMeasured(known);
  return values;
}
