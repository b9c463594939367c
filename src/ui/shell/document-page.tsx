'use client';
import { useEffect, useState } from 'react';
import { hasShape, type Document } from '@/core/document';
import { FailedToLoad, Skeleton } from '../design/states';
import { api, type ApiFailure } from '../state/api';
import { StoresProvider } from '../state/context';
import { DocumentSession } from '../state/document-session';
import { thisAuthor } from '../state/identity';
import { listenLive } from '../state/live';
import { loadRows } from './document-ledger';
import { loadPicture } from './load-picture';
import { loadSplit } from './loaded-later';
import { openGeometry, type OpenGeometry } from '../state/open-geometry';
import { forgetOpened, noteOpened, renameOpened, type OpenedDocument } from '../state/opened-documents';
import { createPendingStore } from '../state/pending-store';
import { createWorkspace, type WorkspaceStore } from '../state/workspace';
import { Workspace } from './workspace';

type Opened =
  | { readonly state: 'loading' }
  | { readonly state: 'failed'; readonly failure: ApiFailure }
  | { readonly state: 'open'; readonly session: DocumentSession; readonly workspace: WorkspaceStore };

/** What a document of its kind is shown with; undefined where the server does not give it. */
function loadCode(document: Document): Promise<{ readonly geometry: OpenGeometry | undefined } | undefined> {
  return Promise.all([
    hasShape(document) ? openGeometry(document.id, document.kind === 'assembly') : undefined,
    loadRows(document.kind),
    ...(document.kind === 'master' ? [] : [loadSplit(), loadPicture[document.kind]()]),
  ]).then(
    ([geometry]) => ({ geometry }),
    () => undefined,
  );
}

function cardOf(session: DocumentSession): OpenedDocument {
  const { id, name, kind } = session.document;
  return { id, name, kind, project: session.store.getState().project.id };
}

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
        if (reply.failure.code === 'not-found') forgetOpened(id);
        setOpened({ state: 'failed', failure: reply.failure });
        return;
      }
      const { document } = reply.value;
      const code = await loadCode(document);
      if (isGone) {
        code?.geometry?.client.close();
        return;
      }
      if (!code) {
        setOpened({ state: 'failed', failure: { code: 'no-answer', message: 'The server does not answer.' } });
        return;
      }
      const { geometry } = code;
      const started = new DocumentSession(reply.value, thisAuthor(), api, createPendingStore(), geometry?.client, geometry?.openAssembly);
      session = started;
      noteOpened(cardOf(started));
      void started.start();
      stopListening = listenLive((event) => {
        started.hear(event);
      });
      setOpened({ state: 'open', session: started, workspace: createWorkspace() });
    });
    return () => {
      isGone = true;
      stopListening();
      if (session) renameOpened(cardOf(session));
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
