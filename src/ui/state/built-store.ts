/** What was built for assemblies, kept in the browser from one visit to the next; the oldest goes first once it is too much. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { readExact, readMesh, type BuiltAnswerReply } from '@/contract';
import { bytesOf, type BuiltStore, type Kept, type KeptKind } from '@/workers/kept-client';
import { api } from './api';

/** How large what is kept under a key is, and when it was kept or last read, in milliseconds. */
interface Use {
  readonly key: string;
  readonly bytes: number;
  readonly at: number;
}

interface Schema extends DBSchema {
  built: { key: string; value: Kept[keyof Kept] };
  uses: { key: string; value: Use; indexes: { at: number } };
  /** The build of the program that kept it. */
  program: { key: string; value: string };
}

const MOST_BYTES = 256 * 1024 * 1024;
/** Reading it marks it as used, but not more often than this. */
const MARK_AFTER_MS = 24 * 3600 * 1000;

/** The store of this browser, opened once for a page. */
let store: BuiltStore | undefined;

export function openBuiltStore(): BuiltStore {
  return (store ??= createBuiltStore(process.env.NEXT_PUBLIC_BUILD ?? ''));
}

/** So many unknown answers in a row, and the server is not asked any more: what is being edited is known to nobody. */
const MOST_UNKNOWN = 8;

/** The same for one client, with what the server has built already: an assembly that is opened here for the first time needs no kernel. */
export function openStoreWithServer(own: BuiltStore = openBuiltStore(), ask = askServer): BuiltStore {
  let unknown = 0;
  return {
    read: async <K extends keyof Kept>(kind: K, key: string) => {
      const known = await own.read(kind, key);
      if (known || unknown >= MOST_UNKNOWN) return known;
      const told = await ask(kind, key);
      unknown = told ? 0 : unknown + 1;
      if (told) own.keep(kind, key, told);
      return told;
    },
    keep: own.keep,
  };
}

async function askServer<K extends KeptKind>(kind: K, key: string): Promise<Kept[K] | undefined> {
  const reply = await api.readBuilt(kind, key, process.env.NEXT_PUBLIC_BUILD ?? '');
  return reply.ok ? readAnswer(kind, reply.value) : undefined;
}

/** It comes from the same program, which keeps under each kind what is of that kind. */
export function readAnswer<K extends KeptKind>(kind: K, { mesh, exact }: BuiltAnswerReply): Kept[K] | undefined {
  if (kind === 'mesh') return mesh && (readMesh(mesh) as Kept[K]);
  return exact === undefined ? undefined : (readExact(exact) as Kept[K]);
}

/** `build` tells programs apart: what another one has built is let go of. Without IndexedDB, or where it is full, nothing is kept. */
function createBuiltStore(build: string): BuiltStore {
  const opened = openStore(build).catch(() => undefined);
  const keep = async (key: string, value: Kept[keyof Kept]): Promise<void> => {
    const transaction = (await opened)?.transaction(['built', 'uses'], 'readwrite');
    await transaction?.objectStore('built').put(value, key);
    await transaction?.objectStore('uses').put({ key, bytes: bytesOf(value), at: Date.now() });
  };
  const read = async (key: string): Promise<Kept[keyof Kept] | undefined> => {
    const db = await opened;
    const [value, use] = db ? await Promise.all([db.get('built', key), db.get('uses', key)]) : [];
    if (value && use && Date.now() - use.at > MARK_AFTER_MS) await db?.put('uses', { ...use, at: Date.now() });
    return value;
  };
  return {
    read: async <K extends keyof Kept>(kind: K, key: string) => (await read(`${kind} ${key}`).catch(() => undefined)) as Kept[K] | undefined,
    keep: (kind, key, value) => {
      // It is built again the next time.
      void keep(`${kind} ${key}`, value).catch(() => undefined);
    },
  };
}

async function openStore(build: string): Promise<IDBPDatabase<Schema>> {
  const db = await openDB<Schema>('warpbeam-built', 1, {
    upgrade: (fresh) => {
      fresh.createObjectStore('built');
      fresh.createObjectStore('uses', { keyPath: 'key' }).createIndex('at', 'at');
      fresh.createObjectStore('program');
    },
  });
  if ((await db.get('program', 'build')) !== build) {
    await Promise.all([db.clear('built'), db.clear('uses')]);
    await db.put('program', build, 'build');
  }
  await dropOldest(db);
  return db;
}

async function dropOldest(db: IDBPDatabase<Schema>): Promise<void> {
  const transaction = db.transaction(['built', 'uses'], 'readwrite');
  let bytes = 0;
  for (let cursor = await transaction.objectStore('uses').index('at').openCursor(null, 'prev'); cursor; cursor = await cursor.continue()) {
    bytes += cursor.value.bytes;
    if (bytes <= MOST_BYTES) continue;
    await transaction.objectStore('built').delete(cursor.value.key);
    await cursor.delete();
  }
  await transaction.done;
}
