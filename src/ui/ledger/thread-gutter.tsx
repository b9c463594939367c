'use client';
import { useEffect, useState, type RefObject } from 'react';
import { findRecord } from '@/core/document';
import { useSession, useSessionState, useWorkspace } from '../state/context';
import type { LedgerRow } from './ledger-rows';

interface Thread {
  readonly id: string;
  readonly y: number;
  readonly kind: 'reads' | 'drives';
}

interface Drawing {
  readonly y: number;
  readonly threads: readonly Thread[];
  readonly height: number;
}

const WIDTH = 24;

/**
 * Threads of the selected value in the gutter: up or down to what it reads (woad) and to what it drives
 * (indigo). A value whose step is folded is met at its step.
 */
export function ThreadGutter({ list, rows }: { list: RefObject<HTMLDivElement | null>; rows: readonly LedgerRow[] }) {
  const session = useSession();
  const selected = useWorkspace((state) => state.selected);
  const version = useSessionState((state) => state.version);
  const [drawing, setDrawing] = useState<Drawing>();

  useEffect(() => {
    // Positions are known to the browser only, after the rows are laid out.
    const host = list.current;
    if (!host || selected === undefined) {
      setDrawing(undefined);
      return;
    }
    const top = host.getBoundingClientRect().top - host.scrollTop;
    const middleOf = (id: string): number | undefined => {
      const owner = findRecord(session.document, id, 'parameter')?.owner;
      const row =
        host.querySelector(`[data-row="${CSS.escape(id)}"]`) ?? (owner === undefined ? null : host.querySelector(`[data-row="${CSS.escape(owner)}"]`));
      if (!row) return undefined;
      const box = row.getBoundingClientRect();
      return box.top - top + Math.min(box.height, 28) / 2;
    };
    const y = middleOf(selected);
    if (y === undefined) {
      setDrawing(undefined);
      return;
    }
    const threads = (ids: readonly string[], kind: Thread['kind']): Thread[] =>
      ids.flatMap((id) => {
        const end = middleOf(id.replace(/\/.*$/, ''));
        return end === undefined ? [] : [{ id, y: end, kind }];
      });
    const { sheet } = session.values;
    setDrawing({ y, threads: [...threads(sheet.listReads(selected), 'reads'), ...threads(sheet.listReaders(selected), 'drives')], height: host.scrollHeight });
  }, [list, rows, selected, version, session]);

  if (!drawing) return null;
  return (
    <svg aria-hidden className="pointer-events-none absolute top-0 left-0 z-10" width={WIDTH} height={drawing.height}>
      {drawing.threads.map(({ id, y, kind }) => {
        const x = kind === 'reads' ? 8 : 14;
        const colour = kind === 'reads' ? 'var(--woad)' : 'var(--indigo)';
        return (
          <g key={`${kind} ${id}`} stroke={colour} fill="none" strokeWidth={1.6} strokeDasharray={kind === 'reads' ? '3 2' : undefined}>
            <path
              d={`M ${WIDTH - 3} ${drawing.y} H ${x + 3} Q ${x} ${drawing.y} ${x} ${drawing.y + Math.sign(y - drawing.y) * 3} V ${y - Math.sign(y - drawing.y) * 3} Q ${x} ${y} ${x + 3} ${y} H ${WIDTH - 4}`}
            />
            <circle cx={WIDTH - 4} cy={y} r={2.4} fill={colour} stroke="none" />
          </g>
        );
      })}
      <circle cx={WIDTH - 3} cy={drawing.y} r={3.2} fill="var(--walnut)" />
    </svg>
  );
}
