/**
 * The threads of a value as the gutter draws them: from its row to the rows of what it reads and drives. What
 * is folded away is met at its step; what is out of sight is gathered at the edge, with a count.
 */

export type ThreadKind = 'reads' | 'drives';

/** What part of the list is in sight, in pixels from its top. */
export interface Sight {
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

/** All threads of a value, wherever they lead. */
export interface AllThreads {
  /** The middle of its own row. */
  readonly y: number;
  readonly threads: readonly Thread[];
}

type MiddleOf = (id: string) => number | undefined;

/** `reads` and `drives` are ids of values; undefined when the value itself has no row. */
export function findThreads(value: string, reads: readonly string[], drives: readonly string[], middleOf: MiddleOf): AllThreads | undefined {
  const y = middleOf(value);
  return y === undefined ? undefined : { y, threads: [...placeThreads(reads, 'reads', middleOf), ...placeThreads(drives, 'drives', middleOf)] };
}

/** What of them ends in sight, and what is gathered at the edges. */
export function cutThreads({ y, threads }: AllThreads, sight: Sight): ThreadDrawing {
  return { y, threads: threads.filter((thread) => thread.y >= sight.top && thread.y <= sight.bottom), bundles: bundle(threads, sight) };
}

function placeThreads(ids: readonly string[], kind: ThreadKind, middleOf: MiddleOf): Thread[] {
  return [...new Set(ids)].flatMap((id) => {
    const y = middleOf(id);
    return y === undefined ? [] : [{ id, kind, y }];
  });
}

function bundle(threads: readonly Thread[], { top, bottom }: Sight): ThreadBundle[] {
  const bundles: ThreadBundle[] = [];
  for (const edge of ['top', 'bottom'] as const) {
    for (const kind of ['reads', 'drives'] as const) {
      const beyond = threads.filter((thread) => thread.kind === kind && (edge === 'top' ? thread.y < top : thread.y > bottom));
      const [first] = beyond;
      const nearest = first && beyond.reduce((best, thread) => ((edge === 'top' ? thread.y > best.y : thread.y < best.y) ? thread : best), first);
      if (nearest) bundles.push({ kind, edge, count: beyond.length, nearest: nearest.id });
    }
  }
  return bundles;
}
