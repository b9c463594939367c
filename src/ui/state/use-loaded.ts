'use client';
import { useCallback, useEffect, useState } from 'react';
import type { Result } from '@/core/kit';
import type { ApiFailure } from './api';
import { listenLive } from './live';

/** One answer for notices that come close together, in milliseconds. */
const REST_MS = 150;

export type Loaded<T> =
  | { readonly state: 'loading' }
  | { readonly state: 'failed'; readonly failure: ApiFailure }
  | { readonly state: 'ready'; readonly value: T };

/** Loads once, and again whenever something is saved anywhere; `reload` does so by hand. */
export function useLoaded<T>(load: () => Promise<Result<T, ApiFailure>>): { readonly loaded: Loaded<T>; readonly reload: () => void } {
  const [loaded, setLoaded] = useState<Loaded<T>>({ state: 'loading' });
  const reload = useCallback(() => {
    void load().then((reply) => {
      setLoaded(reply.ok ? { state: 'ready', value: reply.value } : { state: 'failed', failure: reply.failure });
    });
  }, [load]);
  useEffect(() => {
    // The server is outside React: its answer comes when it comes, and again with every live notice.
    reload();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = listenLive(() => {
      clearTimeout(timer);
      timer = setTimeout(reload, REST_MS);
    });
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, [reload]);
  return { loaded, reload };
}
