/** What everybody is told of who has a document open, and what is done next with it. */
import type { SavedDocument } from '@/contract';
import { publish } from '../events';
import { scheduleRegeneration } from '../jobs';

/** Tells open pages of new revisions, and has the geometry built: before what nobody has just saved. */
export function announce(project: string, documents: readonly SavedDocument[]): void {
  for (const { id, revision } of documents) scheduleRegeneration({ documentId: id, revision, project, size: 0 });
  publish({ type: 'saved', project, documents });
}
