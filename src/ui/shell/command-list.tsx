'use client';
import { Command } from 'cmdk';
import { listNamed, listSteps } from '@/core/document';
import { BUILT_AT } from '@/core/studies';
import { beginMate } from '../assembly/begin-mate';
import { viewVerbs } from '../assembly/view-of-components';
import { goToRow } from '../ledger/go-to-row';
import { openBox } from '../ledger/open-box';
import { listValueCommands } from '../ledger/value-commands';
import { useSession, useWorkspaceStore } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { NEW_VALUE } from '../state/ledger-rows';
import { FILTERS, WHOLE_LEDGER, type Filter } from '../state/ledger-view';
import { beginPaste } from '../state/step-verbs';
import { type WorkspaceStore } from '../state/workspace';
import { AT_WORDS, showAt } from '../studies/show-at';
import { COMMAND_FIELD, COMMAND_HINT, focusOn } from './command-field';

export interface NamedCommand {
  readonly name: string;
  readonly run: () => void;
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

export interface CommandListProps {
  /** What is typed. */
  readonly text: string;
  readonly onType: (text: string) => void;
  readonly onDone: () => void;
  /** Commands of this kind of document alone. */
  readonly extra?: (session: DocumentSession, workspace: WorkspaceStore) => NamedCommand[];
}

/** What can be done, and all values and steps, narrowed by what is typed. */
export function CommandList({ text, onType, onDone, extra }: CommandListProps) {
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
    ...(extra?.(session, workspace) ?? []),
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
      <Command.Input ref={focusOn} value={text} onValueChange={onType} placeholder={COMMAND_HINT} className={COMMAND_FIELD} />
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
