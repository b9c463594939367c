'use client';
/** Sizes as files: a table that comes in, shown before anything is changed, and a ZIP with a file of each size. */
import { useEffect, useMemo, useRef, useState } from 'react';
import { listSizes, sizeColumns, type Document } from '@/core/document';
import { readSizes } from '@/core/studies';
import { writeCsv } from '@/formats/spreadsheet';
import type { RegenerationClient } from '@/workers/client';
import { ASSEMBLY_FORMATS, type ExportFormat } from '@/workers/protocol';
import { Button } from '../design/button';
import { saveFile } from '../design/save-file';
import { TableFile, type Cells } from '../design/table-file';
import { TaskDialog, TaskVerbs } from '../design/task-dialog';
import { useSession, useSessionState } from '../state/context';
import { clientBeside } from '../state/page-workers';
import { Choice } from '../design/fields';
import { exportSizes, nameFiles, NAME_PATTERN } from './export-sizes';
import { readSizeCells, sizeCells } from './size-edits';

const TIME_LIMIT_MS = 600_000;
/** Longer lists are counted. */
const MOST_SHOWN = 200;

/** Sizes from a spreadsheet: what they would change, cell by cell. */
export function SizesFromTable({ pasted, onClose }: { pasted: Cells; onClose: () => void }) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const [cells, setCells] = useState(pasted);
  const [refusal, setRefusal] = useState<string>();
  const plan = useMemo(() => (cells.length === 0 ? undefined : readSizeCells(document, cells)), [document, cells]);
  const take = (read: Cells, problem: string | undefined): void => {
    setRefusal(problem);
    setCells(read);
  };
  const changes = plan && 'changes' in plan ? plan.changes : [];
  const accept = (): void => {
    const failure = plan && 'edit' in plan ? session.edit(plan.edit) : undefined;
    if (failure) setRefusal(failure.message);
    else onClose();
  };
  const problem = refusal ?? (plan && 'problem' in plan ? plan.problem : undefined);
  return (
    <TaskDialog
      title="Sizes from a spreadsheet"
      description={<>The first row names values, the first column sizes. Sizes are found by name; a new name is a new size. Nothing is deleted.</>}
      onClose={onClose}
      width="wide"
    >
      <div className="my-2 flex items-center gap-2">
        <TableFile onRead={take} />
        <span role="status" className="text-walnut-soft">
          {cells.length === 0 ? 'No table yet.' : `${changes.length} change${changes.length === 1 ? '' : 's'}`}
        </span>
      </div>
      {problem !== undefined && (
        <p role="alert" className="mb-2 text-madder">
          {problem}
        </p>
      )}
      {changes.length > 0 && (
        <div className="min-h-0 flex-1 overflow-y-auto">
          <table className="w-full border border-rule">
            <caption className="text-left text-walnut-soft">What would change</caption>
            <tbody>
              {changes.slice(0, MOST_SHOWN).map(({ size, value, before, after }, i) => (
                <tr key={i} className="border-t border-rule">
                  <td className="px-2 py-0.5 font-semibold">{size}</td>
                  <td className="px-2 py-0.5 text-walnut-soft">{value ?? 'a new size'}</td>
                  <td className="px-2 py-0.5 font-mono text-madder line-through">{before}</td>
                  <td className="px-2 py-0.5 font-mono text-indigo">{value === undefined ? '' : after || 'as written'}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {changes.length > MOST_SHOWN && <p className="text-walnut-soft">and {changes.length - MOST_SHOWN} more</p>}
        </div>
      )}
      <TaskVerbs label="Take over" isDisabled={changes.length === 0} onAccept={accept} />
    </TaskDialog>
  );
}

const FORMATS = { step: 'STEP', stl: 'STL', '3mf': '3MF', glb: 'glTF' } as const satisfies Record<ExportFormat, string>;
const OF_ASSEMBLIES: Readonly<Partial<Record<ExportFormat, string>>> = Object.fromEntries(ASSEMBLY_FORMATS.map((format) => [format, FORMATS[format]]));

/** A file of every size, in one ZIP: which kind, and what each is called. */
export function SizesAsFiles({ document, onClose }: { document: Document; onClose: () => void }) {
  const { snapshots } = useSession();
  const [format, setFormat] = useState<ExportFormat>('step');
  const [pattern, setPattern] = useState<string>(NAME_PATTERN);
  const [progress, setProgress] = useState<{ readonly done: number; readonly of: number }>();
  const [problem, setProblem] = useState<string>();
  const client = useRef<RegenerationClient>(undefined);
  useEffect(() => () => client.current?.close(), []);
  const reader = useMemo(() => readSizes(document, snapshots), [document, snapshots]);
  const named = useMemo(() => nameFiles(document, pattern, format, (size, value) => reader.read(size).get(value)?.shown), [document, pattern, format, reader]);
  const run = async (): Promise<void> => {
    if (!named.ok) return;
    const worker = clientBeside('file', document.id, TIME_LIMIT_MS);
    client.current = worker;
    setProblem(undefined);
    setProgress({ done: 0, of: listSizes(document).length });
    const made = await exportSizes(worker, document, snapshots, { format, names: named.value, table: writeCsv(sizeCells(document)) }, (done, of) =>
      setProgress({ done, of }),
    );
    worker.close();
    setProgress(undefined);
    if (!made) return;
    if (made.files > 0) saveFile(made.zip, `${document.name}, sizes (${format}).zip`);
    if (made.without.length > 0) setProblem(`No file of ${made.without.join(', ')}: nothing could be built.`);
    else onClose();
  };
  const names = named.ok ? [...named.value.values()] : [];
  return (
    <TaskDialog title="Files of all sizes" description={<>Every size is built, and written into one ZIP, with the table as CSV.</>} onClose={onClose}>
      <Choice<ExportFormat> label="Kind of file" value={format} options={document.kind === 'assembly' ? OF_ASSEMBLIES : FORMATS} onChange={setFormat} />
      <label className="mb-1 block">
        <span className="text-walnut-soft">Name of each file</span>
        <input
          className="h-7 w-full rounded-box border border-rule bg-sheet px-2 font-mono"
          value={pattern}
          maxLength={200}
          onChange={(event) => setPattern(event.target.value)}
        />
      </label>
      <p className="mb-2 text-[13px] text-walnut-soft">
        {'{document}'}, {'{size}'}
        {sizeColumns(document)
          .slice(0, 6)
          .map(({ name }) => `, {${name}}`)
          .join('')}{' '}
        stand for what they say in each size.
      </p>
      {named.ok ? (
        <ul aria-label="Files" className="max-h-40 overflow-y-auto rounded-box border border-rule bg-linen px-2 py-1 font-mono text-[13px]">
          {names.slice(0, MOST_SHOWN).map((name) => (
            <li key={name}>{name}</li>
          ))}
          {names.length > MOST_SHOWN && <li>and {names.length - MOST_SHOWN} more</li>}
        </ul>
      ) : (
        <p role="alert" className="text-madder">
          {named.failure}
        </p>
      )}
      {problem !== undefined && (
        <p role="alert" className="mt-2 text-madder">
          {problem}
        </p>
      )}
      {progress ? (
        <p role="status" className="mt-3 flex items-center gap-2">
          <progress aria-label="Export of all sizes" value={progress.done} max={progress.of} className="w-40" />
          {progress.done} of {progress.of}
          <Button onClick={() => client.current?.close()}>Stop</Button>
        </p>
      ) : (
        <TaskVerbs label="Make the ZIP" isDisabled={!named.ok} onAccept={() => void run()} />
      )}
    </TaskDialog>
  );
}
