'use client';
import { useWorkspace, useWorkspaceStore } from '../state/context';
import { toggleFolded } from '../state/workspace';

/** Folds away the rows that belong to a row; a dot where there are none. */
export function FoldButton({ id, name, rows }: { readonly id: string; readonly name: string; readonly rows: number }) {
  const workspace = useWorkspaceStore();
  const isFolded = useWorkspace((state) => state.folded.has(id));
  return (
    <button
      type="button"
      className="w-4 shrink-0 text-walnut-soft"
      aria-expanded={!isFolded}
      aria-label={`${isFolded ? 'Unfold' : 'Fold'} ${name}`}
      onClick={() => toggleFolded(workspace, id)}
    >
      {rows === 0 ? '·' : isFolded ? '+' : '−'}
    </button>
  );
}
