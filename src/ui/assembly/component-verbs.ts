/** What can be done with components by hand. */
import { listIds } from '@/core/document';
import { goToRow } from '../ledger/go-to-row';
import type { DocumentSession } from '../state/document-session';
import type { WorkspaceStore } from '../state/workspace';
import { copyComponents, freePlace } from './component-edits';

/** A component with all that are marked, in their order. */
export function markedWith({ document }: DocumentSession, marked: ReadonlySet<string>, id: string): readonly string[] {
  return listIds(document, 'components').filter((one) => one === id || marked.has(one));
}

/** Removes components; where formulas read one, that is said and nothing is done. */
export function removeComponents(session: DocumentSession, workspace: WorkspaceStore, ids: readonly string[]): void {
  const order = listIds(session.document, 'components');
  const [first = ''] = ids;
  const next = order.slice(order.indexOf(first)).find((id) => !ids.includes(id)) ?? order[order.indexOf(first) - 1];
  const edits = ids.map((id) => ({ type: 'component.remove' as const, id }));
  const [only] = edits;
  if (!only || session.edit(edits.length === 1 ? only : { type: 'batch', edits })) return;
  workspace.setState({ selected: next, marked: new Set() });
  if (next !== undefined) goToRow(workspace, next);
}

/** Puts copies beside everything, with the mates between them, and goes to the first. */
export function duplicateComponents(session: DocumentSession, workspace: WorkspaceStore, ids: readonly string[]): void {
  const copies = copyComponents(session.document, ids, freePlace(session.geometry.assembly?.box()?.max[0]));
  if (!copies || session.edit(copies.edit)) return;
  workspace.setState({ marked: new Set(copies.ids.length > 1 ? copies.ids : []) });
  const [first] = copies.ids;
  if (first !== undefined) goToRow(workspace, first);
}
