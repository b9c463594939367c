'use client';
import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { listNamed, listSteps } from '@/core/document';
import { BUILT_AT } from '@/core/studies';
import { beginMate } from '../assembly/begin-mate';
import { viewVerbs } from '../assembly/view-of-components';
import { goToRow } from '../ledger/go-to-row';
import { NEW_VALUE } from '../ledger/ledger-rows';
import { FILTERS, WHOLE_LEDGER, type Filter } from '../ledger/ledger-view';
import { openBox } from '../ledger/open-box';
import { listValueCommands } from '../ledger/value-commands';
import { useSession, useWorkspaceStore } from '../state/context';
import { beginPaste } from '../state/step-verbs';
import type { DocumentSession } from '../state/document-session';
import { type WorkspaceStore } from '../state/workspace';
import { beginStep, STEP_OFFERS } from '../steps/add-step';
import { AT_WORDS, showAt } from '../studies/show-at';

interface NamedCommand {
  readonly name: string;
  readonly run: () => void;
}

/** Everything by name: Ctrl K opens it. */
export function CommandBox() {
  const [isOpen, setOpen] = useState(false);
  /** What had the focus before, and whether a command has been given since. */
  const before = useRef<{ readonly focused: Element | null; readonly isDone: boolean }>({ focused: null, isDone: false });
  useEffect(() => {
    // A key of the whole page, whatever has the focus.
    const onKeyDown = (event: KeyboardEvent): void => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault();
        setOpen((open) => !open);
      }
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, []);
  return (
    <>
      <button
        type="button"
        className="h-7 shrink-0 rounded-box border border-rule bg-sheet px-2 whitespace-nowrap text-walnut-soft"
        onClick={() => setOpen(true)}
      >
        Find or do… <kbd className="ml-1 font-mono text-xs">Ctrl K</kbd>
      </button>
      <Dialog.Root open={isOpen} onOpenChange={setOpen}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-50 bg-walnut/20" />
          <Dialog.Content
            aria-describedby={undefined}
            onOpenAutoFocus={() => {
              before.current = { focused: document.activeElement, isDone: false };
            }}
            onCloseAutoFocus={(event) => {
              event.preventDefault();
              // What a command opens or goes to has the focus then.
              const { focused, isDone } = before.current;
              if (!isDone && focused instanceof HTMLElement) focused.focus();
            }}
            className="fixed top-24 left-1/2 z-50 w-[32rem] -translate-x-1/2 rounded-box border border-rule bg-sheet shadow-box"
          >
            <Dialog.Title className="sr-only">Find or do</Dialog.Title>
            {isOpen && (
              <CommandList
                onDone={() => {
                  before.current = { focused: null, isDone: true };
                  setOpen(false);
                }}
              />
            )}
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </>
  );
}

/** Every kind of step, on the open sketch where there is one. */
function stepCommands(session: DocumentSession, workspace: WorkspaceStore): NamedCommand[] {
  const steps = STEP_OFFERS.flat().map(({ type, label }) => ({
    name: `Add a step: ${label}`,
    run: () => beginStep(session, workspace, type, workspace.getState().sketch),
  }));
  return [
    ...steps,
    { name: 'Measure', run: () => workspace.setState({ showsMeasure: true, isMeasuring: false, draft: undefined, sketch: undefined }) },
    { name: 'Add a measured value', run: () => workspace.setState({ isMeasuring: true, showsMeasure: false, draft: undefined, sketch: undefined }) },
  ];
}

/** What can be done with the value that is selected, or with those that are marked. */
function selectedCommands(session: DocumentSession, workspace: WorkspaceStore): NamedCommand[] {
  const { selected, marked } = workspace.getState();
  const ids = marked.size > 1 ? listNamed(session.document).flatMap(({ id }) => (marked.has(id) ? [id] : [])) : selected === undefined ? [] : [selected];
  const [first] = ids;
  const name = ids.length > 1 ? `${ids.length} marked` : (listNamed(session.document).find(({ id }) => id === first)?.name ?? '');
  return listValueCommands({ session, workspace }, ids)
    .flat()
    .map(({ label, run }) => ({ name: `${name}: ${label}`, run }));
}

