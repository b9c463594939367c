import type { DocumentSession } from '../state/document-session';
import { beginEditing, type Editing, type WorkspaceStore } from '../state/workspace';
import { goToRow } from './go-to-row';

/** Opens a cell to be typed into; while another one holds something that was typed, goes there and says so. */
export function openBox(session: DocumentSession, workspace: WorkspaceStore, next: Editing): void {
  if (beginEditing(workspace, next)) return;
  session.notify('Another value is being typed: Enter keeps it, Escape leaves it as it was.');
  const open = workspace.getState().editing?.id;
  if (open !== undefined) goToRow(workspace, open);
}
