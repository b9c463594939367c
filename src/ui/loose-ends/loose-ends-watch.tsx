'use client';
import { useEffect, useState } from 'react';
import { complete } from '@/core/instances';
import { openLooseEnds, readRevision, type PastValues } from '@/core/loose-ends';
import { LooseEndsClient } from '@/workers/loose-ends-client';
import { api } from '../state/api';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';

/** How long edits rest before loose ends are looked for, in milliseconds. */
const REST_MS = 700;
/** How long a page is left to open before the server is asked. */
const OPENING_MS = 1500;
/** Edits that are looked back to. */
const LOOKED_BACK = 100;
/** Saved revisions that are looked back to. */
const REVISIONS = 3;

/** Keeps the loose ends of the open document up to date, beside the work. Shows nothing. */
export function LooseEndsWatch() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const version = useSessionState((state) => state.version);
  const revision = useSessionState((state) => state.revision);
  const [revisions, setRevisions] = useState<readonly PastValues[]>([]);
  const uses = useWorkspace((state) => state.uses);
  const behind = useSessionState((state) => state.behind);

  useEffect(() => {
    // What values were in earlier revisions is the server's to tell.
    let isGone = false;
    const older = Array.from({ length: Math.min(REVISIONS, revision - 1) }, (_, i) => revision - 1 - i);
    // Not among what a page waits for when it opens.
    const timer = setTimeout(() => {
      void Promise.all(older.map((number) => api.readRevision(session.id, number))).then((replies) => {
        if (!isGone) setRevisions(replies.flatMap((reply) => (reply.ok ? [readRevision(reply.value.values)] : [])));
      });
      if (revision > 0) {
        void api.readRevision(session.id, revision).then((reply) => {
          if (!isGone && reply.ok) workspace.setState({ saved: reply.value.values });
        });
      }
    }, OPENING_MS);
    return () => {
      isGone = true;
      clearTimeout(timer);
    };
  }, [session, workspace, revision]);

  const [client, setClient] = useState<LooseEndsClient>();
  useEffect(() => {
    const created = new LooseEndsClient((found) => workspace.setState({ looseEnds: openLooseEnds(session.values, found) }));
    setClient(created);
    return () => created.close();
  }, [session, workspace]);

  useEffect(() => {
    client?.forget();
    // Looked for when typing and dragging rest.
    const timer = setTimeout(() => {
      const log = session.madeEdits(LOOKED_BACK);
      const measured = session.store.getState().regenerated?.measured ?? {};
      if (log)
        client?.search({
          document: complete(session.document, session.snapshots),
          measured,
          log,
          past: revisions,
          takenElsewhere: new Set(uses.keys()),
          behind,
        });
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [client, session, version, revisions, uses, behind]);
  return null;
}