function viewCommands(workspace: WorkspaceStore): NamedCommand[] {
  return Object.entries(FILTERS).map(([filter, words]) => ({
    name: `Show ${words}`,
    run: () => workspace.setState({ view: { ...WHOLE_LEDGER, filter: filter as Filter } }),
  }));
}

function CommandList({ onDone }: { onDone: () => void }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const commands: NamedCommand[] = [
    ...selectedCommands(session, workspace),
    { name: 'Undo', run: () => session.undo() },
    { name: 'Redo', run: () => session.redo() },
    { name: 'Save revision', run: () => void session.save('') },
    { name: 'Catch up: preview', run: () => workspace.setState({ task: { kind: 'catch-up' } }) },
    { name: 'History of revisions', run: () => workspace.setState({ task: { kind: 'history' } }) },
    { name: 'Table of sizes', run: () => workspace.setState({ task: { kind: 'sizes' } }) },
    { name: 'Show at nominal', run: () => showAt(session, undefined) },
    ...BUILT_AT.map((at) => ({ name: `Show ${AT_WORDS[at]}`, run: () => showAt(session, at) })),
    { name: 'Limits of each value', run: () => workspace.setState({ task: { kind: 'limits' } }) },
    { name: 'Reach goals', run: () => workspace.setState({ task: { kind: 'goals' } }) },
    { name: 'What-ifs', run: () => workspace.setState({ task: { kind: 'what-ifs' } }) },
    { name: 'Loose ends', run: () => workspace.setState({ showsLooseEnds: true }) },
    { name: 'Formula reference', run: () => workspace.setState({ showsReference: true }) },
    { name: 'Link values of another document', run: () => workspace.setState({ task: { kind: 'link' } }) },
    { name: 'Add a value', run: () => openBox(session, workspace, { id: NEW_VALUE, what: 'formula' }) },
    { name: 'Values from a spreadsheet', run: () => workspace.setState({ table: [] }) },
    ...viewCommands(workspace),
    ...(session.document.kind === 'assembly'
      ? [
          { name: 'Add components', run: () => workspace.setState({ task: { kind: 'add-component' } }) },
          ...viewVerbs(session, workspace).map(({ label, run }) => ({ name: label, run })),
          { name: 'Measure', run: () => workspace.setState({ isMeasuring: true, mating: undefined, selected: undefined }) },
          { name: 'Add a mate', run: () => beginMate(session, workspace) },
        ]
      : [{ name: 'Use a calc sheet', run: () => workspace.setState({ task: { kind: 'add-component' } }) }]),
    ...(session.document.kind === 'part' ? stepCommands(session, workspace) : []),
    ...(session.document.kind === 'part'
      ? [
          { name: 'Paste steps', run: () => beginPaste(session, workspace) },
          {
            name: session.store.getState().isPaused ? 'Resume the geometry' : 'Pause the geometry',
            run: () => session.geometry.setPaused(!session.store.getState().isPaused),
          },
        ]
      : []),
    ...listSteps(session.document).map((step) => ({
      name: step.type === 'sketch' ? `Open sketch ${step.name}` : `Go to ${step.name}`,
      run: () => (step.type === 'sketch' ? workspace.setState({ sketch: step.id, selected: step.id }) : goToRow(workspace, step.id)),
    })),
    ...listNamed(session.document).map((record) => ({ name: `Go to ${record.name}`, run: () => goToRow(workspace, record.id) })),
  ];
  return (
    <Command label="Commands and values">
      <Command.Input placeholder="A value, a step or a command" className="h-10 w-full border-b border-rule bg-transparent px-3 outline-none" />
      <Command.List className="max-h-80 overflow-y-auto p-1">
        <Command.Empty className="p-3 text-walnut-soft">No match.</Command.Empty>
        {commands.map((command) => (
          <Command.Item
            key={command.name}
            value={command.name}
            className="cursor-default rounded-box px-2 py-1 data-[selected=true]:bg-indigo-wash"
            onSelect={() => {
              onDone();
              command.run();
            }}
          >
            {command.name}
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  );
}
