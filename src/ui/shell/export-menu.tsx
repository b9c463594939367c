'use client';
import { useEffect, useRef, useState } from 'react';
import type { ExportFormat } from '@/workers/protocol';
import { Button } from '../design/button';
import { Menu } from '../design/menu';
import { MenuItems, type MenuItem } from '../design/menu-items';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';

const loadFiles = () => import('./export-files');
type Files = Awaited<ReturnType<typeof loadFiles>>;

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

type State =
  | { readonly kind: 'idle' }
  | { readonly kind: 'running'; readonly done: number; readonly of: number }
  | { readonly kind: 'failed'; readonly message: string };

const NOT_LOADED: State = { kind: 'failed', message: 'The file could not be made: the server does not answer. Try again.' };

/** The bodies of the part, or the assembly as it stands, as a file; beside the page, so that it can be cancelled and nothing waits for it. */
export function ExportMenu() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const kind = useSessionState((state) => state.document.kind);
  const formats = kind === 'part' ? FORMATS : kind === 'assembly' ? FORMATS.filter(({ format }) => format !== 'stl') : [];
  const [state, setState] = useState<State>({ kind: 'idle' });
  const cancel = useRef<() => void>(undefined);
  useEffect(() => () => cancel.current?.(), []);

  const withFiles = async (run: (files: Files) => Promise<void>): Promise<void> => {
    const files = await loadFiles().catch(() => undefined);
    if (files) await run(files);
    else setState(NOT_LOADED);
  };
  /** What is held goes out with a word only. */
  const start = async (format: ExportFormat, { exportGeometry, heldNames }: Files): Promise<void> => {
    const run = async (): Promise<void> => {
      setState({ kind: 'running', done: 0, of: 1 });
      const running = exportGeometry(session, format, (done, of) => setState({ kind: 'running', done, of }));
      cancel.current = running.cancel;
      const message = await running.done;
      setState(message === undefined ? { kind: 'idle' } : { kind: 'failed', message });
    };
    const held = heldNames(session.document, session.values);
    if (held.length === 0) {
      await run();
      return;
    }
    workspace.setState({
      question: {
        title: 'Export with held results?',
        words:
          'These values rest on results of outside calculations that were not computed for their present inputs. The shape may be another once they are asked again.',
        lines: held,
        answers: [{ label: 'Export', run: () => void run() }],
      },
    });
  };

  const lines: MenuItem[] = [
    ...formats.map(({ format, label }) => ({ label, run: () => void withFiles((files) => start(format, files)) })),
    ...(kind === 'assembly' ? PARTS_FILES : []).map(({ format, isByLevel, label }) => ({
      label,
      run: () => void withFiles(({ saveParts }) => saveParts(session, format, isByLevel)),
    })),
    { label: 'CSV of the ledger', run: () => void withFiles(({ saveTable }) => saveTable(session, 'csv')) },
    { label: 'XLSX of the ledger', run: () => void withFiles(({ saveTable }) => saveTable(session, 'xlsx')) },
    { label: 'Report to print, or as PDF', run: () => void window.open(`/documents/${session.id}/report`, '_blank', 'noreferrer') },
  ];

  return (
    <span className="relative">
      <Menu align="end" button={{ children: 'Files', className: 'h-7 rounded-box px-2.5 hover:bg-flax-deep', disabled: state.kind === 'running' }}>
        {(parts) => <MenuItems of={parts} groups={[lines, [{ label: 'Values from a spreadsheet…', run: () => workspace.setState({ table: [] }) }]]} />}
      </Menu>
      {state.kind !== 'idle' && (
        <span
          role="status"
          className="absolute top-full right-0 z-40 mt-1 flex w-max max-w-sm items-center gap-2 rounded-box border border-rule bg-sheet px-2 py-1 shadow-box"
        >
          {state.kind === 'running' ? (
            <>
              <progress aria-label="Export" value={state.done} max={state.of} className="w-24" />
              <Button tone="quiet" className="h-6" onClick={() => cancel.current?.()}>
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
