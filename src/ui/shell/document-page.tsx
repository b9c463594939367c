'use client';
import { useEffect, useState } from 'react';
import { hasShape } from '@/core/document';
import { FailedToLoad, Skeleton } from '../design/states';
import { api, type ApiFailure } from '../state/api';
import { StoresProvider } from '../state/context';
import { DocumentSession } from '../state/document-session';
import { thisAuthor } from '../state/identity';
import { listenLive } from '../state/live';
import { loadRows } from './document-ledger';
import { loadPicture } from './load-picture';
import { loadSplit } from './loaded-later';
import { openGeometry } from '../state/open-geometry';
import { createPendingStore } from '../state/pending-store';
import { createWorkspace, type WorkspaceStore } from '../state/workspace';
import { Workspace } from './workspace';

type Opened =
  | { readonly state: 'loading' }
  | { readonly state: 'failed'; readonly failure: ApiFailure }
  | { readonly state: 'open'; readonly session: DocumentSession; readonly workspace: WorkspaceStore };

/** Opens a document and shows its workspace. */
export function DocumentPage({ id }: { id: string }) {
  const [opened, setOpened] = useState<Opened>({ state: 'loading' });
  const [attempt, setAttempt] = useState(0);

  useEffect(() => {
    // The document comes from the server; the session lives as long as the page.
    let session: DocumentSession | undefined;
    let stopListening = (): void => undefined;
    let isGone = false;
    void api.readDocument(id).then(async (reply) => {
      if (isGone) return;
      if (!reply.ok) {
        setOpened({ state: 'failed', failure: reply.failure });
        return;
      }
      const { document } = reply.value;
      if (document.kind !== 'master') void Promise.all([loadSplit(), loadPicture[document.kind]()]);
      const [geometry] = await Promise.all([hasShape(document) ? openGeometry(id, document.kind === 'assembly') : undefined, loadRows(document.kind)]);
      if (isGone) {
        geometry?.client.close();
        return;
      }
      const started = new DocumentSession(reply.value, thisAuthor(), api, createPendingStore(), geometry?.client, geometry?.openAssembly);
      session = started;
      void started.start();
      stopListening = listenLive((event) => {
        started.hear(event);
      });
      setOpened({ state: 'open', session: started, workspace: createWorkspace() });
    });
    return () => {
      isGone = true;
      stopListening();
      session?.close();
    };
  }, [id, attempt]);

  if (opened.state === 'loading') return <Skeleton rows={12} />;
  if (opened.state === 'failed') {
    return <FailedToLoad title="The document cannot be shown" message={opened.failure.message} onRetry={() => setAttempt(attempt + 1)} />;
  }
  return (
    <StoresProvider value={{ session: opened.session, workspace: opened.workspace }}>
      <Workspace />
    </StoresProvider>
  );
}
