'use client';
/** The sizes of the document in its ledger: a row for each, a column for each value that it sets. */
import { useMemo, useState } from 'react';
import { listSizes, sizeColumns, usedSize, type Parameter, type Size } from '@/core/document';
import { readSizes, type SizeReading } from '@/core/studies';
import { Button } from '../design/button';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { SizeCells, SizeName, WrittenCells } from './size-cells';
import { addSize } from './size-edits';

/** More are listed in the table of sizes only. */
const MOST_ROWS = 12;

export function SizesSection() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const marked = useWorkspace((state) => state.marked);
  const selected = useWorkspace((state) => state.selected);
  const [problem, setProblem] = useState<string>();
  const [shown, setShown] = useState<string>();
  // Folded until it is asked for: its cells would be many stops of the Tab key.
  const [isOpen, setOpen] = useState(false);
  const sizes = listSizes(document);
  const columns = sizeColumns(document);
  // Folded, nobody reads it: an edit must not cost it.
  const reader = useMemo(() => (isOpen ? readSizes(document, session.snapshots) : undefined), [isOpen, document, session]);
  // An edit ends a look at another size.
  const used = usedSize(document)?.id;
  const usedName = usedSize(document)?.name;
  if (shown !== undefined && shown !== used) setShown(undefined);

  const add = (): void => {
    const wanted = marked.size > 0 ? [...marked] : selected !== undefined ? [selected] : [];
    session.endTrial(false);
    setOpen(true);
    setProblem(session.edit(addSize(session.document, wanted))?.message);
  };
  const show = (id: string | undefined): void => {
    session.endTrial(false);
    setShown(undefined);
    if (id === undefined) return;
    setProblem(session.tryOut({ type: 'sizes.use', size: id })?.message);
    setShown(id);
  };
  return (
    <section aria-label="Sizes" className="py-2 pr-2 pl-7">
      {sizes.length > 0 && (
        <h2 className="mb-1">
          <button type="button" aria-expanded={isOpen} className="text-left text-walnut-soft" onClick={() => setOpen(!isOpen)}>
            <span className="inline-block w-4">{isOpen ? '−' : '+'}</span>
            <span className="font-semibold">Sizes</span>{' '}
            {isOpen
              ? ''
              : sizes
                  .slice(0, 5)
                  .map(({ name }) => name)
                  .join(', ')}
            {usedName !== undefined && !isOpen && `; in use: ${usedName}`}
          </button>
        </h2>
      )}
      {reader && sizes.length > 0 && (
        <div className="mb-1 overflow-x-auto">
          <table className="border-collapse rounded-box border border-rule bg-sheet">
            <caption className="sr-only">The sizes of {document.name}</caption>
            <thead>
              <tr className="bg-flax text-left text-walnut-soft">
                <th className="px-1 font-normal">Size</th>
                {columns.map(({ id, name }) => (
                  <th key={id} className="px-1 font-normal whitespace-nowrap">
                    {name}
                  </th>
                ))}
                <th>
                  <span className="sr-only">Verbs</span>
                </th>
              </tr>
            </thead>
            <tbody>
              <AsWritten columns={columns} isUsed={used === undefined} />
              {sizes.slice(0, MOST_ROWS).map((size) => (
                <SizeRow
                  key={size.id}
                  size={size}
                  columns={columns}
                  reading={reader.read(size.id)}
                  isUsed={used === size.id}
                  isShown={shown === size.id}
                  onShow={show}
                />
              ))}
            </tbody>
          </table>
          {sizes.length > MOST_ROWS && <p className="text-walnut-soft">And {sizes.length - MOST_ROWS} more in the table of sizes.</p>}
        </div>
      )}
      <div className="flex flex-wrap">
        <Button className="h-6" onClick={add}>
          Add a size
        </Button>
        {sizes.length > 0 && (
          <Button tone="quiet" className="h-6 text-walnut-soft" onClick={() => workspace.setState({ task: { kind: 'sizes' } })}>
            Table of sizes
          </Button>
        )}
        <Button tone="quiet" className="h-6 text-walnut-soft" onClick={() => workspace.setState({ task: { kind: 'what-ifs' } })}>
          What-ifs
        </Button>
      </div>
      {shown !== undefined && (
        <p role="status" className="text-weld">
          Shown in the size {sizes.find(({ id }) => id === shown)?.name}. Nothing is changed.{' '}
          <Button className="h-6" onClick={() => show(undefined)}>
            Back
          </Button>
        </p>
      )}
      {problem !== undefined && (
        <p role="alert" className="text-madder">
          {problem}
        </p>
      )}
    </section>
  );
}

/** The document without a size: the formulas of the values themselves. */
function AsWritten({ columns, isUsed }: { columns: readonly Parameter[]; isUsed: boolean }) {
  const session = useSession();
  return (
    <tr className={`border-t border-rule ${isUsed ? 'bg-indigo-wash' : ''}`}>
      <th scope="row" className="px-1 text-left font-normal whitespace-nowrap text-walnut-soft">
        as written
      </th>
      <WrittenCells columns={columns} />
      <td className="px-1 whitespace-nowrap">
        {isUsed ? (
          <span className="px-2 text-walnut-soft">in use</span>
        ) : (
          <Button tone="quiet" className="h-6" onClick={() => session.edit({ type: 'sizes.use', size: null })}>
            Use
          </Button>
        )}
      </td>
    </tr>
  );
}

interface SizeRowProps {
  readonly size: Size;
  readonly columns: readonly Parameter[];
  readonly reading: SizeReading;
  readonly isUsed: boolean;
  readonly isShown: boolean;
  readonly onShow: (id: string | undefined) => void;
}

function SizeRow({ size, columns, reading, isUsed, isShown, onShow }: SizeRowProps) {
  const session = useSession();
  return (
    <tr className={`border-t border-rule ${isUsed ? 'bg-indigo-wash' : ''}`}>
      <td className="px-1">
        <SizeName size={size} />
      </td>
      <SizeCells size={size} columns={columns} reading={reading} />
      <td className="px-1 whitespace-nowrap">
        {isUsed && !isShown ? (
          <span className="px-2 text-walnut-soft">in use</span>
        ) : (
          <Button
            tone="quiet"
            className="h-6"
            aria-label={`Use ${size.name}`}
            onClick={() => {
              onShow(undefined);
              session.edit({ type: 'sizes.use', size: size.id });
            }}
          >
            Use
          </Button>
        )}
        {(!isUsed || isShown) && (
          <Button tone="quiet" className="h-6" aria-label={`Show ${size.name}`} onClick={() => onShow(isShown ? undefined : size.id)}>
            {isShown ? 'Back' : 'Show'}
          </Button>
        )}
        <Button tone="quiet" className="h-6" aria-label={`Delete the size ${size.name}`} onClick={() => session.edit({ type: 'size.remove', id: size.id })}>
          ×
        </Button>
      </td>
    </tr>
  );
}
