/** An open document without a server and without a kernel: edits stay in the page. */
import type { DocumentReply } from '@/contract';
import type { Document } from '@/core/document';
import { fail } from '@/core/kit';
import { DocumentSession } from '@/ui/state/document-session';

const nothing = () => Promise.resolve();
const emptyStore = { load: () => Promise.resolve({ pending: [], refused: [] }), keep: nothing, refuse: nothing, drop: nothing };

export function openLocally(document: Document): DocumentSession {
  const reply: DocumentReply = {
    project: { id: 'p', name: 'P', material: '' },
    document,
    snapshots: {},
    seq: 0,
    revision: 1,
    savedSeq: 0,
    behind: [],
    unsavedSources: [],
    history: [],
  };
  const down = () => Promise.resolve(fail({ code: 'no-answer' as const, message: 'down' }));
  const api = { postEdits: down, readEdits: down, saveRevision: down, readStanding: down, readPicture: down, readRevision: down, askOutside: down };
  return new DocumentSession(reply, 'ann', api, emptyStore, undefined);
}
