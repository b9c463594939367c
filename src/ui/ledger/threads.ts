/**
 * The threads of a value as the gutter draws them: from its row to the rows of what it reads and drives. What
 * is folded away is met at its step; what is out of sight is gathered at the edge, with a count.
 */

export type ThreadKind = 'reads' | 'drives';

/** Where the rows of the ledger are, in pixels from the top of the list. */
export interface RowPlaces {
  readonly middleOf: (id: string) => number | undefined;
  /** What part of the list is in sight. */
  readonly top: number;
  readonly bottom: number;
}

export interface Thread {
  /** Value at the far end. */
  readonly id: string;
  readonly kind: ThreadKind;
  readonly y: number;
}

/** Threads that leave the part in sight at one edge. */
export interface ThreadBundle {
  readonly kind: ThreadKind;
  readonly edge: 'top' | 'bottom';
  readonly count: number;
  /** The nearest value beyond the edge: where pressing the count goes. */
  readonly nearest: string;
}

export interface ThreadDrawing {
  readonly y: number;
  readonly threads: readonly Thread[];
  readonly bundles: readonly ThreadBundle[];
}

/** `reads` and `drives` are ids of values; undefined when the value itself has no row. */
export function planThreads(value: string, reads: readonly string[], drives: readonly string[], places: RowPlaces): ThreadDrawing | undefined {
  const y = places.middleOf(value);
  if (y === undefined) return undefined;
  const all = [...placeThreads(reads, 'reads', places), ...placeThreads(drives, 'drives', places)];
  const isInSight = (at: number): boolean => at >= places.top && at <= places.bottom;
  return { y, threads: all.filter((thread) => isInSight(thread.y)), bundles: bundle(all, places) };
}

function placeThreads(ids: readonly string[], kind: ThreadKind, places: RowPlaces): Thread[] {
  return [...new Set(ids)].flatMap((id) => {
    const y = places.middleOf(id);
    return y === undefined ? [] : [{ id, kind, y }];
  });
}

function bundle(threads: readonly Thread[], { top, bottom }: RowPlaces): ThreadBundle[] {
  const bundles: ThreadBundle[] = [];
  for (const edge of ['top', 'bottom'] as const) {
    for (const kind of ['reads', 'drives'] as const) {
      const beyond = threads.filter((thread) => thread.kind === kind && (edge === 'top' ? thread.y < top : thread.y > bottom));
      const [nearest] = [...beyond].sort((a, b) => (edge === 'top' ? b.y - a.y : a.y - b.y));
      if (nearest) bundles.push({ kind, edge, count: beyond.length, nearest: nearest.id });
    }
  }
  return bundles;
}
