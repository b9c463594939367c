/** A document open in a page of components alone: a session against a server in memory, without geometry. */
import { render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import type { Document } from '@/core/document';
import { StoresProvider } from '@/ui/state/context';
import { DocumentSession } from '@/ui/state/document-session';
import { loadEditor } from '@/ui/formula-box/open-editor';
import { AssemblyGeometry } from '@/ui/state/assembly-geometry';
import { createWorkspace } from '@/ui/state/workspace';
import { FakeServer, memoryStore } from './fake-server';

export async function renderIn(document: Document, content: ReactNode) {
  const server = new FakeServer(document);
  const session = new DocumentSession(
    server.reply(),
    'ann',
    server.api,
    memoryStore(),
    undefined,
    document.kind === 'assembly' ? (...args) => new AssemblyGeometry(...args) : undefined,
  );
  await session.start();
  // As in a page that has stood for a moment.
  await loadEditor();
  const workspace = createWorkspace();
  const user = userEvent.setup();
  render(<StoresProvider value={{ session, workspace }}>{content}</StoresProvider>);
  return { session, workspace, user, server };
}
