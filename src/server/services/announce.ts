/** What everybody is told of who has a document open, and what is done next with it. */
import type { SavedDocument } from '@/contract';
import { publish } from '../events';
import { scheduleRegeneration } from '../jobs';

/** Tells open pages of new revisions, and has the geometry built. */
export function announce(project: string, documents: readonly SavedDocument[]): void {
  for (const { id, revision } of documents) scheduleRegeneration(id, revision);
  publish({ type: 'saved', project, documents });
}
