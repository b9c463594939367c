'use client';
import { useEffect, useMemo, useState, type RefObject } from 'react';
import { findRecord } from '@/core/document';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { goToRow } from './go-to-row';
import type { LedgerRow } from '../state/ledger-rows';
import { cutThreads, findThreads, type AllThreads, type Thread, type ThreadBundle, type ThreadDrawing } from './threads';

const WIDTH = 24;
/** Pixels that are drawn beyond what is in sight: they are there when the list is scrolled a little. */
const BEYOND = 400;
/** In a long ledger threads are drawn anew when scrolling rests this long, in milliseconds; until then they go along with their rows. */
const REST_MS = 60;
const COLOURS = { reads: 'var(--woad)', drives: 'var(--indigo)' } as const;
const COLUMNS = { reads: 8, drives: 14 } as const;

interface Drawn extends ThreadDrawing {
  readonly top: number;
  readonly bottom: number;
  readonly height: number;
}

interface ThreadGutterProps {
  readonly list: RefObject<HTMLDivElement | null>;
  readonly rows: readonly LedgerRow[];
  /** Where rows are, when not all of them are drawn. */
  readonly places?: Places;
}

/**
 * Threads of the selected value in the gutter: to what it reads (woad, dashed) and to what it drives (indigo).
 * Pointing at another row previews its threads; pressing an end, or a count at the edge, goes there.
 */
export function ThreadGutter(props: ThreadGutterProps) {
  const selected = useWorkspace((state) => state.selected);
  const hovered = useWorkspace((state) => state.hovered);
  const scroll = useScroll(props.list, props.places ? REST_MS : 0);
  return (
    <>
      {hovered !== undefined && hovered !== selected && <ValueThreads {...props} value={hovered} scroll={scroll} isPreview />}
      {selected !== undefined && <ValueThreads {...props} value={selected} scroll={scroll} isPreview={false} />}
    </>
  );
}

interface ValueThreadsProps extends ThreadGutterProps {
  readonly value: string;
  readonly scroll: Scroll;
  readonly isPreview: boolean;
}

