/** What can be done side by side among documents that take from one another. */
import type { Document } from '../document';
import { listSources } from './sources';

/** Chooses of some documents those that take nothing from another of them, through whatever documents in between; the first of all where they take in a ring. */
export function chooseFarthestUp(documents: readonly Document[]): <T>(among: readonly T[], idOf: (one: T) => string) => T[] {
  const sources = new Map(documents.map((document) => [document.id, listSources(document).map(({ source }) => source)]));
  const above = (of: string): ReadonlySet<string> => {
    const found = new Set<string>();
    const next = [of];
    for (let id = next.pop(); id !== undefined; id = next.pop()) {
      for (const source of sources.get(id) ?? []) {
        if (found.has(source)) continue;
        found.add(source);
        next.push(source);
      }
    }
    return found;
  };
  return (among, idOf) => {
    const ids = new Set(among.map(idOf));
    const free = among.filter((one) => [...above(idOf(one))].every((id) => id === idOf(one) || !ids.has(id)));
    return free.length > 0 ? free : among.slice(0, 1);
  };
}
