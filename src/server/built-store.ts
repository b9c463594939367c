/** What was built of parts with the values that they have in assemblies, kept while the server runs: whoever needs it next has it at once. */
import { LRUCache } from 'lru-cache';
import { bytesOf, type BuiltStore, type Kept } from '@/workers/kept-client';

const MOST_BYTES = 96 * 1024 * 1024;

export function createBuiltStore(): BuiltStore {
  const kept = new LRUCache<string, Kept[keyof Kept]>({ maxSize: MOST_BYTES, sizeCalculation: bytesOf });
  return {
    read: <K extends keyof Kept>(kind: K, key: string) => Promise.resolve(kept.get(`${kind} ${key}`) as Kept[K] | undefined),
    keep: (kind, key, value) => {
      kept.set(`${kind} ${key}`, value);
    },
  };
}
