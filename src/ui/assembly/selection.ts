/** Which component a selected row is about. */
import { findAny, type Document } from '@/core/document';

/** The component that is selected itself, or a value of which is. */
export function componentOf(document: Document, selected: string | undefined): string | undefined {
  const record = selected === undefined ? undefined : findAny(document, selected);
  if (record?.type === 'component') return record.id;
  return record?.type === 'drive' ? record.component : undefined;
}

/** Whether something stands in a component: `path` leads to it from the assembly down. */
export function isWithin(path: readonly string[], component: string | undefined): boolean {
  return component !== undefined && path[0] === component;
}
