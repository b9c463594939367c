/** A mate is begun: for the component that is selected, where one is. */
import type { DocumentSession } from '../state/document-session';
import { newId } from '../state/identity';
import type { WorkspaceStore } from '../state/workspace';
import { newMate } from './mate-draft';
import { componentOf } from '../state/selection';

export function beginMate(session: DocumentSession, workspace: WorkspaceStore): void {
  workspace.setState(({ selected }) => ({ mating: newMate(newId, componentOf(session.document, selected)), selected: undefined }));
}
