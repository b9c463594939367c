/** The values that a document hands to others: what a revision publishes. */
import { DocumentValues, isNamed, limitsOf, type Document, type MeasuredValue, type TakenValue } from '../document';

/** One value as others take it, with its tolerance. */
export function publishValue(values: DocumentValues, id: string): TakenValue {
  const value = values.handOver(id);
  const limits = value.kind === 'quantity' ? limitsOf(values, id) : undefined;
  if (value.kind !== 'quantity' || !limits || 'problem' in limits) return value;
  return { ...value, tolerance: { upper: limits.upper - value.value, lower: limits.lower - value.value } };
}

/** Every value by id, as it would be taken. What is offered can be linked; the rest is kept for compare. */
export function publishValues(values: DocumentValues): Record<string, TakenValue> {
  const published: Record<string, TakenValue> = {};
  for (const record of Object.values(values.document.records)) {
    if (isNamed(record)) published[record.id] = publishValue(values, record.id);
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
