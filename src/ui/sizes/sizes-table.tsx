'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { RefObject } from 'react';
import { findAny, hasShape, isNamed, sizeColumns, sizeTable, usedSize, type Document, type Parameter } from '@/core/document';
import type { SizeReader } from '@/core/studies';
import { prettyUnit } from '@/core/units';
import { Button } from '../design/button';
import { VerbMenu } from '../design/verb-menu';
import { useSession } from '../state/context';
import { SizeCells, SizeName, WrittenCells } from './size-cells';
import { copySize, moveColumn, moveSize } from './size-edits';
import type { KnownSize, SizeOrder, SortKey } from './size-order';
import type { FoundSize, SizeChecks } from './use-size-checks';

/** Up to so many rows are drawn at once; of longer tables those that are in sight. */
const MOST_DRAWN = 60;
const ROW_PX = 56;

interface SizesTableProps {
  readonly document: Document;
  readonly listed: readonly KnownSize[];
  /** What the table scrolls in. */
  readonly scroller: RefObject<HTMLDivElement | null>;
  readonly order: SizeOrder | undefined;
  readonly onOrder: (order: SizeOrder | undefined) => void;
  readonly picked: readonly string[];
  readonly onPick: (picked: readonly string[]) => void;
  readonly reader: SizeReader;
  readonly checks: SizeChecks;
  readonly onProblem: (problem: string | undefined) => void;
}

export function SizesTable(props: SizesTableProps) {
  const { document, listed, scroller } = props;
  // What it returns is used here alone, and handed to nothing that remembers it.
  // oxlint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: listed.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    getItemKey: (index) => listed[index]?.size.id ?? index,
    overscan: 8,
  });
  const isLong = listed.length > MOST_DRAWN;
  const items = isLong ? virtual.getVirtualItems() : [];
  const rows = isLong ? items.flatMap(({ index }) => listed[index] ?? []) : listed;
  const above = items[0]?.start ?? 0;
  const below = isLong ? virtual.getTotalSize() - (items.at(-1)?.end ?? 0) : 0;
  const columns = sizeColumns(document);
  const results = resultsOf(document);
  const width = 5 + columns.length + results.length + (hasShape(document) ? 2 : 0);
  return (
    <table className="w-full border-collapse bg-sheet">
      <caption className="sr-only">The sizes of {document.name}</caption>
      <Head {...props} columns={columns} results={results} />
      <tbody>
        <AsWritten {...props} columns={columns} results={results} />
        {above > 0 && (
          <tr aria-hidden>
            <td colSpan={width} style={{ height: above }} />
          </tr>
        )}
        {rows.map((known) => (
          <SizeRow key={known.size.id} {...props} known={known} columns={columns} results={results} />
        ))}
        {below > 0 && (
          <tr aria-hidden>
            <td colSpan={width} style={{ height: below }} />
          </tr>
        )}
      </tbody>
    </table>
  );
}

interface Result {
  readonly id: string;
  readonly name: string;
}

function resultsOf(document: Document): Result[] {
  return (sizeTable(document)?.results ?? []).flatMap((id) => {
    const record = findAny(document, id);
    return record && isNamed(record) ? [{ id, name: record.name }] : [];
  });
}

interface WithColumns extends SizesTableProps {
  readonly columns: readonly Parameter[];
  readonly results: readonly Result[];
}

const HEAD = 'sticky top-0 z-10 bg-flax px-2 py-1 text-left font-normal whitespace-nowrap text-walnut-soft';

