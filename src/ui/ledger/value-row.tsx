'use client';
import { memo, useState } from 'react';
import {
  describeMeasure,
  findRecord,
  isTable,
  limitsOf,
  previewRename,
  slotOf,
  toleranceText,
  type DocumentValues,
  type Parameter,
  type Take,
} from '@/core/document';
import { prettyUnit } from '@/core/units';
import { FormulaBox } from '../formula-box/formula-box';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { editValue } from '../state/value-edits';
import { findFormulaTarget, markRange, markTo, toggleMarked } from '../state/workspace';
import { chosenValues, deleteValues, dropValue, fillDown, moveValue } from './ledger-keys';
import { useScrub } from './scrub-value';

/** What a row that is dragged carries. */
const DRAGGED = 'application/x-warpbeam-value';

interface ValueRowProps {
  readonly id: string;
  readonly isOwned: boolean;
  /** Names of the documents that take it; shown for a master. */
  readonly users?: readonly string[] | undefined;
  /** All values of the ledger as it is shown. */
  readonly order: readonly string[];
  /** Moves the focus to another row of the ledger. */
  readonly onMove: (from: string, by: 1 | -1, andEdit: boolean) => void;
}

/** One value: what it is now, its name, where it comes from. F2 or Enter edits the formula, F2 twice the name. */
export const ValueRow = memo(function ValueRow({ id, isOwned, users, order, onMove }: ValueRowProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  // What the row shows, as one text: a row is drawn again only when that differs.
  useSessionState(({ values }) => signatureOf(values, id));
  const record = useSessionState((state) => findRecord(state.document, id, 'parameter') ?? findRecord(state.document, id, 'take'));
  const isSelected = useWorkspace((state) => state.selected === id);
  const isMarked = useWorkspace((state) => state.marked.has(id));
  const isMeasured = record !== undefined && session.values.isMeasured(id);
  // A driving value of this document, in a ledger that is in its own order.
  const isMovable = useWorkspace((state) => state.view.sort === 'order') && record?.type === 'parameter' && record.owner === undefined;
  const [editing, setEditing] = useState<'formula' | 'name'>();
  const scrub = useScrub(id);
  const drag = {
    draggable: isMovable && !editing,
    onDragStart: ({ dataTransfer }: React.DragEvent): void => {
      dataTransfer.setData(DRAGGED, id);
      dataTransfer.effectAllowed = 'move';
    },
  };
  if (!record) return null;
  const shown = session.values.show(id);
  const [problem] = shown?.diagnostics ?? [];
  const readers = session.values.sheet.listReaders(id).filter((reader) => !reader.includes('/')).length;
  const refocus = (): void => {
    setEditing(undefined);
    requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-row="${CSS.escape(id)}"]`)?.focus());
  };
  const select = (): void => {
    workspace.setState({ selected: id });
  };
  const onKeyDown = (event: React.KeyboardEvent): void => {
    if (editing || event.target !== event.currentTarget) return;
    if (event.key === 'Enter' || event.key === 'F2') {
      event.preventDefault();
      setEditing(event.shiftKey || record.type === 'take' || isMeasured ? 'name' : 'formula');
      return;
    }
    const isControl = event.ctrlKey || event.metaKey;
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const by = event.key === 'ArrowDown' ? 1 : -1;
      if (event.altKey) moveValue(session, id, by);
      else {
        if (event.shiftKey) markTo(workspace, id, order[order.indexOf(id) + by]);
        onMove(id, by, false);
      }
    } else if (event.key === 'Delete') deleteValues(session, workspace, chosenValues(workspace, id, order));
    else if (isControl && event.key.toLowerCase() === 'd') fillDown(session, chosenValues(workspace, id, order));
    else if (isControl && event.key === ' ') toggleMarked(workspace, id);
    else if (event.key === 'Escape') workspace.setState({ marked: new Set() });
    else return;
    event.preventDefault();
  };
  return (
    <div
      role="row"
      tabIndex={0}
      data-row={id}
      aria-selected={isSelected}
      aria-label={`${record.name} ${isTable(record) ? 'table' : shown?.shown || 'error'}`}
      className={`${editing ? '' : 'ledger-row'} flex h-7 items-center gap-2 border-b border-rule/50 pr-2 ${isOwned ? 'pl-10' : 'pl-7'} ${isMarked ? 'bg-weld-wash' : isSelected ? 'bg-indigo-wash' : 'hover:bg-flax'}`}
      onMouseDown={(event) => {
        const target = findFormulaTarget();
        if (!target || editing) return;
        // A formula is being typed elsewhere: the row gives it its name instead of taking the focus.
        event.preventDefault();
        target.insert(record.name);
      }}
      onClick={(event) => {
        if (findFormulaTarget()) return;
        if (event.ctrlKey || event.metaKey) toggleMarked(workspace, id);
        else if (event.shiftKey) markRange(workspace, order, workspace.getState().selected ?? id, id);
        else workspace.setState({ marked: new Set() });
        if (!event.shiftKey) select();
      }}
      onDragOver={(event) => {
        if (isMovable && event.dataTransfer.types.includes(DRAGGED)) event.preventDefault();
      }}
      onDrop={(event) => {
        const dragged = event.dataTransfer.getData(DRAGGED);
        if (!isMovable || dragged === '') return;
        event.preventDefault();
        dropValue(session, dragged, id);
      }}
      onMouseEnter={() => workspace.setState({ hovered: id })}
      onMouseLeave={() => workspace.setState((state) => (state.hovered === id ? { hovered: undefined } : state))}
      onFocus={(event) => {
        if (event.target === event.currentTarget) select();
      }}
      onDoubleClick={() => setEditing(record.type === 'take' || isMeasured ? 'name' : 'formula')}
      onKeyDown={onKeyDown}
    >
      <span
        role="cell"
        {...scrub}
        className={`w-24 ${shown?.isLiteral && record.type === 'parameter' ? 'cursor-ew-resize touch-none select-none' : ''} shrink-0 truncate text-right font-mono tabular-nums ${problem ? 'value-error' : styleOf(record, shown?.isLiteral === true)} ${isMeasured ? 'italic' : ''}`}
        title={problem?.message ?? shown?.exact}
      >
        {isTable(record) ? 'table' : problem ? 'error' : prettyUnit(shown?.shown ?? '')}
      </span>
      <span role="cell" className={`w-40 shrink-0 font-semibold ${editing === 'name' ? '' : 'truncate'}`} {...drag}>
        {editing === 'name' ? <NameBox record={record} onDone={refocus} /> : record.name}
      </span>
      <span role="cell" className="flex min-w-0 flex-1 items-center">
        {editing === 'formula' && record.type === 'parameter' ? (
          <FormulaBox
            values={session.values}
            initial={record.formula.text}
            label={`Formula of ${record.name}`}
            slot={slotOf(record)}
            forId={id}
            onCancel={refocus}
            onAccept={(text, then) => {
              const edit = editValue(session.document, id, text);
              const failure = edit && session.edit(edit);
              if (failure) return failure.message;
              if (then === 'stay') refocus();
              else {
                setEditing(undefined);
                onMove(id, then === 'next' ? 1 : -1, false);
              }
              return undefined;
            }}
          />
        ) : (
          <From record={record} isLiteral={shown?.isLiteral === true} isMeasured={isMeasured} problem={problem?.message} />
        )}
      </span>
      {hasTolerance(record) && <ToleranceCell record={record} />}
      {readers > 0 && (
        <span role="cell" className="shrink-0 text-walnut-soft" title={`Read by ${readers}`}>
          {readers} <span className="sr-only">readers</span>
        </span>
      )}
      {users && users.length > 0 && (
        <span role="cell" className="shrink-0 text-walnut-soft">
          taken by {users.join(', ')}
        </span>
      )}
    </div>
  );
});

/** The tolerance as it is written, in full on hover. */
function ToleranceCell({ record }: { record: Parameter | Take }) {
  const session = useSession();
  const limits = limitsOf(session.values, record.id);
  const isWrong = limits !== undefined && 'problem' in limits;
  const written = record.type === 'parameter' && record.tolerance ? toleranceText(record.tolerance) : undefined;
  return (
    <span
      role="cell"
      className={`shrink-0 font-mono text-[13px] ${isWrong ? 'text-madder' : 'text-walnut-soft'}`}
      title={limits && ('problem' in limits ? limits.problem : limits.shown)}
    >
      {written ?? (limits && !('problem' in limits) ? limits.shown : '')}
    </span>
  );
}

function hasTolerance(record: Parameter | Take): boolean {
  return record.type === 'parameter' ? record.tolerance !== undefined : record.value.kind === 'quantity' && record.value.tolerance !== undefined;
}

function signatureOf(values: DocumentValues, id: string): string {
  const shown = values.show(id);
  return `${shown?.shown ?? ''} ${shown?.diagnostics[0]?.message ?? ''} ${shown?.isLiteral ?? ''} ${values.isMeasured(id)} ${values.sheet.listReaders(id).length}`;
}

function styleOf(record: Parameter | Take, isLiteral: boolean): string {
  if (record.type === 'take') return 'value-linked';
  return isLiteral ? 'value-plain' : 'value-formula';
}

/** Where a value comes from: its formula, or the document that it is taken from. */
interface FromProps {
  readonly record: Parameter | Take;
  readonly isLiteral: boolean;
  readonly isMeasured: boolean;
  readonly problem: string | undefined;
}

function From({ record, isLiteral, isMeasured, problem }: FromProps) {
  const source = useSessionState((state) => (record.type === 'take' ? findRecord(state.document, record.link, 'link')?.sourceName : undefined));
  if (problem !== undefined) {
    return (
      <span className="truncate text-madder" title={problem}>
        {record.type === 'parameter' && <span className="font-mono">{record.formula.text} </span>}
        {problem}
      </span>
    );
  }
  if (isMeasured)
    return (
      <span className="truncate text-walnut-soft">
        measured{record.type === 'parameter' && record.measure ? `: ${describeMeasure(record.measure.what)}` : ''}
      </span>
    );
  if (record.type === 'take') return <span className="value-linked truncate">{source}</span>;
  return <span className={`truncate font-mono ${isLiteral ? 'text-walnut-soft' : 'value-formula'}`}>{isLiteral ? '' : record.formula.text}</span>;
}

function NameBox({ record, onDone }: { record: Parameter | Take; onDone: () => void }) {
  const session = useSession();
  const [problem, setProblem] = useState<string>();
  const [typed, setTyped] = useState(record.name);
  return (
    <span className="relative block">
      <input
        autoFocus // eslint-disable-line jsx-a11y/no-autofocus -- opened by the user to type into
        aria-label={`Name of ${record.name}`}
        aria-invalid={problem !== undefined}
        defaultValue={record.name}
        className="w-full rounded-box border border-indigo bg-sheet px-1"
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setTyped(event.target.value.trim());
          setProblem(undefined);
        }}
        onBlur={onDone}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Escape') onDone();
          if (event.key !== 'Enter') return;
          const failure = session.edit({ type: 'value.rename', id: record.id, name: event.currentTarget.value.trim() });
          if (failure) setProblem(failure.message);
          else onDone();
        }}
      />
      {problem !== undefined ? (
        <span className="absolute top-full left-0 z-40 rounded-box border border-madder bg-madder-wash px-1.5 whitespace-nowrap">{problem}</span>
      ) : (
        <RenamePreview record={record} name={typed} />
      )}
    </span>
  );
}

/** Formulas that a new name would rewrite, or why it cannot be had. */
function RenamePreview({ record, name }: { record: Parameter | Take; name: string }) {
  const session = useSession();
  if (name === record.name || name === '') return null;
  const { refusal, changes } = previewRename(session.document, record.id, name);
  return (
    <span
      aria-live="polite"
      className="absolute top-full left-0 z-40 w-max max-w-md rounded-box border border-rule bg-sheet px-2 py-1 text-[13px] font-normal shadow-box"
    >
      {refusal !== undefined && <span className="text-madder">{refusal}</span>}
      {refusal === undefined && changes.length === 0 && <span className="text-walnut-soft">No formula reads it.</span>}
      {changes.slice(0, 5).map((change) => (
        <span key={change.id} className="block truncate font-mono">
          {change.name} = <span className="text-indigo">{change.after}</span>
        </span>
      ))}
      {changes.length > 5 && <span className="text-walnut-soft">and {changes.length - 5} more</span>}
    </span>
  );
}
