/** What was built of parts with the values that they have in assemblies: whoever needs it next has it at once, in memory or from the database. */
import { LRUCache } from 'lru-cache';
import { bytesOf, type BuiltStore, type Kept, type KeptKind } from '@/workers/kept-client';
import { keepAnswer, readKeptAnswer } from './services/built-answers';

const MOST_BYTES = 96 * 1024 * 1024;

export function createBuiltStore(): BuiltStore {
  const kept = new LRUCache<string, Kept[KeptKind]>({ maxSize: MOST_BYTES, sizeCalculation: bytesOf });
  return {
    read: async <K extends KeptKind>(kind: K, key: string) => {
      const name = `${kind} ${key}`;
      const known = kept.get(name) as Kept[K] | undefined;
      if (known) return known;
      // It is built again where the database does not answer.
      const before = await readKeptAnswer(kind, key).catch(() => undefined);
      if (before) kept.set(name, before);
      return before;
    },
    keep: (kind, key, value) => {
      kept.set(`${kind} ${key}`, value);
      void keepAnswer(kind, key, value).catch(() => undefined);
    },
  };
}
