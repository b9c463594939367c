'use client';
import { Button } from '../design/button';
import { useSession, useWorkspaceStore } from '../state/context';
import { beginMate } from './begin-mate';

/** Below the components of an assembly: what can be added to them. */
export function AddComponentRow() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  return (
    <div role="row" className="flex h-8 items-center border-b border-rule/50 pl-7">
      <span role="cell">
        <Button tone="plain" className="mr-1.5 h-6" onClick={() => workspace.setState({ task: { kind: 'add-component' } })}>
          Add components
        </Button>
        <Button tone="plain" className="mr-1.5 h-6" onClick={() => beginMate(session, workspace)}>
          Add a mate
        </Button>
        <Button tone="plain" className="mr-1.5 h-6" onClick={() => workspace.setState({ isMeasuring: true, mating: undefined, selected: undefined })}>
          Measure
        </Button>
      </span>
    </div>
  );
}
