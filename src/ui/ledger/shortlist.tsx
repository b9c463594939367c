'use client';
import { listDriving } from '@/core/document';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { findFormulaTarget } from '../state/workspace';

/** Pinned values as chips above the ledger. */
export function Shortlist() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const pinned = useSessionState((state) => state.document);
  useSessionState((state) => state.version);
  const values = listDriving(pinned).filter((value) => value.pinned === true);
  if (values.length === 0) return null;
  return (
    <ul aria-label="Shortlist" className="flex shrink-0 flex-wrap gap-1.5 border-b border-rule bg-flax px-2 py-1.5">
      {values.map((value) => (
        <li key={value.id}>
          <button
            type="button"
            className="flex h-6 items-center gap-1.5 rounded-box border border-rule bg-sheet px-2 hover:border-indigo"
            onMouseDown={(event) => {
              const target = findFormulaTarget();
              if (!target) return;
              event.preventDefault();
              target.insert(value.name);
            }}
            onClick={() => {
              if (findFormulaTarget()) return;
              workspace.setState({ selected: value.id });
              document.querySelector<HTMLElement>(`[data-row="${CSS.escape(value.id)}"]`)?.focus();
            }}
          >
            <span className={value.type === 'take' ? 'value-linked' : ''}>{value.name}</span>
            <span className="font-mono tabular-nums">{session.values.show(value.id)?.shown}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
