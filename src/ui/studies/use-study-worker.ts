'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { RegenerationClient } from '@/workers/client';
import { useSession } from '../state/context';
import { clientBeside } from '../state/page-workers';

/** Work beside the page that ends with it, however it ends: one task at a time. */
export function useStudyWorker() {
  const session = useSession();
  const client = useRef<RegenerationClient>(undefined);
  const [isRunning, setRunning] = useState(false);
  useEffect(() => () => client.current?.close(), []);
  const work = useCallback(
    async (task: (worker: RegenerationClient) => Promise<void>): Promise<void> => {
      const worker = clientBeside('study', session.id);
      client.current = worker;
      setRunning(true);
      try {
        await task(worker);
      } finally {
        worker.close();
        setRunning(false);
      }
    },
    [session],
  );
  const stop = useCallback(() => client.current?.close(), []);
  return { isRunning, work, stop };
}
