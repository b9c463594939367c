'use client';
/** The sizes of the document: a row for each, a column for each value that it sets. */
import { DropdownMenu } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import {
  hasShape,
  inSize,
  listDriving,
  listSizes,
  listSteps,
  listRecords,
  SIZE_TABLE,
  sizeColumns,
  sizeTable,
  slotOf,
  tryFormula,
  usedSize,
  type Document,
  type Parameter,
  type Size,
} from '@/core/document';
import { openValues } from '@/core/instances';
import { prettyUnit } from '@/core/units';
import { readCsv, writeCsv, writeTabbed, writeXlsx } from '@/formats/spreadsheet';
import { RegenerationClient } from '@/workers/client';
import type { ExportFormat } from '@/workers/protocol';
import { startBrowserWorker } from '@/workers/start-browser';
import { Button } from '../design/button';
import { MENU, MenuItems } from '../design/menu-items';
import { saveFile } from '../design/save-file';
import { Cell } from '../ledger/cell';
import { readFileContent } from '../state/api';
import { useSession, useSessionState, useWorkspace } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { checkSizes, type CheckedSize } from './check-sizes';
import { exportSizes } from './export-sizes';
import { addSize, cellEdit, readSizeCells, renameSize, sizeCells } from './size-edits';

/** More sizes than this are not listed: a spreadsheet shows them better. */
const MOST_ROWS = 100;

