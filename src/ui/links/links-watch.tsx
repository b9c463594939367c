'use client';
import { useEffect } from 'react';
import { api } from '../state/api';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { listenLive } from '../state/live';

/** How long a page is left to open before the server is asked, and how long after a change elsewhere, in milliseconds. */
const OPENING_MS = 600;
const REST_MS = 400;

/** Keeps what is known of the project beside the open document: who takes its values, and what it could take. Shows nothing. */
export function LinksWatch() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const project = useSessionState((state) => state.project.id);
  useEffect(() => {
    // The other documents are the server's; what they have changes when one of them is saved.
    let isGone = false;
    const loadUses = (): void => {
      void api.listUses(session.id).then((reply) => {
        if (isGone || !reply.ok) return;
        const uses = new Map<string, string[]>();
        for (const { parameter, name } of reply.value.uses) uses.set(parameter, [...(uses.get(parameter) ?? []), name]);
        workspace.setState({ uses });
      });
    };
    const loadLinkable = (): void => {
      void api.listLinkable(session.id).then((reply) => {
        if (!isGone && reply.ok) workspace.setState({ linkable: reply.value.values });
      });
    };
    // What could be linked is as of revisions; what is linked follows every edit.
    let isStale = true;
    const load = (): void => {
      loadUses();
      if (isStale) loadLinkable();
      isStale = false;
    };
    let timer = setTimeout(load, OPENING_MS);
    const stop = listenLive((event) => {
      // Pictures that were drawn, and what is edited here, change nothing of it.
      const isFarAway = event.type !== 'reconnected' && (event.project !== project || event.type === 'project');
      if (isFarAway || (event.type === 'edited' && event.document === session.id)) return;
      isStale ||= event.type !== 'edited';
      clearTimeout(timer);
      timer = setTimeout(load, REST_MS);
    });
    return () => {
      isGone = true;
      clearTimeout(timer);
      stop();
    };
  }, [session, workspace, project]);
  return null;
}
