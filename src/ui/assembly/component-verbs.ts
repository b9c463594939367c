/** What can be done with a component by hand. */
import { findRecord, listIds } from '@/core/document';
import { goToRow } from '../ledger/go-to-row';
import type { DocumentSession } from '../state/document-session';
import type { WorkspaceStore } from '../state/workspace';
import { copyComponent, freePlace } from './component-edits';

/** Removes a component; where formulas read it, that is said and nothing is done. */
export function removeComponent(session: DocumentSession, workspace: WorkspaceStore, id: string): void {
  const order = listIds(session.document, 'components');
  const next = order[order.indexOf(id) + 1] ?? order[order.indexOf(id) - 1];
  if (session.edit({ type: 'component.remove', id })) return;
  workspace.setState({ selected: next });
  if (next !== undefined) goToRow(workspace, next);
}

/** Puts a copy beside everything, and goes to it. */
export function duplicateComponent(session: DocumentSession, workspace: WorkspaceStore, id: string): void {
  const edit = copyComponent(session.document, id, freePlace(session.geometry.largestX()));
  if (!edit || session.edit(edit)) return;
  const order = listIds(session.document, 'components');
  const copy = order[order.indexOf(id) + 1];
  if (copy !== undefined && findRecord(session.document, copy, 'component')) goToRow(workspace, copy);
}
