import { toggleFolded, type WorkspaceStore } from '../state/workspace';

/** Selects a value or step, unfolding what hides it, and brings its row into sight and under the keys. */
export function goToRow(workspace: WorkspaceStore, id: string, owner?: string): void {
  if (owner !== undefined && workspace.getState().folded.has(owner)) toggleFolded(workspace, owner);
  workspace.setState({ selected: id, wanted: { id } });
  focusOnceDrawn(id);
}

/** Frames that a row is waited for: it may be drawn only now, or its code be on its way. */
const PATIENCE = 30;

/** Puts the focus on a row as soon as it is drawn. */
export function focusOnceDrawn(id: string, patience = PATIENCE): void {
  requestAnimationFrame(() => {
    if (!focusRow(id) && patience > 0) focusOnceDrawn(id, patience - 1);
  });
}

/** Whether the row is drawn, and so has the focus now. */
export function focusRow(id: string): boolean {
  const row = document.querySelector<HTMLElement>(`[data-row="${CSS.escape(id)}"]`);
  row?.scrollIntoView({ block: 'nearest' });
  // A box in it that is typed into keeps the focus.
  if (row && !row.contains(document.activeElement)) row.focus({ preventScroll: true });
  return row !== null;
}

/** Puts the focus back into the ledger after something over it was closed: on the row that is selected, or on its first one. */
export function focusLedger(workspace: WorkspaceStore): void {
  requestAnimationFrame(() => {
    if (document.activeElement !== null && document.activeElement !== document.body) return;
    const { selected } = workspace.getState();
    if (selected === undefined || !focusRow(selected)) document.querySelector<HTMLElement>('[data-row]')?.focus({ preventScroll: true });
  });
}

/** Puts the focus into what is known of the selected value. */
export function focusDetails(): void {
  const panel = document.querySelector<HTMLElement>('[aria-label="Selected value"]');
  panel?.querySelector<HTMLElement>('input, select')?.focus();
}
