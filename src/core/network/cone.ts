/** Which values have to be computed when some are set and others are wanted. */
import type { Entry } from './entry';
import { STRIDE, type Program } from './program';

/** Ranks, ascending, of the values that depend on a set one and that a wanted one depends on; the set ones themselves are not among them. */
export function ranksBetween(program: Program, set: Iterable<number>, wanted: Iterable<number>): number[] {
  const { entries, order, rankOf, rows, readers } = program;
  const reached = new Uint8Array(order.length);
  const start = new Set<number>();
  for (const index of set) start.add(rankOf[index] as number);
  let first = order.length;
  for (const rank of start) {
    reached[rank] = 1;
    first = Math.min(first, rank);
  }
  for (let rank = first; rank < order.length; rank++) {
    if (reached[rank] !== 1) continue;
    const end = rows[(rank + 1) * STRIDE + 3] as number;
    for (let i = rows[rank * STRIDE + 3] as number; i < end; i++) reached[readers[i] as number] = 1;
  }
  const needed = new Uint8Array(order.length);
  for (const index of wanted) needed[rankOf[index] as number] = 1;
  for (let rank = order.length - 1; rank >= first; rank--) {
    if (needed[rank] !== 1 || reached[rank] !== 1 || start.has(rank)) continue;
    for (const read of readsOf(entries[order[rank] as number])) needed[rankOf[read] as number] = 1;
  }
  const between: number[] = [];
  for (let rank = first; rank < order.length; rank++) if (needed[rank] === 1 && reached[rank] === 1 && !start.has(rank)) between.push(rank);
  return between;
}

function readsOf(entry: Entry | undefined): readonly number[] {
  return entry?.reads ?? [];
}
