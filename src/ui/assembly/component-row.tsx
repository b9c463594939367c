'use client';
import { patternProblem } from '@/core/assembly';
import { findRecord, listRecords, type DocumentValues } from '@/core/document';
import { prettyUnit } from '@/core/units';
import { FormulaBox } from '../formula-box/formula-box';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { endEditing, toggleFolded, toggleMarked } from '../state/workspace';
import { focusRow } from '../ledger/go-to-row';
import { openBox } from '../ledger/open-box';
import { readRowKey, type RowTarget } from '../ledger/row-keys';
import { componentWords } from './component-form';
import { setFromHere } from './component-edits';
import { FoldButton } from '../ledger/fold-button';
import { DocumentIcon } from '../design/kind-icons';

interface RowProps {
  readonly id: string;
  /** Moves the focus to another row of the ledger. */
  readonly onMove: (from: string, to: RowTarget) => void;
}

/** A component: its name, what it stands for, and whether something keeps it from being there. */
export function ComponentRow({ id, drives, onMove }: RowProps & { drives: number }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const component = useSessionState((state) => findRecord(state.document, id, 'component'));
  const isFolded = useWorkspace((state) => state.folded.has(id));
  const marked = useWorkspace((state) => state.marked);
  const isSelected = useWorkspace((state) => state.selected === id);
  const problem = useSessionState(
    ({ values, placement }) =>
      values.components?.problemOf(id) ?? (component && placement && patternProblem(values, component, placement.standing(values, []))),
  );
  const isSuppressed = useSessionState(({ values }) => values.isSuppressed(id));
  const words = useSessionState(({ values }) => (component ? componentWords(component, values).join(', ') : ''));
  const role = useSessionState(({ values }) => roleOf(values, id));
  const kind = useSessionState(({ values }) => values.components?.valuesOf(id)?.document.kind);
  if (!component) return null;
  const select = (): void => workspace.setState({ selected: id });
  const isMarked = marked.has(id);
  const onKeyDown = (event: React.KeyboardEvent): void => {
    if (event.target !== event.currentTarget) return;
    const action = readRowKey(event);
    switch (action?.kind) {
      case 'edit':
        document.querySelector<HTMLElement>('[aria-label="Component"] input, [aria-label="Calculation"] input')?.focus();
        break;
      case 'go':
        onMove(id, action.to);
        break;
      case 'mark':
        toggleMarked(workspace, id);
        break;
      case 'unmark':
        workspace.setState({ marked: new Set() });
        break;
      case 'fold':
        if (action.isFolded !== isFolded) toggleFolded(workspace, id);
        break;
      case 'delete':
        void import('./component-verbs').then(({ markedWith, removeComponents }) =>
          removeComponents(session, workspace, markedWith(session, workspace.getState().marked, id)),
        );
        break;
      default:
        return;
    }
    event.preventDefault();
  };
  return (
    <div
      role="row"
      tabIndex={-1}
      data-row={id}
      aria-selected={isSelected}
      aria-label={`${component.name} ${component.sourceName}`}
      onKeyDown={onKeyDown}
      onFocus={(event) => {
        if (event.target === event.currentTarget) select();
      }}
      className={`border-b border-rule/50 ${isMarked ? 'bg-weld-wash' : isSelected ? 'bg-indigo-wash' : 'bg-flax/60'}`}
    >
      <div role="cell" className="flex h-7 items-center gap-2 pr-2 pl-6">
        <FoldButton id={id} name={component.name} rows={drives} />
        <button
          type="button"
          className="min-w-0 truncate text-left"
          title="Ctrl click marks several: they are copied, with the mates between them, and removed together."
          onClick={(event) => {
            if (event.ctrlKey || event.metaKey || event.shiftKey) toggleMarked(workspace, id);
            else workspace.setState({ selected: id, marked: new Set() });
          }}
        >
          {kind !== undefined && <DocumentIcon kind={kind} />}
          <span className="font-semibold">{component.name}</span>
          <span className="ml-2 text-walnut-soft">
            {component.sourceName}, revision {component.revision}
            {role}
          </span>
        </button>
        <span className="flex-1" />
        <span className="shrink-0 text-walnut-soft">{[words, isSuppressed ? 'suppressed' : ''].filter((word) => word !== '').join(', ')}</span>
      </div>
      {problem !== undefined && <p className="pr-2 pb-1 pl-12 text-madder">{problem}</p>}
    </div>
  );
}

