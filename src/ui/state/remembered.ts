/** Small states that this browser remembers under a name. */
import { persist } from 'zustand/middleware';
import { createStore, type StoreApi } from 'zustand/vanilla';

/** On the server, where nothing is remembered, it is what it begins with. */
export function remembered<T extends object>(name: string, initial: T): StoreApi<T> {
  return createStore<T>()(persist(() => initial, { name, skipHydration: typeof window === 'undefined' }));
}