function Head({ document, columns, results, listed, picked, onPick, order, onOrder, onProblem }: WithColumns) {
  const session = useSession();
  const sorted = { order, onOrder };
  const ids = columns.map(({ id }) => id);
  const shown = results.map(({ id }) => id);
  const isAll = listed.length > 0 && listed.every(({ size }) => picked.includes(size.id));
  return (
    <thead>
      <tr>
        <th className={HEAD}>
          <input
            type="checkbox"
            aria-label="Tick all sizes that are listed"
            checked={isAll}
            onChange={() => onPick(isAll ? [] : listed.map(({ size }) => size.id))}
          />
        </th>
        <SortedHead {...sorted} by={{ by: 'name' }} label="Size" />
        {columns.map(({ id, name }, i) => (
          <SortedHead key={id} {...sorted} by={{ by: 'value', id }} label={name}>
            <VerbMenu
              label="⋮"
              name={`Column ${name}`}
              groups={[
                [
                  { label: 'Move left', isOff: i === 0, run: () => onProblem(session.edit(moveColumn(document, id, -1))?.message) },
                  { label: 'Move right', isOff: i === columns.length - 1, run: () => onProblem(session.edit(moveColumn(document, id, 1))?.message) },
                ],
                [
                  {
                    label: 'Remove the column',
                    run: () => onProblem(session.edit({ type: 'sizes.columns', columns: ids.filter((other) => other !== id) })?.message),
                  },
                ],
              ]}
            />
          </SortedHead>
        ))}
        {results.map(({ id, name }) => (
          <SortedHead key={id} {...sorted} by={{ by: 'value', id }} label={name}>
            <Button
              tone="quiet"
              className="h-6 px-1"
              aria-label={`Hide ${name}`}
              onClick={() => onProblem(session.edit({ type: 'sizes.results', results: shown.filter((other) => other !== id) })?.message)}
            >
              ×
            </Button>
          </SortedHead>
        ))}
        {hasShape(document) && <SortedHead {...sorted} by={{ by: 'mass' }} label="mass" />}
        {hasShape(document) && <SortedHead {...sorted} by={{ by: 'volume' }} label="volume" />}
        <th className={HEAD}>Checked</th>
        <th className={HEAD}>
          <span className="sr-only">Picture</span>
        </th>
        <th className={HEAD}>
          <span className="sr-only">Verbs</span>
        </th>
      </tr>
    </thead>
  );
}

interface SortedHeadProps {
  readonly by: SortKey;
  readonly label: string;
  readonly order: SizeOrder | undefined;
  readonly onOrder: (order: SizeOrder | undefined) => void;
  readonly children?: React.ReactNode;
}

/** Pressed once sorted upwards, then downwards, then as the table is. */
function SortedHead({ by, label, order, onOrder, children }: SortedHeadProps) {
  const isBy = order !== undefined && order.key.by === by.by && (by.by !== 'value' || (order.key.by === 'value' && order.key.id === by.id));
  const next = isBy ? (order.isDown ? undefined : { key: by, isDown: true }) : { key: by, isDown: false };
  return (
    <th className={HEAD} aria-sort={isBy ? (order.isDown ? 'descending' : 'ascending') : 'none'}>
      <span className="inline-flex items-center">
        <button type="button" className={isBy ? 'font-semibold text-walnut' : ''} onClick={() => onOrder(next)}>
          {label}
          <span aria-hidden className="inline-block w-3 text-center">
            {isBy ? (order.isDown ? '↓' : '↑') : ''}
          </span>
        </button>
        {children}
      </span>
    </th>
  );
}

/** The document without a size: the formulas of the values themselves. */
function AsWritten({ document, columns, results, reader }: WithColumns) {
  const session = useSession();
  const isUsed = usedSize(document) === undefined;
  const reading = reader.read(undefined);
  return (
    <tr className={`border-t border-rule ${isUsed ? 'bg-indigo-wash' : ''}`}>
      <td />
      <th scope="row" className="px-2 text-left font-normal whitespace-nowrap text-walnut-soft">
        as written
      </th>
      <WrittenCells columns={columns} />
      {results.map(({ id }) => (
        <td key={id} className="px-2 font-mono text-walnut-soft">
          {reading.get(id)?.diagnostics.length === 0 ? prettyUnit(reading.get(id)?.shown ?? '') : ''}
        </td>
      ))}
      {hasShape(document) && <td colSpan={2} />}
      <td colSpan={2} />
      <td className="px-2 text-right whitespace-nowrap">
        {isUsed ? (
          <span className="text-walnut-soft">in use</span>
        ) : (
          <Button tone="quiet" className="h-6" aria-label="Use it as written" onClick={() => session.edit({ type: 'sizes.use', size: null })}>
            Use
          </Button>
        )}
      </td>
    </tr>
  );
}

