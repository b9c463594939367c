'use client';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { FormulaBox } from '../formula-box/formula-box';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { addParameter, splitNamed } from '../state/value-edits';
import { endEditing } from '../state/workspace';
import { Button } from '../design/button';
import { buildLedgerRows, NEW_VALUE, type LedgerRow } from '../state/ledger-rows';
import { ManyRows } from './many-rows';
import { focusOnceDrawn, focusRow, goToRow } from './go-to-row';
import { Goals } from './goals';
import { Guards } from './guards';
import { FirstValue } from './first-value';
import { LedgerBar } from './ledger-bar';
import { chosenValues, copyRows, pastedCells } from './ledger-keys';
import { isWhole, viewRows } from '../state/ledger-view';
import { LookupTables } from './lookup-tables';
import { openBox } from './open-box';
import { rowAt, type RowTarget } from './row-keys';
import { Shortlist } from './shortlist';
import { ThreadGutter } from './thread-gutter';
import { ValuePanel } from './value-panel';
import { RowMenu } from './value-menu';
import { ValueRow } from './value-row';
import { ColumnGrips } from './column-grips';
import { usePageSettings } from '../state/page-settings';

/** More rows than this are drawn only where they are in sight. */
const MANY = 200;

/** Rows that the arrow keys stop at. */
const STOPS: ReadonlySet<LedgerRow['kind']> = new Set(['value', 'step', 'component', 'drive', 'outside', 'mate']);

/** A row that is drawn by whoever it belongs to. */
export type OtherRow = Exclude<LedgerRow, { readonly kind: 'heading' | 'add' | 'value' }>;

interface LedgerProps {
  /** Draws the rows of steps, components, mates and calculations; `onMove` goes on from one to another row. */
  readonly drawOther: (row: OtherRow, onMove: (from: string, to: RowTarget) => void) => React.ReactNode;
  /** What follows the rows, before the tables, guards and goals. */
  readonly foot?: React.ReactNode;
  /** What stands below in the place of the panel of a value. */
  readonly panel?: React.ReactNode;
}

/** The ledger: one list in regeneration order, values and build history together. */
export function Ledger({ drawOther, foot, panel }: LedgerProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const lists = useSessionState((state) => state.document.lists);
  const kind = useSessionState((state) => state.document.kind);
  const isMaster = kind === 'master';
  const folded = useWorkspace((state) => state.folded);
  const view = useWorkspace((state) => state.view);
  const saved = useWorkspace((state) => state.saved);
  const allUses = useWorkspace((state) => state.uses);
  const uses = isMaster ? allUses : undefined;
  // A ledger in its own order is the same whatever its values are.
  const version = useSessionState((state) => (isWhole(view) ? 0 : state.version));
  // The values are one object that is kept up to date in place.
  // oxlint-disable-next-line react/exhaustive-deps
  const flat = useMemo(() => viewRows(session.values, view, { saved, uses: allUses }), [session, view, saved, allUses, version]);
  const rows = useMemo(() => flat ?? buildLedgerRows({ lists, kind }, folded), [flat, lists, kind, folded]);
  const list = useRef<HTMLDivElement>(null);

  const order = useMemo(() => rows.flatMap((row) => (row.kind === 'value' ? row.id : [])), [rows]);
  const stops = useMemo(() => rows.flatMap((row) => (STOPS.has(row.kind) ? row.id : [])), [rows]);
  const move = useCallback(
    (from: string, to: RowTarget): void => {
      const next = rowAt(stops, from, to);
      // One that is not drawn yet is brought into sight first.
      if (next !== undefined && !focusRow(next)) goToRow(workspace, next);
    },
    [stops, workspace],
  );

  const drawRow = useCallback(
    (row: LedgerRow): React.ReactNode => {
      switch (row.kind) {
        case 'heading':
          return (
            <h2 key={row.id} className="flex h-7 items-center pl-7 font-semibold text-walnut-soft" role="presentation">
              {row.text}
            </h2>
          );
        case 'add':
          return <AddRow key={row.id} />;
        case 'value':
          return <ValueRow key={row.id} id={row.id} isOwned={row.step !== undefined} users={uses?.get(row.id)} onMove={move} order={order} />;
        default:
          return drawOther(row, move);
      }
    },
    [uses, move, order, drawOther],
  );
  const many = rows.length > MANY;
  useEffect(() => {
    // A row that was asked for before there was a ledger.
    const { wanted } = workspace.getState();
    if (wanted) focusOnceDrawn(wanted.id);
  }, [workspace]);
  const columns = usePageSettings((settings) => settings.columns);

  return (
    <section
      aria-label="Ledger"
      className="flex h-full min-w-0 flex-col bg-linen"
      style={{ '--value-column': `${columns.value}px`, '--name-column': `${columns.name}px` } as React.CSSProperties}
    >
      <Shortlist />
      <LedgerBar shown={flat?.filter(({ kind }) => kind === 'value').length} />
      {/* The edges of the columns stand above the rows and come after them: Tab leads into the rows. */}
      <div className="flex min-h-0 flex-1 flex-col-reverse">
        <div ref={list} className="relative min-h-0 flex-1 overflow-y-auto">
          <RowMenu order={order}>
            {/* Copying and pasting work on the rows that have the focus or are marked. */}
            <div
              role="grid"
              aria-label="Values and steps"
              aria-multiselectable
              className="relative"
              tabIndex={0}
              onFocus={(event) => {
                const { selected } = workspace.getState();
                const start = selected !== undefined && stops.includes(selected) ? selected : stops[0];
                if (event.target === event.currentTarget && event.target.matches(':focus-visible') && start !== undefined) goToRow(workspace, start);
                // Shift Tab in a row leaves the ledger.
                event.currentTarget.tabIndex = -1;
              }}
              onBlur={(event) => {
                if (!event.currentTarget.contains(event.relatedTarget)) event.currentTarget.tabIndex = 0;
              }}
              onPaste={(event) => {
                const cells = isInBox(event.target) ? undefined : pastedCells(event.clipboardData.getData('text/plain'));
                if (!cells) return;
                event.preventDefault();
                workspace.setState({ table: cells });
              }}
              onCopy={(event) => {
                const id = workspace.getState().selected;
                if (isInBox(event.target) || id === undefined || !order.includes(id)) return;
                event.preventDefault();
                event.clipboardData.setData('text/plain', copyRows(session, chosenValues(workspace, id, order)));
              }}
            >
              {many ? (
                <ManyRows rows={rows} list={list} draw={drawRow} />
              ) : (
                <>
                  <ThreadGutter list={list} rows={rows} />
                  {rows.map(drawRow)}
                </>
              )}
            </div>
          </RowMenu>
          {flat ? (
            flat.length === 0 && <p className="px-7 py-3 text-walnut-soft">No value matches.</p>
          ) : (
            <>
              {foot}
              <LookupTables />
              <Guards />
              <Goals />
            </>
          )}
        </div>
        <ColumnGrips />
      </div>
      {panel ?? <ValuePanel order={order} />}
    </section>
  );
}

