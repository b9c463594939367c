'use client';
import { useSessionState, useWorkspaceStore } from '../state/context';
import { Button } from '../design/button';

/** The open sketch, looked at straight. */
export function SketchCanvas({ sketch }: { sketch: string }) {
  const workspace = useWorkspaceStore();
  const solved = useSessionState((state) => state.regenerated?.steps.find((step) => step.id === sketch)?.sketch);
  return (
    <div className="p-4">
      <Button onClick={() => workspace.setState({ sketch: undefined })}>Close the sketch</Button> {solved?.status}
    </div>
  );
}
