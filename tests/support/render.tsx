/** A document open in a page of components alone: a session against a server in memory, without geometry. */
import { render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import type { Document } from '@/core/document';
import { StoresProvider } from '@/ui/state/context';
import { DocumentSession } from '@/ui/state/document-session';
import { loadEditor } from '@/ui/formula-box/open-editor';
import type { OpenAssembly } from '@/ui/state/page-geometry';
import { createWorkspace } from '@/ui/state/workspace';
import { FakeServer, memoryStore } from './fake-server';

export async function renderIn(document: Document, content: ReactNode) {
  const server = new FakeServer(document);
  const assembly = document.kind === 'assembly' ? await import('@/ui/state/assembly-geometry') : undefined;
  const openAssembly: OpenAssembly | undefined = assembly && ((...args) => new assembly.AssemblyGeometry(...args));
  const session = new DocumentSession(server.reply(), 'ann', server.api, memoryStore(), undefined, openAssembly);
  await session.start();
  // As in a page that has stood for a moment.
  await loadEditor();
  const workspace = createWorkspace();
  const user = userEvent.setup();
  render(<StoresProvider value={{ session, workspace }}>{content}</StoresProvider>);
  return { session, workspace, user, server };
}
