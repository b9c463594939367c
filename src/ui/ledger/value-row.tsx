'use client';
import { memo, useId, useState } from 'react';
import { findRecord, slotOf } from '@/core/document';
import { FormulaBox } from '../formula-box/formula-box';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { editValue } from '../state/value-edits';
import { findFormulaTarget, markRange, markTo, toggleMarked } from '../state/workspace';
import { chosenValues, deleteValues, dropValue, fillDown, moveValue } from './ledger-keys';
import { NameBox } from './name-box';
import { FromCell, hasTolerance, ToleranceCell, ValueCell } from './value-cells';

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
  // A row is drawn again only when it is of another shape; its value has a cell of its own.
  const problem = useSessionState(({ values }) => values.sheet.read(id)?.diagnostics[0]?.message);
  const isLiteral = useSessionState(({ values }) => values.sheet.read(id)?.isLiteral === true);
  const readers = useSessionState(({ values }) => values.sheet.listReaders(id).filter((reader) => !reader.includes('/')).length);
  const record = useSessionState((state) => findRecord(state.document, id, 'parameter') ?? findRecord(state.document, id, 'take'));
  const isSelected = useWorkspace((state) => state.selected === id);
  const isMarked = useWorkspace((state) => state.marked.has(id));
  const isMeasured = useSessionState(({ values }) => record !== undefined && values.isMeasured(id));
  // A driving value of this document, in a ledger that is in its own order.
  const isMovable = useWorkspace((state) => state.view.sort === 'order') && record?.type === 'parameter' && record.owner === undefined;
  const [editing, setEditing] = useState<'formula' | 'name'>();
  const key = useId();
  const drag = {
    draggable: isMovable && !editing,
    onDragStart: ({ dataTransfer }: React.DragEvent): void => {
      dataTransfer.setData(DRAGGED, id);
      dataTransfer.effectAllowed = 'move';
    },
  };
  if (!record) return null;
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
      aria-labelledby={`${key}-name ${key}-value`}
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
      <ValueCell record={record} cellId={`${key}-value`} isLiteral={isLiteral} isMeasured={isMeasured} problem={problem} />
      <span role="cell" id={`${key}-name`} className={`w-40 shrink-0 font-semibold ${editing === 'name' ? '' : 'truncate'}`} {...drag}>
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
          <FromCell record={record} isLiteral={isLiteral} isMeasured={isMeasured} problem={problem} />
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
