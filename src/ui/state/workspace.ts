/** What the page of one document shows of it: selection, folded steps, the sketch being edited. */
import { createStore, type StoreApi } from 'zustand/vanilla';

export interface WorkspaceState {
  /** Id of the selected value, step, or piece of sketch geometry. */
  readonly selected: string | undefined;
  readonly folded: ReadonlySet<string>;
  readonly sketch: string | undefined;
  readonly isTraceOpen: boolean;
  readonly dimensionText: 'value' | 'name' | 'formula';
}

export type WorkspaceStore = StoreApi<WorkspaceState>;

export function createWorkspace(): WorkspaceStore {
  return createStore<WorkspaceState>(() => ({ selected: undefined, folded: new Set(), sketch: undefined, isTraceOpen: false, dimensionText: 'value' }));
}

export function toggleFolded(store: WorkspaceStore, id: string): void {
  store.setState((state) => {
    const folded = new Set(state.folded);
    if (!folded.delete(id)) folded.add(id);
    return { folded };
  });
}

/**
 * The formula box that has the focus, if any: picking a row or a dimension then puts its name in there
 * instead of selecting it.
 */
export interface FormulaTarget {
  readonly insert: (name: string) => void;
}

let target: FormulaTarget | undefined;

export function setFormulaTarget(next: FormulaTarget | undefined): void {
  target = next;
}

export function findFormulaTarget(): FormulaTarget | undefined {
  return target;
}
