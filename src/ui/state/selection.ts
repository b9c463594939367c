/** Which component a selected row is about. */
import { findAny, mateOwners, type Document } from '@/core/document';

/** The component that is selected itself, or a value of which is. */
export function componentOf(document: Document, selected: string | undefined): string | undefined {
  const record = selected === undefined ? undefined : findAny(document, selected);
  if (record?.type === 'component') return record.id;
  return record?.type === 'drive' ? record.component : undefined;
}

/** The components that are shown as selected: the one that is, or both that a mate holds. */
export function litComponents(document: Document, selected: string | undefined): ReadonlySet<string> {
  const record = selected === undefined ? undefined : findAny(document, selected);
  const mate = record?.type === 'parameter' && record.owner !== undefined ? findAny(document, record.owner) : record;
  if (mate?.type === 'mate') return new Set(mateOwners(mate).flatMap((owner) => owner ?? []));
  const component = componentOf(document, selected);
  return new Set(component === undefined ? [] : [component]);
}
