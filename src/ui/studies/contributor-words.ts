/** Where a contributor stands, in a component too, and how its amounts are written there. */
import { findRecord, type DocumentValues } from '@/core/document';
import type { Contributor } from '@/core/studies';

/** Decimals: a tolerance is smaller than what it is of. */
const DECIMALS = 4;

export function writerOf(values: DocumentValues, contributor: Contributor): (amount: number) => string {
  const { inside, own } = placeOf(values, contributor);
  const shown = inside?.show(own);
  return (amount) => (inside && shown ? inside.words({ ...shown, value: amount }, shown.unit, DECIMALS).shown : '');
}

/** The document of a component that it stands in: it is changed there. Undefined for a value of the document itself. */
export function homeOf(values: DocumentValues, contributor: Contributor): { readonly id: string; readonly name: string } | undefined {
  const { around, path, inside } = placeOf(values, contributor);
  const component = around && findRecord(around.document, path.at(-1) ?? '', 'component');
  return component && inside ? { id: component.source, name: inside.document.name } : undefined;
}

function placeOf(values: DocumentValues, { id }: Contributor) {
  const path = id.split(' ');
  const own = path.pop() ?? '';
  const enter = (ids: readonly string[]) => ids.reduce<DocumentValues | undefined>((at, component) => at?.components?.valuesOf(component), values);
  return { own, path, inside: enter(path), around: enter(path.slice(0, -1)) };
}
