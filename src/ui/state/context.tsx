'use client';
/** The bridge between React and the stores: one context, hooks with selectors. */
import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import type { DocumentSession } from './document-session';
import type { SessionState } from './session-state';
import type { WorkspaceState, WorkspaceStore } from './workspace';

interface Stores {
  readonly session: DocumentSession;
  readonly workspace: WorkspaceStore;
}

const StoresContext = createContext<Stores | undefined>(undefined);

export const StoresProvider = StoresContext.Provider;

function useStores(): Stores {
  const stores = useContext(StoresContext);
  if (!stores) throw new Error('Bug: no document is open here');
  return stores;
}

export function useSession(): DocumentSession {
  return useStores().session;
}

export function useWorkspaceStore(): WorkspaceStore {
  return useStores().workspace;
}

export function useSessionState<T>(select: (state: SessionState) => T): T {
  return useStore(useStores().session.store, select);
}

export function useWorkspace<T>(select: (state: WorkspaceState) => T): T {
  return useStore(useStores().workspace, select);
}
