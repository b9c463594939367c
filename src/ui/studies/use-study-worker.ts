'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import { RegenerationClient } from '@/workers/client';
import { startBrowserWorker } from '@/workers/start-browser';
import { readFileContent } from '../state/api';

/** Work beside the page, with a worker of its own that ends with it, however it ends: one task at a time. */
export function useStudyWorker() {
  const client = useRef<RegenerationClient>(undefined);
  const [isRunning, setRunning] = useState(false);
  useEffect(() => () => client.current?.close(), []);
  const work = useCallback(async (task: (worker: RegenerationClient) => Promise<void>): Promise<void> => {
    const worker = new RegenerationClient(startBrowserWorker, { readFile: readFileContent });
    client.current = worker;
    setRunning(true);
    try {
      await task(worker);
    } finally {
      worker.close();
      setRunning(false);
    }
  }, []);
  const stop = useCallback(() => client.current?.close(), []);
  return { isRunning, work, stop };
}
