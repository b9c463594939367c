'use client';
import { useWorkspace, useWorkspaceStore } from '../state/context';
import { Button } from '../design/button';
import { FormulaReference } from './formula-reference';

/** The formula language beside what is being typed; the box keeps the focus. */
export function ReferenceDrawer() {
  const workspace = useWorkspaceStore();
  const isOpen = useWorkspace((state) => state.showsReference);
  if (!isOpen) return null;
  return (
    <aside aria-label="Formulas" className="fixed inset-y-0 right-0 z-50 w-[30rem] max-w-full overflow-y-auto border-l border-rule bg-linen p-4 shadow-box">
      <header className="mb-2 flex items-center">
        <h2 className="flex-1 text-base font-semibold">Formulas</h2>
        <a href="/formulas" target="_blank" rel="noreferrer" className="mr-3 text-walnut-soft underline">
          on a page of its own
        </a>
        <Button tone="quiet" onMouseDown={(event) => event.preventDefault()} onClick={() => workspace.setState({ showsReference: false })}>
          Close
        </Button>
      </header>
      <FormulaReference />
    </aside>
  );
}
