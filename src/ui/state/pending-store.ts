/** Edits that the server has not acknowledged, kept in the browser so that nothing is lost. */
import { openDB, type IDBPDatabase } from 'idb';
import type { Envelope } from '@/contract';

export interface PendingStore {
  load: (document: string) => Promise<readonly Envelope[]>;
  save: (document: string, envelopes: readonly Envelope[]) => Promise<void>;
}

const STORE = 'pending';

/** In IndexedDB, one entry a document. */
export function createPendingStore(): PendingStore {
  let opened: Promise<IDBPDatabase> | undefined;
  const open = (): Promise<IDBPDatabase> =>
    (opened ??= openDB('warpbeam', 1, {
      upgrade: (db) => {
        db.createObjectStore(STORE);
      },
    }));
  return {
    load: async (document) => {
      const found: unknown = await (await open()).get(STORE, document);
      return Array.isArray(found) ? (found as Envelope[]) : [];
    },
    save: async (document, envelopes) => {
      const db = await open();
      if (envelopes.length === 0) await db.delete(STORE, document);
      else await db.put(STORE, envelopes, document);
    },
  };
}
