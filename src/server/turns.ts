/** Work on lists of what may be large: between two entries others get their turn. */
import { setImmediate as nextTurn } from 'node:timers/promises';

export async function mapInTurns<A, B>(entries: readonly A[], map: (entry: A, index: number) => B): Promise<B[]> {
  const mapped: B[] = [];
  for (const [index, entry] of entries.entries()) {
    if (index > 0) await nextTurn();
    mapped.push(map(entry, index));
  }
  return mapped;
}
