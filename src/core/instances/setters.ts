/** Components without a place: what they set for all that takes it from their documents. */
import { listRecords, stableJson, type Component } from '../document';
import type { SetAbove } from './drive-document';
import type { InstanceSource } from './source';

/** A component that sets values for others, and what it sets. */
export interface Setter {
  readonly component: Component;
  readonly set: SetAbove;
}

/** In the order in which values are handed on: a source before the documents that take from it. */
export function inTakingOrder(placeless: readonly Component[], source: Pick<InstanceSource, 'snapshot'>): Component[] {
  const left = new Map(placeless.map((component) => [component.source, component]));
  const ordered: Component[] = [];
  const visit = (component: Component): void => {
    if (!left.delete(component.source)) return;
    const snapshot = source.snapshot(component.source, component.revision);
    for (const link of snapshot ? listRecords(snapshot, 'links', 'link') : []) {
      const from = left.get(link.source);
      if (from) visit(from);
    }
    ordered.push(component);
  };
  for (const component of placeless) visit(component);
  // Several of one document come in their own order.
  const known = new Set(ordered);
  return [...ordered, ...placeless.filter((component) => !known.has(component))];
}

export function keyOfAbove(above: readonly Setter[]): string {
  return above.length === 0 ? '' : stableJson(above.map(({ set }) => ({ ...set, values: Object.fromEntries(set.values) })));
}
