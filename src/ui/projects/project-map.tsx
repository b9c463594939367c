'use client';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import type { DocumentCard } from '@/contract';
import { layerDocuments, reachOf } from '@/core/links';

const COLUMN = 260;
const ROW = 58;
const BOX = { width: 190, height: 44 } as const;
const MARGIN = 16;

interface Placed {
  readonly document: DocumentCard;
  readonly x: number;
  readonly y: number;
}

/** The documents of a project from masters to what takes from them, links as threads with the number of values. */
export function ProjectMap({ documents }: { documents: readonly DocumentCard[] }) {
  const [chosen, setChosen] = useState<string>();
  const nodes = useMemo(() => documents.map(({ id, links }) => ({ id, sources: links.map(({ source }) => source) })), [documents]);
  const placed = useMemo(() => place(documents, layerDocuments(nodes)), [documents, nodes]);
  const reached = useMemo(() => (chosen === undefined ? undefined : reachOf(nodes, chosen)), [nodes, chosen]);
  const at = new Map(placed.map((one) => [one.document.id, one]));
  const width = Math.max(...placed.map(({ x }) => x)) + BOX.width + MARGIN;
  const height = Math.max(...placed.map(({ y }) => y)) + BOX.height + MARGIN;
  return (
    <div>
      <label className="mb-2 flex items-center gap-2">
        <span className="text-walnut-soft">What takes from, and gives to</span>
        <select
          className="h-7 rounded-box border border-rule bg-sheet"
          value={chosen ?? ''}
          onChange={(event) => setChosen(event.target.value === '' ? undefined : event.target.value)}
        >
          <option value="">every document</option>
          {documents.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {/* Scrolled by keys too. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <div className="overflow-auto rounded-box border border-rule bg-sheet" tabIndex={0} role="region" aria-label="Map of the project">
        <div className="relative" style={{ width, height }}>
          <svg className="absolute inset-0" width={width} height={height} aria-hidden="true">
            {placed.flatMap((to) =>
              to.document.links.map(({ source, values }) => {
                const from = at.get(source);
                const isLit = !reached || (reached.has(source) && reached.has(to.document.id));
                return from && <Thread key={`${source} ${to.document.id}`} from={from} to={to} values={values} isLit={isLit} />;
              }),
            )}
          </svg>
          <ul>
            {placed.map((one) => (
              <li key={one.document.id} className="absolute" style={{ left: one.x, top: one.y }}>
                <MapBox placed={one} isLit={!reached || reached.has(one.document.id)} />
              </li>
            ))}
          </ul>
        </div>
      </div>
    </div>
  );
}

function place(documents: readonly DocumentCard[], layers: ReadonlyMap<string, number>): Placed[] {
  const filled = new Map<number, number>();
  return documents.map((document) => {
    const column = layers.get(document.id) ?? 0;
    const row = filled.get(column) ?? 0;
    filled.set(column, row + 1);
    return { document, x: MARGIN + column * COLUMN, y: MARGIN + row * ROW };
  });
}

function MapBox({ placed: { document }, isLit }: { placed: Placed; isLit: boolean }) {
  const { id, name, kind, behind, links } = document;
  const taken = links.reduce((sum, { values }) => sum + values, 0);
  return (
    <Link
      href={`/documents/${id}`}
      className={`flex flex-col justify-center rounded-box border bg-linen px-2 hover:border-indigo ${behind > 0 ? 'border-weld' : 'border-rule'} ${isLit ? 'shadow-box' : 'border-dashed'}`}
      style={BOX}
    >
      <span className="truncate font-semibold">{name}</span>
      <span className="truncate text-[13px] text-walnut-soft">
        {behind > 0 ? <span className="text-weld">{behind} behind</span> : kind}
        {taken > 0 && `, takes ${taken}`}
      </span>
    </Link>
  );
}

function Thread({ from, to, values, isLit }: { from: Placed; to: Placed; values: number; isLit: boolean }) {
  const [x1, y1] = [from.x + BOX.width, from.y + BOX.height / 2];
  const [x2, y2] = [to.x, to.y + BOX.height / 2];
  const middle = (x1 + x2) / 2;
  const isBehind = to.document.behind > 0;
  return (
    <g opacity={isLit ? 1 : 0.2}>
      <path
        d={`M ${x1} ${y1} C ${middle} ${y1} ${middle} ${y2} ${x2} ${y2}`}
        fill="none"
        stroke={isBehind ? 'var(--weld)' : 'var(--woad)'}
        strokeWidth={1.6}
        strokeDasharray="4 3"
      />
      <circle cx={x1} cy={y1} r={2.6} fill="var(--woad)" />
      <text
        x={x2 - 8}
        y={y2 - 5}
        textAnchor="end"
        stroke="var(--sheet)"
        strokeWidth={4}
        paintOrder="stroke"
        fontSize={12}
        fill="var(--walnut-soft)"
        fontFamily="var(--font-mono)"
      >
        {values}
      </text>
    </g>
  );
}
