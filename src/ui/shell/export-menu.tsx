'use client';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import type { RegenerationClient } from '@/workers/client';
import type { AssemblyFormat, ExportFormat } from '@/workers/protocol';
import { Button } from '../design/button';
import { saveFile } from '../design/save-file';
import { findAny, isNamed, type Document, type DocumentValues } from '@/core/document';
import { partsTable } from '@/core/assembly';
import { complete } from '@/core/instances';
import { COLUMNS, writeTable } from '@/core/value-table';
import { writeCsv, writeXlsx } from '@/formats/spreadsheet';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { clientBeside } from '../state/page-workers';

const FORMATS: readonly { readonly format: ExportFormat; readonly label: string }[] = [
  { format: 'step', label: 'STEP: exact, with names and colours' },
  { format: 'stl', label: 'STL: triangles' },
  { format: '3mf', label: '3MF: triangles, with names and colours' },
  { format: 'glb', label: 'glTF: triangles, with names and colours' },
];

const PARTS_FILES = [
  { format: 'csv', isByLevel: false, label: 'CSV of the parts list' },
  { format: 'xlsx', isByLevel: false, label: 'XLSX of the parts list' },
  { format: 'xlsx', isByLevel: true, label: 'XLSX of the parts list, by level' },
] as const;

const TIME_LIMIT_MS = 600_000;

type State =
  | { readonly kind: 'idle' }
  | { readonly kind: 'running'; readonly done: number; readonly of: number }
  | { readonly kind: 'failed'; readonly message: string };

/** The bodies of the part, or the assembly as it stands, as a file; beside the page, so that it can be cancelled and nothing waits for it. */
export function ExportMenu() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const kind = useSessionState((state) => state.document.kind);
  const formats = kind === 'part' ? FORMATS : kind === 'assembly' ? FORMATS.filter(({ format }) => format !== 'stl') : [];
  const [state, setState] = useState<State>({ kind: 'idle' });
  const client = useRef<RegenerationClient>(undefined);
  useEffect(() => () => client.current?.close(), []);

  /** What is held goes out with a word only. */
  const start = (format: ExportFormat): void => {
    const held = heldNames(session.document, session.values);
    if (held.length === 0) {
      void run(format);
      return;
    }
    workspace.setState({
      question: {
        title: 'Export with held results?',
        words:
          'These values rest on results of outside calculations that were not computed for their present inputs. The shape may be another once they are asked again.',
        lines: held,
        answers: [{ label: 'Export', run: () => void run(format) }],
      },
    });
  };

  const run = async (format: ExportFormat): Promise<void> => {
    const { document } = session;
    const worker = clientBeside('file', document.id, TIME_LIMIT_MS);
    client.current = worker;
    setState({ kind: 'running', done: 0, of: 1 });
    const file = await (document.kind === 'assembly' && format !== 'stl'
      ? exportAssembly(session, worker, format)
      : worker.exportFile(complete(document, session.snapshots), format, { onProgress: (done, of) => setState({ kind: 'running', done, of }) }));
    worker.close();
    if (!file.ok) {
      setState(
        file.failure.kind === 'closed' ? { kind: 'idle' } : { kind: 'failed', message: 'The file could not be made; the part is as it was. Try again.' },
      );
    } else if (file.value.bodies === 0) {
      setState({ kind: 'failed', message: 'There is no body to export: none is built.' });
    } else {
      saveFile(file.value.bytes, `${document.name}.${format}`);
      setState({ kind: 'idle' });
    }
  };

  return (
    <span className="relative">
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="h-7 rounded-box px-2.5 hover:bg-flax-deep" disabled={state.kind === 'running'}>
          Files
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" className="z-50 rounded-box border border-rule bg-sheet py-1 shadow-box">
            {formats.map(({ format, label }) => (
              <DropdownMenu.Item key={format} className={ITEM} onSelect={() => start(format)}>
                {label}
              </DropdownMenu.Item>
            ))}
            {(kind === 'assembly' ? PARTS_FILES : []).map(({ format, isByLevel, label }) => (
              <DropdownMenu.Item key={label} className={ITEM} onSelect={() => void saveParts(session, format, isByLevel)}>
                {label}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Item className={ITEM} onSelect={() => void saveTable(session, 'csv')}>
              CSV of the ledger
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => void saveTable(session, 'xlsx')}>
              XLSX of the ledger
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => void window.open(`/documents/${session.id}/report`, '_blank', 'noreferrer')}>
              Report to print, or as PDF
            </DropdownMenu.Item>
            <DropdownMenu.Item className={`${ITEM} mt-1 border-t border-rule`} onSelect={() => workspace.setState({ table: [] })}>
              Values from a spreadsheet…
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {state.kind !== 'idle' && (
        <span
          role="status"
          className="absolute top-full right-0 z-40 mt-1 flex w-max max-w-sm items-center gap-2 rounded-box border border-rule bg-sheet px-2 py-1 shadow-box"
        >
          {state.kind === 'running' ? (
            <>
              <progress aria-label="Export" value={state.done} max={state.of} className="w-24" />
              <Button tone="quiet" className="h-6" onClick={() => client.current?.close()}>
                Cancel
              </Button>
            </>
          ) : (
            <>
              <span className="text-madder">{state.message}</span>
              <Button tone="quiet" className="h-6" onClick={() => setState({ kind: 'idle' })}>
                Close
              </Button>
            </>
          )}
        </span>
      )}
    </span>
  );
}

function heldNames(document: Document, { sheet }: DocumentValues): string[] {
  return [...sheet.listHeld()].flatMap((id) => {
    const record = findAny(document, id);
    return record && isNamed(record) ? record.name : [];
  });
}

function exportAssembly(session: DocumentSession, worker: RegenerationClient, format: AssemblyFormat) {
  const { root, parts } = session.geometry.tree();
  return worker.exportAssembly(session.document, format, root, parts);
}

const ITEM = 'cursor-default px-3 py-1 outline-none data-[highlighted]:bg-indigo-wash';

async function saveParts(session: DocumentSession, format: 'csv' | 'xlsx', isByLevel: boolean): Promise<void> {
  const cells = partsTable(isByLevel ? session.partsByLevel() : session.partsList());
  const bytes = format === 'csv' ? new TextEncoder().encode(writeCsv(cells)) : await writeXlsx(cells, session.document.name);
  saveFile(bytes, `${session.document.name} parts${isByLevel ? ' by level' : ''}.${format}`);
}

async function saveTable({ document, values }: DocumentSession, format: 'csv' | 'xlsx'): Promise<void> {
  const cells = [[...COLUMNS], ...writeTable(values).map((row) => COLUMNS.map((column) => row[column]))];
  const bytes = format === 'csv' ? new TextEncoder().encode(writeCsv(cells)) : await writeXlsx(cells, document.name);
  saveFile(bytes, `${document.name} values.${format}`);
}
