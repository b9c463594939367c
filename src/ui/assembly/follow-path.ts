/** The way through components that a path of ids leads. */
import { findRecord, nameOfCopy, plainId, type Component, type DocumentValues } from '@/core/document';

/** The names on the way, `unit.rail[3]`, and the values of what stands at its end; undefined where it leads nowhere. */
export function followPath(values: DocumentValues, path: readonly string[]): { readonly component: string; readonly inside: DocumentValues | undefined } {
  let inside: DocumentValues | undefined = values;
  const names: string[] = [];
  for (const id of path) {
    const component: Component | undefined = inside && findRecord(inside.document, plainId(id), 'component');
    names.push(component ? nameOfCopy(component, id) : '?');
    inside = inside?.components?.valuesOf(plainId(id));
  }
  return { component: names.join('.'), inside };
}
