'use client';
import type { DocumentSession } from '../state/document-session';
import type { WorkspaceStore } from '../state/workspace';
import { beginStep } from '../steps/add-step';
import { STEP_OFFERS } from '../steps/kinds';
import { CommandList, type CommandListProps, type NamedCommand } from './command-list';

/** The commands of a part: steps as well. */
export function PartCommandList(props: Omit<CommandListProps, 'extra'>) {
  return <CommandList {...props} extra={stepCommands} />;
}

/** Every kind of step, on the open sketch where there is one. */
function stepCommands(session: DocumentSession, workspace: WorkspaceStore): NamedCommand[] {
  const steps = STEP_OFFERS.flat().map(({ type, label }) => ({
    name: `Add a step: ${label}`,
    run: () => beginStep(session, workspace, type, workspace.getState().sketch),
  }));
  return [
    ...steps,
    { name: 'Measure', run: () => workspace.setState({ showsMeasure: true, isMeasuring: false, draft: undefined, sketch: undefined }) },
    { name: 'Add a measured value', run: () => workspace.setState({ isMeasuring: true, showsMeasure: false, draft: undefined, sketch: undefined }) },
  ];
}
