'use client';
import { memo, useId } from 'react';
import { findRecord, formulaNow, slotOf } from '@/core/document';
import { FormulaBox } from '../formula-box/formula-box';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { editValue } from '../state/value-edits';
import { endEditing, findFormulaTarget, markRange, markTo, toggleMarked } from '../state/workspace';
import { focusDetails, focusRow } from './go-to-row';
import { chosenValues, deleteValues, dropValue, fillDown, moveValue } from './ledger-keys';
import { NameBox } from './name-box';
import { openBox } from './open-box';
import { readRowKey, type RowTarget } from './row-keys';
import { FromCell, HeldMark, hasTolerance, SafeRangeCell, ToleranceCell, ValueCell } from './value-cells';

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
  readonly onMove: (from: string, to: RowTarget) => void;
}

/** One value: what it is now, its name, where it comes from. Its keys are those of `row-keys`. */
export const ValueRow = memo(function ValueRow({ id, isOwned, users, order, onMove }: ValueRowProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  // A row is drawn again only when it is of another shape; its value has a cell of its own.
  const problem = useSessionState(({ values }) => values.sheet.read(id)?.diagnostics[0]?.message);
  const isLiteral = useSessionState(({ values }) => values.sheet.read(id)?.isLiteral === true);
  const readers = useSessionState(({ values }) => values.sheet.listReaders(id).filter((reader) => !reader.includes('/') || reader.includes('/in ')).length);
  const record = useSessionState((state) => findRecord(state.document, id, 'parameter') ?? findRecord(state.document, id, 'take'));
  const isSelected = useWorkspace((state) => state.selected === id);
  const isMarked = useWorkspace((state) => state.marked.has(id));
  const isMeasured = useSessionState(({ values }) => record !== undefined && values.isMeasured(id));
  // A driving value of this document, in a ledger that is in its own order.
  const isMovable = useWorkspace((state) => state.view.sort === 'order') && record?.type === 'parameter' && record.owner === undefined;
  const cell = useWorkspace((state) => (state.editing?.id === id ? state.editing : undefined));
  const editing = cell?.what;
  const key = useId();
  const drag = {
    draggable: isMovable && !editing,
    onDragStart: ({ dataTransfer }: React.DragEvent): void => {
      dataTransfer.setData(DRAGGED, id);
      dataTransfer.effectAllowed = 'move';
    },
  };
  if (!record) return null;
  const select = (): void => {
    workspace.setState({ selected: id });
  };
  const refocus = (): void => {
    endEditing(workspace, id);
    requestAnimationFrame(() => focusRow(id));
  };
  const edit = (what: 'formula' | 'name', typed?: string): void => {
    const hasFormula = record.type === 'parameter' && !isMeasured;
    if (what === 'formula' && !hasFormula && typed !== undefined) {
      const isAnswer = record.type === 'parameter' && record.measure?.of === 'outside';
      session.notify(
        isMeasured
          ? `${record.name} ${isAnswer ? 'is the answer of an outside calculation' : 'is measured'}; it has no formula.`
          : `${record.name} is linked: it is changed in its own document.`,
      );
      return;
    }
    const next = { id, what: hasFormula ? what : 'name', ...(typed === undefined ? {} : { typed }) } as const;
    openBox(session, workspace, next);
  };
  const onKeyDown = (event: React.KeyboardEvent): void => {
    if (editing || event.target !== event.currentTarget) return;
    const action = readRowKey(event);
    switch (action?.kind) {
      case 'edit':
        edit(action.what);
        break;
      case 'type':
        edit('formula', action.text);
        // What is being put together goes on in the box.
        if (action.text === '') return;
        break;
      case 'go':
        if (action.marks) markTo(workspace, id, order[order.indexOf(id) + (action.to === 'next' ? 1 : -1)]);
        onMove(id, action.to);
        break;
      case 'move':
        moveValue(session, id, action.by);
        break;
      case 'delete':
        deleteValues(session, workspace, chosenValues(workspace, id, order));
        break;
      case 'fill-down':
        fillDown(session, chosenValues(workspace, id, order));
        break;
      case 'mark':
        toggleMarked(workspace, id);
        break;
      case 'mark-all':
        workspace.setState({ marked: new Set(order) });
        break;
      case 'unmark':
        workspace.setState({ marked: new Set() });
        break;
      case 'details':
        focusDetails();
        break;
      default:
        // What is copied is copied by the browser's own event.
        return;
    }
    event.preventDefault();
  };
  return (
    <div
      role="row"
      // The ledger is one stop of the Tab key; arrows go from row to row.
      tabIndex={-1}
      data-row={id}
      aria-selected={isSelected}
      aria-labelledby={`${key}-name ${key}-value`}
      className={`${editing ? 'h-7' : isSelected ? 'min-h-7' : 'ledger-row h-7'} flex items-center gap-2 border-b border-rule/50 pr-2 ${isOwned ? 'pl-10' : 'pl-7'} ${isMarked ? 'bg-weld-wash' : isSelected ? 'bg-indigo-wash' : 'hover:bg-flax'}`}
      onMouseDown={(event) => {
        // Rows are marked from the one that has the focus, and no text with them.
        if (event.shiftKey) event.preventDefault();
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
      onDoubleClick={(event) => {
        if (editing || findFormulaTarget()) return;
        const isOnName = event.target instanceof Element && event.target.closest(`[id="${key}-name"]`) !== null;
        edit(isOnName ? 'name' : 'formula');
      }}
      onKeyDown={onKeyDown}
    >
      <ValueCell record={record} cellId={`${key}-value`} isLiteral={isLiteral} isMeasured={isMeasured} problem={problem} />
      <span role="cell" id={`${key}-name`} className={`w-[var(--name-column)] shrink-0 font-semibold ${editing === 'name' ? '' : 'truncate'}`} {...drag}>
        {editing === 'name' ? <NameBox record={record} onDone={refocus} onLeave={() => endEditing(workspace, id)} /> : record.name}
      </span>
      <span role="cell" className="flex min-w-0 flex-1 items-center">
        {editing === 'formula' && record.type === 'parameter' ? (
          <FormulaBox
            values={session.values}
            initial={formulaNow(session.document, record).text}
            typed={cell?.typed}
            label={`Formula of ${record.name}`}
            slot={slotOf(record)}
            forId={id}
            onCancel={refocus}
            onChange={(typed) => workspace.setState({ editing: { id, what: 'formula', typed } })}
            onAccept={(text, then) => {
              const edit = editValue(session.document, id, text);
              const failure = edit && session.edit(edit);
              if (failure) return failure.message;
              if (then === 'stay') refocus();
              else {
                endEditing(workspace, id);
                onMove(id, then);
              }
              return undefined;
            }}
          />
        ) : (
          <FromCell record={record} isLiteral={isLiteral} isMeasured={isMeasured} problem={problem} />
        )}
      </span>
      <HeldMark id={id} />
      {hasTolerance(record) && <ToleranceCell record={record} />}
      <SafeRangeCell id={id} />
      {readers > 0 && (
        <span role="cell" className="shrink-0 text-xs text-walnut-soft" title={`Read by ${readers} ${readers === 1 ? 'value' : 'values'}`}>
          {readers} {readers === 1 ? 'reader' : 'readers'}
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