function ValueThreads({ list, rows, places: known, value, scroll, isPreview }: ValueThreadsProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const version = useSessionState((state) => state.version);
  // A step that fails says why in its row, and all rows after it move down.
  const troubles = useSessionState(({ regenerated }) =>
    regenerated?.steps.map(({ problem, warnings }) => [problem, ...(warnings ?? [])].map((trouble) => trouble?.message).join()).join('|'),
  );
  const [measured, setMeasured] = useState<Places>();
  const places = known ?? measured;

  useEffect(() => {
    // Positions are known to the browser only, after the rows are laid out: asking for them costs a layout.
    const host = list.current;
    if (host && !known) setMeasured({ rows: measureRows(host), height: host.scrollHeight });
  }, [list, rows, known, value, version, troubles]);

  // Where the threads lead is the same however far the list is scrolled.
  const all = useMemo((): AllThreads | undefined => {
    if (!places) return undefined;
    const { sheet } = session.values;
    const middleOf = (id: string): number | undefined => places.rows.get(id) ?? places.rows.get(findRecord(session.document, id, 'parameter')?.owner ?? '');
    const valuesOf = (ids: readonly string[]): string[] => ids.map((id) => id.replace(/[/>].*$/, '')).filter((id) => id !== value);
    return findThreads(value, valuesOf(sheet.listReads(value)), valuesOf(sheet.listReaders(value)), middleOf);
    // What is read and driven is another after an edit.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [places, value, session, version]);
  const drawn = useMemo((): Drawn | undefined => {
    if (!all || !places || all.threads.length === 0) return undefined;
    return { ...cutThreads(all, scroll), ...scroll, height: places.height };
  }, [all, places, scroll]);

  if (!drawn) return null;
  const go = (id: string): void => {
    goToRow(workspace, id, findRecord(session.document, id, 'parameter')?.owner);
  };
  // Only what is in sight is drawn: a picture as long as the ledger would be painted anew with every scroll.
  const [top, bottom] = [Math.max(0, drawn.top - BEYOND), Math.min(drawn.height, drawn.bottom + BEYOND)];
  const from = Math.min(Math.max(drawn.y, top - BEYOND), bottom + BEYOND);
  return (
    <div role="presentation" className="pointer-events-none absolute top-0 left-0 z-10" style={{ width: WIDTH, height: drawn.height }}>
      <svg
        aria-hidden
        className="absolute left-0"
        style={{ top }}
        width={WIDTH}
        height={bottom - top}
        viewBox={`0 ${top} ${WIDTH} ${bottom - top}`}
        opacity={isPreview ? 0.45 : 1}
      >
        {drawn.threads.map((thread) => (
          <ThreadLine key={`${thread.kind} ${thread.id}`} thread={thread} from={from} onGo={isPreview ? undefined : () => go(thread.id)} />
        ))}
        {drawn.bundles.map((bundle) => (
          <path
            key={`${bundle.edge} ${bundle.kind}`}
            d={path(from, bundle.edge === 'top' ? drawn.top + 2 : drawn.bottom - 2, COLUMNS[bundle.kind])}
            stroke={COLOURS[bundle.kind]}
            strokeDasharray={bundle.kind === 'reads' ? '3 2' : undefined}
            strokeWidth={1.6}
            fill="none"
          />
        ))}
        <circle cx={WIDTH - 3} cy={drawn.y} r={3.2} fill="var(--walnut)" />
      </svg>
      {!isPreview &&
        drawn.bundles.map((bundle) => <BundleCount key={`${bundle.edge} ${bundle.kind}`} bundle={bundle} drawn={drawn} onGo={() => go(bundle.nearest)} />)}
    </div>
  );
}

/** A preview takes no pointer: it would come between the pointer and the row that it is shown for. */
function ThreadLine({ thread, from, onGo }: { thread: Thread; from: number; onGo: (() => void) | undefined }) {
  const colour = COLOURS[thread.kind];
  const d = path(from, thread.y, COLUMNS[thread.kind]) + ` H ${WIDTH - 4}`;
  return (
    <g className={onGo ? 'pointer-events-auto cursor-pointer' : ''} onClick={onGo} fill="none">
      <path d={d} stroke="transparent" strokeWidth={7} />
      <path d={d} stroke={colour} strokeWidth={1.6} strokeDasharray={thread.kind === 'reads' ? '3 2' : undefined} />
      <circle cx={WIDTH - 4} cy={thread.y} r={2.8} fill={colour} />
    </g>
  );
}

function BundleCount({ bundle, drawn, onGo }: { bundle: ThreadBundle; drawn: Drawn; onGo: () => void }) {
  const words = `${bundle.count} ${bundle.kind === 'reads' ? 'read' : 'driven'} ${bundle.edge === 'top' ? 'above' : 'below'}`;
  return (
    <button
      type="button"
      tabIndex={-1}
      title={`${words}: go to the nearest`}
      aria-label={words}
      className="pointer-events-auto absolute h-4 min-w-4 rounded-box px-0.5 text-center font-mono text-[11px] leading-4 text-linen"
      style={{ background: COLOURS[bundle.kind], left: bundle.kind === 'reads' ? 0 : 12, top: bundle.edge === 'top' ? drawn.top + 2 : drawn.bottom - 18 }}
      onClick={onGo}
    >
      {bundle.count}
    </button>
  );
}

/** From a row at the right, down or up a column of the gutter. */
function path(from: number, to: number, x: number): string {
  const turn = Math.sign(to - from) * 3;
  return `M ${WIDTH - 3} ${from} H ${x + 3} Q ${x} ${from} ${x} ${from + turn} V ${to - turn} Q ${x} ${to} ${x + 3} ${to}`;
}

export interface Places {
  /** The middle of each row by id, in pixels of the list's content. */
  readonly rows: ReadonlyMap<string, number>;
  readonly height: number;
}

function measureRows(host: HTMLElement): ReadonlyMap<string, number> {
  const top = host.getBoundingClientRect().top - host.scrollTop;
  const middles = new Map<string, number>();
  for (const row of host.querySelectorAll<HTMLElement>('[data-row]')) {
    const box = row.getBoundingClientRect();
    middles.set(row.dataset['row'] ?? '', box.top - top + Math.min(box.height, 28) / 2);
  }
  return middles;
}

interface Scroll {
  readonly top: number;
  readonly bottom: number;
}

/** What part of the list is in sight, in pixels of its content; at once, or when scrolling rests. */
function useScroll(list: RefObject<HTMLDivElement | null>, rest: number): Scroll {
  const [scroll, setScroll] = useState<Scroll>({ top: 0, bottom: Infinity });
  useEffect(() => {
    // Scrolling and resizing are the browser's.
    const host = list.current;
    if (!host) return undefined;
    const read = (): void => {
      setScroll({ top: host.scrollTop, bottom: host.scrollTop + host.clientHeight });
    };
    let timer: ReturnType<typeof setTimeout> | undefined;
    const onScroll = (): void => {
      clearTimeout(timer);
      if (rest === 0) read();
      else timer = setTimeout(read, rest);
    };
    const observer = new ResizeObserver(read);
    observer.observe(host);
    host.addEventListener('scroll', onScroll, { passive: true });
    return () => {
      clearTimeout(timer);
      observer.disconnect();
      host.removeEventListener('scroll', onScroll);
    };
  }, [list, rest]);
  return scroll;
}
