/** The values that a document hands to others: what a revision publishes. */
import { isNamed, limitsOf, type Document, type DocumentValues, type MeasuredValue, type TakenValue } from '../document';
import { openValues, type InstanceSource } from '../instances';

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
    // What a part measures on one that it starts from is told with it, for those that have no kernel.
    if (record.type !== 'from-part') continue;
    for (const [id, measured] of Object.entries(values.components?.measuredOf(record.component) ?? {}))
      if ('value' in measured) published[`${record.component}>${id}`] = { kind: 'quantity', dimension: '', value: measured.value, unit: '' };
  }
  return published;
}

/** Of documents without components. */
const NO_INSTANCES: InstanceSource = { snapshot: () => undefined, built: () => undefined };

/**
 * The values of a document where no kernel is at hand: what is read off its geometry is what it last published.
 * Once the geometry has been built, what it measures takes its place.
 */
export function valuesAsPublished(document: Document, published: Readonly<Record<string, TakenValue>>, source: InstanceSource = NO_INSTANCES): DocumentValues {
  const values = openValues(document, source);
  const known: Record<string, MeasuredValue> = {};
  for (const [id, value] of Object.entries(published)) {
    if (value.kind === 'quantity' && (id.includes('>') || values.isOfGeometry(id))) known[id] = { value: value.value };
  }
  values.setMeasured(known);
  return values;
}