/** What a component without a place is here for, as the end of a sentence. */
function roleOf({ document, components }: DocumentValues, id: string): string {
  if (findRecord(document, id, 'component')?.at !== undefined) return '';
  const starting = listRecords(document, 'steps', 'from-part').filter(({ component }) => component === id);
  if (starting.length > 0) return `, starts ${starting.map(({ body }) => findRecord(document, body, 'body')?.name ?? 'a body').join(', ')}`;
  if (components?.valuesOf(id)?.document.kind === 'calc') return ', calculates';
  return document.kind === 'part' ? '' : ', sets values for the others';
}

/** A value of a component that the assembly sets: what it is, and the formula. */
export function DriveRow({ id, onMove }: RowProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const drive = useSessionState((state) => findRecord(state.document, id, 'drive'));
  const problem = useSessionState(({ values }) => values.sheet.read(id)?.diagnostics[0]?.message);
  const shown = useSessionState(({ values }) => values.showNode(id));
  const isSelected = useWorkspace((state) => state.selected === id);
  const cell = useWorkspace((state) => (state.editing?.id === id ? state.editing : undefined));
  const slot = useSessionState(({ values }) => values.components?.slotOfDrive(id));
  if (!drive) return null;
  const name = drive.sourceName;
  const refocus = (): void => {
    endEditing(workspace, id);
    requestAnimationFrame(() => focusRow(id));
  };
  const edit = (typed?: string): void => openBox(session, workspace, { id, what: 'formula', ...(typed === undefined ? {} : { typed }) });
  const onKeyDown = (event: React.KeyboardEvent): void => {
    if (cell || event.target !== event.currentTarget) return;
    const action = readRowKey(event);
    if (action?.kind === 'edit') edit();
    else if (action?.kind === 'type') {
      edit(action.text);
      if (action.text === '') return;
    } else if (action?.kind === 'go') onMove(id, action.to);
    else if (action?.kind === 'delete') session.edit({ type: 'drive.remove', id });
    else return;
    event.preventDefault();
  };
  return (
    <div
      role="row"
      tabIndex={-1}
      data-row={id}
      aria-selected={isSelected}
      aria-label={`${name} ${problem === undefined ? shown : 'error'}`}
      className={`${cell ? '' : 'ledger-row'} flex h-7 items-center gap-2 border-b border-rule/50 pr-2 pl-10 ${isSelected ? 'bg-indigo-wash' : 'hover:bg-flax'}`}
      onClick={() => workspace.setState({ selected: id })}
      onDoubleClick={() => !cell && edit()}
      onFocus={(event) => {
        if (event.target === event.currentTarget) workspace.setState({ selected: id });
      }}
      onMouseEnter={() => workspace.setState({ hovered: id })}
      onMouseLeave={() => workspace.setState((state) => (state.hovered === id ? { hovered: undefined } : state))}
      onKeyDown={onKeyDown}
    >
      <span
        role="cell"
        className={`w-[var(--value-column)] shrink-0 truncate text-right font-mono tabular-nums ${problem === undefined ? 'value-formula' : 'value-error'}`}
        title={problem ?? shown}
      >
        {problem === undefined ? prettyUnit(shown) : 'error'}
      </span>
      <span role="cell" className="w-[var(--name-column)] shrink-0 truncate font-semibold">
        {name}
      </span>
      <span role="cell" className="flex min-w-0 flex-1 items-center">
        {cell ? (
          <FormulaBox
            values={session.values}
            initial={drive.formula.text}
            typed={cell.typed}
            label={`Formula of ${name}`}
            {...(slot ? { slot } : {})}
            forId={id}
            onCancel={refocus}
            onChange={(typed) => workspace.setState({ editing: { id, what: 'formula', typed } })}
            onAccept={(text, then) => {
              const failure = session.edit(setFromHere(session.document, drive, text.trim()));
              if (failure) return failure.message;
              if (then === 'stay') refocus();
              else {
                endEditing(workspace, id);
                onMove(id, then);
              }
              return undefined;
            }}
          />
        ) : problem === undefined ? (
          <span className="value-formula truncate font-mono">{drive.formula.text}</span>
        ) : (
          <span className="truncate text-madder" title={problem}>
            <span className="font-mono">{drive.formula.text} </span>
            {problem}
          </span>
        )}
      </span>
    </div>
  );
}
