'use client';
/** Amounts over two others as a table of shades: where something is wrong it is hatched and crossed, too. Arrow keys go from field to field. */
import { useRef } from 'react';

export interface Field {
  /** Undefined where it is not known yet; null where there is none. */
  readonly value: number | null | undefined;
  readonly shown: string;
  readonly isWrong: boolean;
}

interface FieldMapProps {
  /** Words of the amounts along both ways. */
  readonly across: readonly string[];
  readonly up: readonly string[];
  readonly acrossLabel: string;
  readonly upLabel: string;
  readonly fieldAt: (across: number, up: number) => Field;
  readonly chosen: readonly [number, number] | undefined;
  readonly onChoose: (across: number, up: number) => void;
  readonly description: string;
}

const HATCHED = 'bg-[repeating-linear-gradient(45deg,var(--madder)_0_1px,transparent_1px_6px)]';
const MOVES: Readonly<Record<string, readonly [number, number]>> = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };

export function FieldMap({ across, up, acrossLabel, upLabel, fieldAt, chosen, onChoose, description }: FieldMapProps) {
  const table = useRef<HTMLTableElement>(null);
  const known = across.flatMap((_, i) => up.flatMap((__, j) => fieldAt(i, j).value ?? []));
  const [least, most] = [Math.min(...known), Math.max(...known)];
  const [stopAcross, stopUp] = chosen ?? [0, 0];
  const go = (i: number, j: number): void => {
    table.current?.querySelector<HTMLElement>(`[data-field="${i} ${j}"]`)?.focus();
    onChoose(i, j);
  };
  const rows = up.map((words, j) => ({ words, j })).reverse();
  return (
    <table ref={table} className="border-separate border-spacing-0.5 text-xs" aria-label={description}>
      <thead>
        <tr>
          <th scope="col" className="text-left font-normal text-walnut-soft">
            {upLabel} ↑ / {acrossLabel} →
          </th>
          {across.map((words) => (
            <th key={words} scope="col" className="px-1 font-mono font-normal">
              {words}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ words, j }) => (
          <tr key={words}>
            <th scope="row" className="pr-2 text-right font-mono font-normal whitespace-nowrap">
              {words}
            </th>
            {across.map((column, i) => {
              const { value, shown, isWrong } = fieldAt(i, j);
              const shade = typeof value !== 'number' || most === least ? 0 : (value - least) / (most - least);
              const isChosen = chosen?.[0] === i && chosen[1] === j;
              return (
                <td key={column} className="relative p-0">
                  <button
                    type="button"
                    data-field={`${i} ${j}`}
                    tabIndex={i === stopAcross && j === stopUp ? 0 : -1}
                    aria-label={`${column}, ${words}: ${value === undefined ? 'not run yet' : shown || 'no value'}${isWrong ? ', something is wrong' : ''}`}
                    aria-pressed={isChosen}
                    className={`relative h-8 w-full min-w-14 overflow-hidden border bg-sheet font-mono ${isChosen ? 'border-2 border-walnut' : 'border-rule'}`}
                    onClick={() => go(i, j)}
                    onKeyDown={(event) => {
                      const move = MOVES[event.key];
                      if (!move) return;
                      event.preventDefault();
                      const [next, other] = [i + move[0], j + move[1]];
                      if (next >= 0 && next < across.length && other >= 0 && other < up.length) go(next, other);
                    }}
                  >
                    {value !== undefined && <span aria-hidden className="absolute inset-0 bg-indigo" style={{ opacity: 0.06 + 0.34 * shade }} />}
                    {isWrong && <span aria-hidden className={`absolute inset-0 ${HATCHED}`} />}
                    <span aria-hidden className="relative text-walnut">
                      {isWrong ? '✕ ' : ''}
                      {value === undefined ? '…' : typeof value === 'number' ? Number(value.toPrecision(3)) : ''}
                    </span>
                  </button>
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
