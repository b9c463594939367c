'use client';
import { useMemo, useRef, useState } from 'react';
import { hasShape, inSize, isNamed, isTable, listSizes, sizeColumns, sizeTable, type Document, type Size } from '@/core/document';
import { readSizes, valuesOfTable } from '@/core/studies';
import { readCsv, writeCsv, writeTabbed, writeXlsx } from '@/formats/spreadsheet';
import { Button } from '../design/button';
import { ModalPage } from '../design/modal-page';
import { saveFile } from '../design/save-file';
import { VerbMenu } from '../design/verb-menu';
import { useSession, useSessionState } from '../state/context';
import { CompareStates, type NamedState } from './compare-states';
import { SizesAsFiles, SizesFromTable } from './size-files';
import { addSize, sizeCells } from './size-edits';
import { FILTERS, isToBeChecked, orderSizes, type KnownSize, type SizeFilter, type SizeOrder } from './size-order';
import { SizesTable } from './sizes-table';
import { useSizeChecks, type SizeChecks } from './use-size-checks';

/** The table of sizes: written, checked, compared, and made into files. */
export function SizesPage({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const checks = useSizeChecks(document);
  const { found, isOld } = checks;
  const reader = useMemo(() => readSizes(document, session.snapshots), [document, session]);
  const [find, setFind] = useState('');
  const [filter, setFilter] = useState<SizeFilter>('all');
  const [order, setOrder] = useState<SizeOrder>();
  const [picked, setPicked] = useState<readonly string[]>([]);
  const [compared, setCompared] = useState<readonly [string, string]>();
  const [dialog, setDialog] = useState<{ readonly kind: 'files' } | { readonly kind: 'table'; readonly cells: readonly (readonly string[])[] }>();
  const [problem, setProblem] = useState<string>();
  const scroller = useRef<HTMLDivElement>(null);

  const sizes = listSizes(document);
  const known = useMemo(
    () =>
      listSizes(document).map((size): KnownSize => {
        const checked = found?.get(size.id);
        return {
          size,
          checked,
          isOld: isOld(size.id),
          read: (id) => {
            const live = reader.read(size.id).get(id);
            if (live && live.diagnostics.length === 0) return live;
            const kept = checked && Object.hasOwn(checked.readings, id) ? checked.readings[id] : undefined;
            return kept && { value: kept.value ?? NaN, shown: kept.shown };
          },
        };
      }),
    [document, found, isOld, reader],
  );
  const listed = useMemo(() => orderSizes(known, { find, filter, order, values: valuesOfTable(document) }), [known, find, filter, order, document]);
  const chosen = picked.filter((id) => sizes.some((size) => size.id === id));
  const [one, other] = (compared ?? []).map((id) => sizes.find((size) => size.id === id));

  const paste = async (): Promise<void> => {
    const read = readCsv(await navigator.clipboard.readText().catch(() => ''));
    setProblem(read.ok ? undefined : read.failure);
    if (read.ok) setDialog({ kind: 'table', cells: read.value });
  };
  return (
    <ModalPage title={`Sizes of ${document.name}`} leave="Close" onClose={onClose}>
      <div className="flex h-full min-h-0 flex-col">
        <div role="toolbar" aria-label="Table of sizes" className="flex flex-wrap items-center gap-1 border-b border-rule px-3 py-1.5">
          <Button onClick={() => setProblem(session.edit(addSize(document))?.message)}>Add a size</Button>
          <AddValues document={document} onProblem={setProblem} />
          <CheckVerbs checks={checks} known={known} />
          <Button
            disabled={chosen.length !== 2}
            title="Tick two sizes to see them over one another"
            onClick={() => setCompared([chosen[0] ?? '', chosen[1] ?? ''])}
          >
            Compare
          </Button>
          <span className="flex-1" />
          <input
            type="search"
            aria-label="Find sizes"
            placeholder="Find"
            className="h-7 w-32 rounded-box border border-rule bg-sheet px-2"
            value={find}
            onChange={(event) => setFind(event.target.value)}
          />
          <select
            aria-label="Which sizes are listed"
            className="h-7 rounded-box border border-rule bg-sheet px-1"
            value={filter}
            onChange={(event) => setFilter(event.target.value as SizeFilter)}
          >
            {Object.entries(FILTERS).map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
          <VerbMenu
            label="Files…"
            groups={[
              [
                { label: 'From a CSV or XLSX file…', run: () => setDialog({ kind: 'table', cells: [] }) },
                { label: 'Paste a table…', run: () => void paste() },
              ],
              [
                { label: 'Copy the table', run: () => void navigator.clipboard.writeText(writeTabbed(sizeCells(document))) },
                { label: 'Table as CSV', run: () => saveFile(new TextEncoder().encode(writeCsv(sizeCells(document))), `${document.name}, sizes.csv`) },
                {
                  label: 'Table as XLSX',
                  run: () => void writeXlsx(sizeCells(document), 'Sizes').then((bytes) => saveFile(bytes, `${document.name}, sizes.xlsx`)),
                },
              ],
              ...(hasShape(document) && sizes.length > 0 ? [[{ label: 'Files of all sizes…', run: () => setDialog({ kind: 'files' }) }]] : []),
            ]}
          />
        </div>
        {[problem, checks.failure].map(
          (words) =>
            words !== undefined && (
              <p key={words} role="alert" className="border-b border-rule px-3 py-1 text-madder">
                {words}
              </p>
            ),
        )}
        <div ref={scroller} className="min-h-0 flex-1 overflow-auto">
          {sizes.length === 0 ? (
            <p className="p-4 text-walnut-soft">
              A size is a row of values that this document can have: Narrow, Standard, Wide. Add a size, and the values that it sets as columns.
            </p>
          ) : (
            <SizesTable
              document={document}
              listed={listed}
              scroller={scroller}
              order={order}
              onOrder={setOrder}
              picked={chosen}
              onPick={setPicked}
              reader={reader}
              checks={checks}
              onProblem={setProblem}
            />
          )}
          {sizes.length > 0 && listed.length === 0 && <p className="p-4 text-walnut-soft">No size matches.</p>}
        </div>
        {one && other && (
          <div className="max-h-[60%] shrink-0 overflow-y-auto">
            <p className="flex items-center border-t border-rule bg-flax px-3 py-1">
              <span className="flex-1">
                {one.name} and {other.name}
              </span>
              <Button tone="quiet" className="h-6" onClick={() => setCompared(undefined)}>
                Close the comparison
              </Button>
            </p>
            <CompareStates first={stateIn(document, one)} second={stateIn(document, other)} />
          </div>
        )}
      </div>
      {dialog?.kind === 'table' && <SizesFromTable pasted={dialog.cells} onClose={() => setDialog(undefined)} />}
      {dialog?.kind === 'files' && <SizesAsFiles document={document} onClose={() => setDialog(undefined)} />}
    </ModalPage>
  );
}

function stateIn(document: Document, { id, name }: Size): NamedState {
  return { name, document: inSize(document, id) };
}

/** Values that sizes set, and values that are shown beside them. */
function AddValues({ document, onProblem }: { document: Document; onProblem: (problem: string | undefined) => void }) {
  const session = useSession();
  const columns = sizeColumns(document).map(({ id }) => id);
  const results = sizeTable(document)?.results ?? [];
  const named = Object.values(document.records).flatMap((record) => (isNamed(record) && !isTable(record) ? record : []));
  const settable = named.filter((record) => record.type === 'parameter' && record.measure === undefined && !columns.includes(record.id));
  const readable = named.filter(({ id }) => !columns.includes(id) && !results.includes(id));
  return (
    <>
      <VerbMenu
        label="Add a column…"
        isOff={settable.length === 0}
        groups={[
          settable.map(({ id, name }) => ({
            label: name,
            run: () => onProblem(session.edit({ type: 'sizes.columns', columns: [...columns, id] })?.message),
          })),
        ]}
      />
      <VerbMenu
        label="Show a value…"
        isOff={readable.length === 0}
        groups={[
          readable.map(({ id, name }) => ({
            label: name,
            run: () => onProblem(session.edit({ type: 'sizes.results', results: [...results, id] })?.message),
          })),
        ]}
      />
    </>
  );
}

function CheckVerbs({ checks, known }: { checks: SizeChecks; known: readonly KnownSize[] }) {
  const { progress } = checks;
  if (progress) {
    return (
      <span role="status" className="flex items-center gap-2">
        <progress aria-label="Check of sizes" value={progress.done} max={progress.of} className="w-24" />
        {progress.done} of {progress.of}
        <Button onClick={checks.stop}>Stop</Button>
      </span>
    );
  }
  const idsOf = (some: readonly KnownSize[]): string[] => some.map(({ size }) => size.id);
  const open = known.filter(isToBeChecked);
  return (
    <>
      <Button disabled={known.length === 0} onClick={() => checks.run(idsOf(known))}>
        Check all sizes
      </Button>
      {open.length > 0 && open.length < known.length && <Button onClick={() => checks.run(idsOf(open))}>Check {open.length} new or changed</Button>}
    </>
  );
}
