/** A click on a face, an edge or a corner, while a mate is being made. */
import { placeGeometry, readGeometry } from '@/core/assembly';
import { describeGeometry, findRecord, plainId } from '@/core/document';
import type { DocumentSession } from '../state/document-session';
import type { WorkspaceStore } from '../state/workspace';
import { followPath } from './follow-path';
import { withPick } from './mate-draft';

/** `shown` is the body as the canvas calls it: the ids of the components down to the part, and that of its body, with spaces between. */
export async function pickForMate(session: DocumentSession, workspace: WorkspaceStore, shown: string, name: string): Promise<void> {
  const path = shown.split(' ');
  const body = path.pop() ?? '';
  const component = findRecord(session.document, plainId(path[0] ?? ''), 'component');
  const shape = await session.geometry.assembly?.describe(path, body, name);
  const { mating } = workspace.getState();
  if (!mating || !component) return;
  const geometry = shape && readGeometry(shape);
  const at = session.store.getState().placed.find((one) => one.path.join(' ') === path.join(' '))?.at;
  if (!geometry || !at) {
    session.notify('A mate needs a plane or cylindrical face, a straight or circular edge, or a corner. Pick one of these.');
    return;
  }
  const { words } = wordsOfPick(session, path, name);
  workspace.setState({ mating: withPick(mating, { reference: { path, body, name }, geometry: placeGeometry(geometry, at), words }) });
}

/** What a face, edge or corner inside components is called, and the component that it stands in: `pawl: face of the pin`. */
export function wordsOfPick(session: DocumentSession, path: readonly string[], name: string): { readonly words: string; readonly component: string } {
  const { component, inside } = followPath(session.values, path);
  return { words: `${component}: ${inside ? describeGeometry(inside.document, name) : 'geometry inside it'}`, component };
}