function SizeRow({ document, known, columns, results, reader, picked, onPick, order, onProblem }: WithColumns & { readonly known: KnownSize }) {
  const session = useSession();
  const { size, checked, isOld } = known;
  const isUsed = usedSize(document)?.id === size.id;
  const isPicked = picked.includes(size.id);
  const faded = isOld ? 'text-walnut-soft' : '';
  return (
    <tr className={`h-14 border-t border-rule ${isUsed ? 'bg-indigo-wash' : ''}`}>
      <td className="px-2">
        <input
          type="checkbox"
          aria-label={`Tick ${size.name}`}
          checked={isPicked}
          onChange={() => onPick(isPicked ? picked.filter((id) => id !== size.id) : [...picked, size.id])}
        />
      </td>
      <td className="px-1">
        <SizeName size={size} />
      </td>
      <SizeCells size={size} columns={columns} reading={reader.read(size.id)} />
      {results.map(({ id }) => (
        <td key={id} className={`px-2 font-mono whitespace-nowrap ${reader.read(size.id).get(id)?.diagnostics.length === 0 ? '' : faded}`}>
          {prettyUnit(known.read(id)?.shown ?? '')}
        </td>
      ))}
      {hasShape(document) && (
        <>
          <td className={`px-2 font-mono whitespace-nowrap ${faded}`}>{checked?.mass === undefined ? '' : `${checked.mass.toFixed(3)} kg`}</td>
          <td className={`px-2 font-mono whitespace-nowrap ${faded}`}>{checked?.volume === undefined ? '' : `${(checked.volume / 1000).toFixed(1)} cm³`}</td>
        </>
      )}
      <td className="px-2">
        <Outcome checked={checked} isOld={isOld} />
      </td>
      <td className="px-1 text-right">
        {checked?.picture !== undefined && (
          // oxlint-disable-next-line nextjs/no-img-element -- a data address, drawn in this page
          <img src={checked.picture} alt={`${size.name}${isOld ? ', as it was' : ''}`} className={`ml-auto h-12 ${isOld ? 'opacity-50' : ''}`} />
        )}
      </td>
      <td className="px-1 text-right whitespace-nowrap">
        {isUsed ? (
          <span className="px-2 text-walnut-soft">in use</span>
        ) : (
          <Button tone="quiet" className="h-6" aria-label={`Use ${size.name}`} onClick={() => session.edit({ type: 'sizes.use', size: size.id })}>
            Use
          </Button>
        )}
        <VerbMenu
          label="⋮"
          name={`More of ${size.name}`}
          groups={[
            [
              { label: 'Move up', isOff: order !== undefined, run: () => onProblem(session.edit(moveSize(document, size.id, -1))?.message) },
              { label: 'Move down', isOff: order !== undefined, run: () => onProblem(session.edit(moveSize(document, size.id, 1))?.message) },
              { label: 'Copy', run: () => onProblem(session.edit(copySize(document, size))?.message) },
            ],
            [{ label: 'Delete', run: () => onProblem(session.edit({ type: 'size.remove', id: size.id })?.message) }],
          ]}
        />
      </td>
    </tr>
  );
}

/** What a check found: in the first words, all of them when they are pointed at. */
function Outcome({ checked, isOld }: { checked: FoundSize | undefined; isOld: boolean }) {
  if (!checked) return <span className="text-walnut-soft">not checked</span>;
  const [first, ...more] = checked.problems;
  const when = checked.at === undefined ? '' : `, ${new Date(checked.at).toLocaleString()}, at revision ${checked.revision ?? 0}`;
  return (
    <span
      title={[...checked.problems, ...checked.held.map((name) => `${name} rests on a held result.`), `In ${Math.round(checked.time)} ms${when}.`].join('\n')}
    >
      {first === undefined ? (
        <span className={isOld ? 'text-walnut-soft' : 'text-moss'}>good</span>
      ) : (
        <span className={`block max-w-80 ${isOld ? 'text-walnut-soft' : 'text-madder'}`}>
          {first}
          {more.length > 0 && ` And ${more.length} more.`}
        </span>
      )}
      {checked.held.length > 0 && <span className="block text-[13px] text-weld">held: {checked.held.join(', ')}</span>}
      {isOld && <span className="block text-[13px] text-weld">changed since</span>}
    </span>
  );
}