export function SizesSection() {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const marked = useWorkspace((state) => state.marked);
  const selected = useWorkspace((state) => state.selected);
  const [problem, setProblem] = useState<string>();
  const [shown, setShown] = useState<string>();
  // Folded until it is asked for: its cells would be many stops of the Tab key.
  const [isOpen, setOpen] = useState(false);
  const sizes = listSizes(document);
  const columns = sizeColumns(document);
  const check = useCheck(document);
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
  const paste = async (): Promise<void> => {
    const text = await navigator.clipboard.readText().catch(() => '');
    take(session, text, setProblem);
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
      {isOpen && sizes.length > 0 && (
        <div className="mb-1 overflow-x-auto">
          <table className="border-collapse rounded-box border border-rule bg-sheet">
            <caption className="sr-only">The sizes of {document.name}</caption>
            <Head columns={columns} checks={check.found.size > 0} />
            <tbody>
              <AsWritten columns={columns} isUsed={used === undefined} />
              {sizes.slice(0, MOST_ROWS).map((size) => (
                <SizeRow
                  key={size.id}
                  size={size}
                  columns={columns}
                  isUsed={used === size.id}
                  isShown={shown === size.id}
                  onShow={show}
                  checked={check.found.get(size.id)}
                  checks={check.found.size > 0}
                />
              ))}
            </tbody>
          </table>
          {sizes.length > MOST_ROWS && <p className="text-walnut-soft">And {sizes.length - MOST_ROWS} more: the table as a file has them all.</p>}
        </div>
      )}
      <div className="flex flex-wrap">
        <Button className="h-6" onClick={add}>
          Add a size
        </Button>
        {isOpen && sizes.length > 0 && (
          <>
            <AddColumn document={document} columns={columns} />
            <Button tone="quiet" className="text-walnut-soft" onClick={check.isRunning ? check.stop : check.run}>
              {check.isRunning ? 'Stop checking' : 'Check all sizes'}
            </Button>
            <Button tone="quiet" className="text-walnut-soft" onClick={() => void navigator.clipboard.writeText(writeTabbed(sizeCells(document)))}>
              Copy table
            </Button>
            <Button tone="quiet" className="text-walnut-soft" onClick={() => void paste()}>
              Paste table
            </Button>
            <Button
              tone="quiet"
              className="text-walnut-soft"
              onClick={() => saveFile(new TextEncoder().encode(writeCsv(sizeCells(document))), `${document.name}, sizes.csv`)}
            >
              CSV
            </Button>
            <Button
              tone="quiet"
              className="text-walnut-soft"
              onClick={() => void writeXlsx(sizeCells(document), 'Sizes').then((bytes) => saveFile(bytes, `${document.name}, sizes.xlsx`))}
            >
              XLSX
            </Button>
            {hasShape(document) && <ExportAll document={document} onProblem={setProblem} />}
          </>
        )}
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

function take(session: DocumentSession, text: string, onProblem: (problem: string | undefined) => void): void {
  const read = readCsv(text);
  if (!read.ok) {
    onProblem(read.failure);
    return;
  }
  const found = readSizeCells(session.document, read.value);
  onProblem('problem' in found ? found.problem : session.edit(found.edit)?.message);
}

function Head({ columns, checks }: { columns: readonly Parameter[]; checks: boolean }) {
  const session = useSession();
  return (
    <thead>
      <tr className="bg-flax text-left text-walnut-soft">
        <th className="px-1 font-normal">Size</th>
        {columns.map(({ id, name }) => (
          <th key={id} className="px-1 font-normal whitespace-nowrap">
            {name}
            <Button
              tone="quiet"
              className="h-6"
              aria-label={`Remove the column ${name}`}
              onClick={() => session.edit({ type: 'sizes.columns', columns: columns.filter((other) => other.id !== id).map((other) => other.id) })}
            >
              ×
            </Button>
          </th>
        ))}
        {checks && <th className="px-1 font-normal">Checked</th>}
        <th>
          <span className="sr-only">Verbs</span>
        </th>
      </tr>
    </thead>
  );
}

/** The document without a size: the formulas of the values themselves. */
function AsWritten({ columns, isUsed }: { columns: readonly Parameter[]; isUsed: boolean }) {
  const session = useSession();
  return (
    <tr className={`border-t border-rule ${isUsed ? 'bg-indigo-wash' : ''}`}>
      <th scope="row" className="px-1 text-left font-normal text-walnut-soft whitespace-nowrap">
        as written
      </th>
      {columns.map((parameter) => (
        <td key={parameter.id} className="px-1">
          <Cell
            key={parameter.formula.text}
            label={`${parameter.name}, as written`}
            text={parameter.formula.text}
            problemOf={(text) => problemOf(session, parameter, text)}
            onAccept={(text) => session.edit({ type: 'parameter.setFormula', id: parameter.id, formula: { text }, isOwn: true })}
          />
        </td>
      ))}
      <td className="px-1 whitespace-nowrap" colSpan={2}>
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
  readonly isUsed: boolean;
  readonly isShown: boolean;
  readonly onShow: (id: string | undefined) => void;
  readonly checked: CheckedSize | undefined;
  readonly checks: boolean;
}

function SizeRow({ size, columns, isUsed, isShown, onShow, checked, checks }: SizeRowProps) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const values = useMemo(() => openValues(inSize(document, size.id), session.snapshots), [document, size.id, session]);
  return (
    <tr className={`border-t border-rule ${isUsed ? 'bg-indigo-wash' : ''}`}>
      <td className="px-1">
        <Cell
          key={size.name}
          label={`Name of the size ${size.name}`}
          text={size.name}
          problemOf={(text) => (text === '' ? 'A size needs a name.' : undefined)}
          onAccept={(name) => session.edit(renameSize(session.document, size, name))}
        />
      </td>
      {columns.map((parameter) => {
        const text = size.cells[parameter.id]?.text ?? '';
        const reading = values.show(parameter.id);
        const wrong = reading?.diagnostics[0]?.message;
        return (
          <td key={parameter.id} className="px-1 align-top">
            <Cell
              key={text}
              label={`${parameter.name} of ${size.name}`}
              text={text}
              hint={parameter.formula.text}
              problemOf={(next) => (next === '' ? undefined : problemOf(session, parameter, next))}
              onAccept={(next) => session.edit(cellEdit(session.document, size, parameter.id, next))}
            />
            {(wrong !== undefined || (reading && prettyUnit(reading.shown) !== (text || prettyUnit(parameter.formula.text)))) && (
              <span className={`block px-1 font-mono text-xs ${wrong === undefined ? 'text-walnut-soft' : 'text-madder'}`} title={wrong}>
                {wrong === undefined ? prettyUnit(reading?.shown ?? '') : 'error'}
              </span>
            )}
          </td>
        );
      })}
      {checks && (
        <td
          className={`px-1 align-top whitespace-nowrap ${checked && checked.problems.length > 0 ? 'text-madder' : 'text-moss'}`}
          title={checked?.problems.join('\n')}
        >
          {checked && (checked.problems[0] ?? (checked.mass === undefined ? 'good' : `good, ${checked.mass.toFixed(3)} kg`))}
        </td>
      )}
      <td className="px-1 align-top whitespace-nowrap">
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

function problemOf(session: DocumentSession, parameter: Parameter, text: string): string | undefined {
  return tryFormula(session.values, text, slotOf(parameter), parameter.id).diagnostics[0]?.message;
}

/** Values that are no column yet. */
function AddColumn({ document, columns }: { document: Document; columns: readonly Parameter[] }) {
  const session = useSession();
  const there = new Set(columns.map(({ id }) => id));
  const steps = listSteps(document).flatMap(({ id }) => listRecords(document, `${id}/values`, 'parameter'));
  const others = [...listDriving(document), ...steps].flatMap((record) =>
    record.type === 'parameter' && record.measure === undefined && !there.has(record.id) ? [record] : [],
  );
  const add = (id: string): void => {
    session.edit({ type: 'sizes.columns', columns: [...(sizeTable(document)?.columns ?? []), id] });
  };
  return <VerbMenu label="Add a column" choices={Object.fromEntries(others.map(({ id, name }) => [id, name]))} onChoose={add} />;
}

const FORMATS = { step: 'STEP in a ZIP', stl: 'STL in a ZIP', '3mf': '3MF in a ZIP', glb: 'glTF in a ZIP' } as const satisfies Record<ExportFormat, string>;

/** A button that opens a list of choices. */
function VerbMenu({ label, choices, onChoose }: { label: string; choices: Readonly<Record<string, string>>; onChoose: (choice: string) => void }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="h-7 rounded-box px-2.5 text-walnut-soft hover:bg-flax-deep">{label}…</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" className={`${MENU} max-h-80 overflow-y-auto`}>
          <MenuItems of={DropdownMenu} groups={[Object.entries(choices).map(([choice, words]) => ({ label: words, run: () => onChoose(choice) }))]} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Checks every size beside the page; what was found is let go of with the next edit. */
function useCheck(document: Document) {
  const [result, setResult] = useState<{ readonly of: Document; readonly found: ReadonlyMap<string, CheckedSize> }>({ of: document, found: new Map() });
  const { snapshots } = useSession();
  const [isRunning, setRunning] = useState(false);
  const client = useRef<RegenerationClient>(undefined);
  useEffect(() => () => client.current?.close(), []);
  const stop = (): void => {
    client.current?.close();
    setRunning(false);
  };
  const run = (): void => {
    const worker = new RegenerationClient(startBrowserWorker, { readFile: readFileContent });
    client.current = worker;
    setRunning(true);
    setResult({ of: document, found: new Map() });
    const tell = (size: string, checked: CheckedSize): void => setResult(({ of, found }) => ({ of, found: new Map([...found, [size, checked]]) }));
    void checkSizes(worker, document, snapshots, tell).finally(() => {
      worker.close();
      setRunning(false);
    });
  };
  // To look at another size changes nothing of what was checked.
  return { found: isSame(result.of, document) ? result.found : NOTHING, isRunning, run, stop };
}

function isSame(a: Document, b: Document): boolean {
  if (a === b) return true;
  const ids = Object.keys(a.records);
  return ids.length === Object.keys(b.records).length && ids.every((id) => id === SIZE_TABLE || a.records[id] === b.records[id]);
}

const NOTHING: ReadonlyMap<string, CheckedSize> = new Map();

/** A file of every size, in one ZIP. */
function ExportAll({ document, onProblem }: { document: Document; onProblem: (problem: string | undefined) => void }) {
  const { snapshots } = useSession();
  const [progress, setProgress] = useState<{ readonly done: number; readonly of: number }>();
  const client = useRef<RegenerationClient>(undefined);
  useEffect(() => () => client.current?.close(), []);
  const run = async (format: ExportFormat): Promise<void> => {
    const worker = new RegenerationClient(startBrowserWorker, { timeLimitMs: 600_000, readFile: readFileContent });
    client.current = worker;
    setProgress({ done: 0, of: listSizes(document).length });
    const made = await exportSizes(worker, document, snapshots, format, (done, of) => setProgress({ done, of }));
    worker.close();
    setProgress(undefined);
    if (!made) return;
    if (made.files > 0) saveFile(made.zip, `${document.name}, sizes (${format}).zip`);
    onProblem(made.without.length > 0 ? `No file of ${made.without.join(', ')}: nothing could be built.` : undefined);
  };
  if (progress) {
    return (
      <span role="status" className="flex items-center gap-2">
        <progress aria-label="Export of all sizes" value={progress.done} max={progress.of} className="w-24" />
        <Button tone="quiet" className="h-6" onClick={() => client.current?.close()}>
          Cancel
        </Button>
      </span>
    );
  }
  const { stl: _, ...structured } = FORMATS;
  return (
    <VerbMenu
      label="Files of all sizes"
      choices={document.kind === 'assembly' ? structured : FORMATS}
      onChoose={(format) => void run(format as ExportFormat)}
    />
  );
}
