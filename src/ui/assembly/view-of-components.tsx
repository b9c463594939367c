'use client';
/** What of an assembly is seen: hidden, alone, seen through, drawn apart. */
import { findRecord, listIds } from '@/core/document';
import { Button } from '../design/button';
import { useSession, useWorkspace, useWorkspaceStore } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import type { WorkspaceStore } from '../state/workspace';
import { componentOf } from '../state/selection';

export function ViewOfComponents() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const hidden = useWorkspace((state) => state.hidden.size + state.clear.size);
  const exploded = useWorkspace((state) => state.exploded);
  const showsItems = useWorkspace((state) => state.showsItems);
  const selected = useWorkspace((state) => componentOf(session.document, state.selected));
  return (
    <div className="flex items-center gap-1 rounded-box bg-flax/80 p-1">
      {viewVerbs(session, workspace)
        .filter(({ needs }) => (needs === 'selection' ? selected !== undefined : hidden > 0))
        .map(({ label, run }) => (
          <Button key={label} tone="quiet" className="h-6" onClick={run}>
            {label}
          </Button>
        ))}
      <Button tone={showsItems ? 'plain' : 'quiet'} className="h-6" aria-pressed={showsItems} onClick={() => workspace.setState({ showsItems: !showsItems })}>
        Item numbers
      </Button>
      <label className="flex items-center gap-1 px-1">
        Explode
        <input
          type="range"
          min={0}
          max={1}
          step={0.01}
          value={exploded}
          className="w-24"
          onChange={(event) => workspace.setState({ exploded: Number(event.target.value) })}
        />
      </label>
    </div>
  );
}

export interface ViewVerb {
  readonly label: string;
  /** What must be there for it to be of use. */
  readonly needs: 'selection' | 'hidden';
  readonly run: () => void;
}

/** What can be done with the picture of the component that is selected. */
export function viewVerbs(session: DocumentSession, workspace: WorkspaceStore): ViewVerb[] {
  const selected = (): string | undefined => componentOf(session.document, workspace.getState().selected);
  const toggle = (of: 'hidden' | 'clear') => (): void => {
    const id = selected();
    if (id === undefined) return;
    workspace.setState((state) => {
      const next = new Set(state[of]);
      if (!next.delete(id)) next.add(id);
      return { [of]: next };
    });
  };
  return [
    { label: 'Hide', needs: 'selection', run: toggle('hidden') },
    {
      label: 'Show only this',
      needs: 'selection',
      run: () => {
        const id = selected();
        const others = listIds(session.document, 'components').filter(
          (other) => other !== id && findRecord(session.document, other, 'component')?.at !== undefined,
        );
        workspace.setState({ hidden: new Set(others) });
      },
    },
    { label: 'See through', needs: 'selection', run: toggle('clear') },
    { label: 'Show all', needs: 'hidden', run: () => workspace.setState({ hidden: new Set(), clear: new Set() }) },
  ];
}