function isInBox(target: EventTarget): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));
}

function AddRow() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const cell = useWorkspace((state) => (state.editing?.id === NEW_VALUE ? state.editing : undefined));
  const isAssembly = useSessionState((state) => state.document.kind === 'assembly');
  /** How many values were named one after the other. */
  const [turn, setTurn] = useState(0);
  const open = (): void => openBox(session, workspace, { id: NEW_VALUE, what: 'formula' });
  const close = (): void => {
    endEditing(workspace, NEW_VALUE);
    // Back to the value that was named last.
    const { selected } = workspace.getState();
    if (selected !== undefined) goToRow(workspace, selected);
  };
  if (!cell) {
    return (
      <>
        <div role="row" className="flex h-8 items-center border-b border-rule/50 pl-7">
          <span role="cell">
            <Button tone="plain" className="mr-1.5 h-6" onClick={open}>
              Add a value
            </Button>
            <Button tone="plain" className="mr-1.5 h-6" onClick={() => workspace.setState({ task: { kind: 'link' } })}>
              Link values
            </Button>
            {!isAssembly && (
              <Button tone="plain" className="mr-1.5 h-6" onClick={() => workspace.setState({ task: { kind: 'add-component' } })}>
                Use a calc sheet
              </Button>
            )}
            <Button tone="plain" className="mr-1.5 h-6" onClick={() => workspace.setState({ task: { kind: 'outside' } })}>
              Outside calculation
            </Button>
          </span>
        </div>
        <FirstValue />
      </>
    );
  }
  return (
    <div
      role="row"
      className="flex items-center border-b border-rule/50 py-1 pr-2 pl-7"
      onBlur={(event) => {
        // One that nothing was typed into is not in the way of what is done next.
        const isEmpty = (cell.typed ?? '').trim() === '';
        if (isEmpty && document.hasFocus() && !event.currentTarget.contains(event.relatedTarget)) endEditing(workspace, NEW_VALUE);
      }}
    >
      <span role="cell" className="flex min-w-0 flex-1">
        <FormulaBox
          key={turn}
          values={session.values}
          initial=""
          typed={cell.typed}
          hint="name = formula"
          label="New value: name = formula"
          needsName
          onCancel={close}
          onChange={(typed) => workspace.setState({ editing: { id: NEW_VALUE, what: 'formula', typed } })}
          onAccept={(text, then, plainAs) => {
            if (text.trim() === '') {
              close();
              return undefined;
            }
            const { name, formula } = splitNamed(text);
            if (name === undefined) return 'Type a name, an equals sign and a formula: rail_gap = 21 mm.';
            const { edit, id } = addParameter(session.values, name, formula, plainAs);
            const failure = session.edit(edit);
            if (failure) return failure.message;
            if (then === 'previous') {
              endEditing(workspace, NEW_VALUE);
              goToRow(workspace, id);
              return undefined;
            }
            // Values are named one after the other: the next one has a box of its own, which is there for the very next key.
            setTurn(turn + 1);
            workspace.setState({ selected: id, wanted: { id }, editing: { id: NEW_VALUE, what: 'formula' } });
            return undefined;
          }}
        />
      </span>
    </div>
  );
}
