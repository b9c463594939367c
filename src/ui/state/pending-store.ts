/**
 * Edits that the server has not acknowledged, and those that it refused, kept in the browser so that nothing is lost: an entry for
 * each, so that two tabs of one document never write over one another.
 */
import { openDB, type DBSchema, type IDBPDatabase, type IDBPTransaction, type StoreNames } from 'idb';
import type { Envelope } from '@/contract';

/** An edit that no longer fits, until somebody has looked at it. */
export interface RefusedEdit {
  readonly envelope: Envelope;
  readonly reason: string;
}

export interface PendingStore {
  /** What pages of this document left behind, in the order in which it was made. */
  load: (document: string) => Promise<{ readonly pending: readonly Envelope[]; readonly refused: readonly RefusedEdit[] }>;
  keep: (document: string, envelope: Envelope) => Promise<void>;
  refuse: (document: string, refused: RefusedEdit) => Promise<void>;
  drop: (keys: readonly string[]) => Promise<void>;
}

interface Entry {
  readonly key: string;
  readonly document: string;
  readonly envelope: Envelope;
  /** When it was made: milliseconds, then a number within the page. */
  readonly at: number;
  readonly count: number;
  /** Why it was refused, where it was. */
  readonly reason?: string;
}

interface Schema extends DBSchema {
  edits: { key: string; value: Entry; indexes: { document: string } };
  /** Of version 1: one list for each document. */
  pending: { key: string; value: Envelope[] };
}

const STORE = 'edits';
const OLD_STORE = 'pending';

/** In IndexedDB. */
export function createPendingStore(): PendingStore {
  let opened: Promise<IDBPDatabase<Schema>> | undefined;
  let count = 0;
  const open = (): Promise<IDBPDatabase<Schema>> => (opened ??= openDatabase());
  const put = async (entry: Omit<Entry, 'key' | 'at' | 'count'>): Promise<void> => {
    const db = await open();
    const known = await db.get(STORE, entry.envelope.key);
    await db.put(STORE, { ...entry, key: entry.envelope.key, at: known?.at ?? Date.now(), count: known?.count ?? count++ });
  };
  return {
    load: async (document) => {
      const entries = await (await open()).getAllFromIndex(STORE, 'document', document);
      const inOrder = entries.sort((a, b) => a.at - b.at || a.count - b.count);
      return {
        pending: inOrder.flatMap(({ envelope, reason }) => (reason === undefined ? envelope : [])),
        refused: inOrder.flatMap(({ envelope, reason }) => (reason === undefined ? [] : { envelope, reason })),
      };
    },
    keep: (document, envelope) => put({ document, envelope }),
    refuse: (document, { envelope, reason }) => put({ document, envelope, reason }),
    drop: async (keys) => {
      if (keys.length === 0) return;
      const transaction = (await open()).transaction(STORE, 'readwrite');
      await Promise.all([...keys.map((key) => transaction.store.delete(key)), transaction.done]);
    },
  };
}

function openDatabase(): Promise<IDBPDatabase<Schema>> {
  return openDB<Schema>('warpbeam', 2, {
    upgrade: (db, oldVersion, _, transaction) => {
      const store = db.createObjectStore(STORE, { keyPath: 'key' });
      store.createIndex('document', 'document');
      if (oldVersion > 0) void takeOver(db, transaction);
    },
    // Another tab with a newer program wants to upgrade: this one must not keep it from that.
    blocking: (_, __, event) => {
      if (event.target instanceof IDBDatabase) event.target.close();
    },
  });
}

/** What an older page left behind comes along. */
async function takeOver(db: IDBPDatabase<Schema>, transaction: IDBPTransaction<Schema, StoreNames<Schema>[], 'versionchange'>): Promise<void> {
  const old = transaction.objectStore(OLD_STORE);
  const [documents, lists] = await Promise.all([old.getAllKeys(), old.getAll()]);
  for (const [i, document] of documents.entries()) {
    for (const [count, envelope] of (lists[i] ?? []).entries()) {
      await transaction.objectStore(STORE).put({ key: envelope.key, document, envelope, at: 0, count });
    }
  }
  db.deleteObjectStore(OLD_STORE);
}
