'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useMemo, type RefObject } from 'react';
import { useWorkspace } from '../state/context';
import { focusRow } from './go-to-row';
import type { LedgerRow } from '../state/ledger-rows';
import { ThreadGutter, type Places } from './thread-gutter';

const ROW_PX = 28;
const OVERSCAN = 10;

interface ManyRowsProps {
  readonly rows: readonly LedgerRow[];
  readonly list: RefObject<HTMLDivElement | null>;
  readonly draw: (row: LedgerRow) => React.ReactNode;
}

/** A long ledger: rows out of sight are not drawn, and are where they would be. */
export function ManyRows({ rows, list, draw }: ManyRowsProps) {
  const wanted = useWorkspace((state) => state.wanted);
  const keyOf = useCallback((index: number) => rows[index]?.id ?? index, [rows]);
  // What it returns is used here alone, and handed to nothing that remembers it.
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW_PX,
    getItemKey: keyOf,
    overscan: OVERSCAN,
  });
  useEffect(() => {
    // A row that is asked for is brought into sight before it can have the focus.
    const index = wanted ? rows.findIndex(({ id }) => id === wanted.id) : -1;
    if (index < 0 || !wanted) return undefined;
    virtual.scrollToIndex(index, { align: 'auto' });
    const frame = requestAnimationFrame(() => requestAnimationFrame(() => focusRow(wanted.id)));
    return () => cancelAnimationFrame(frame);
    // The row is gone to once, not with every scroll.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [wanted]);
  const height = virtual.getTotalSize();
  const places = useMemo((): Places => ({ rows: new Map(rows.map(({ id }, index) => [id, index * ROW_PX + ROW_PX / 2])), height }), [rows, height]);
  return (
    <div className="many-rows relative" style={{ height }}>
      <ThreadGutter list={list} rows={rows} places={places} />
      {virtual.getVirtualItems().map(({ key, index, start }) => {
        const row = rows[index];
        return (
          row && (
            // Rows of values are of one height: measuring each would cost a layout.
            <div
              key={key}
              data-index={index}
              ref={row.kind === 'value' ? undefined : virtual.measureElement}
              className="absolute inset-x-0 top-0"
              style={{ transform: `translateY(${start}px)` }}
            >
              {draw(row)}
            </div>
          )
        );
      })}
    </div>
  );
}
