/** Starts a regeneration worker thread from source, for programs run by tsx: the command line, tests, benches. */
import { Worker } from 'node:worker_threads';
import { RegenerationClient } from './client';
import { ownWorker } from './lane';
import type { StartWorker } from './one-worker';
import { linkThread } from './thread-link';

export const startSourceThread: StartWorker = (onReply, onError) => {
  const worker = new Worker(new URL('./thread-entry.mjs', import.meta.url), { execArgv: [] });
  const link = linkThread(worker, onReply, onError);
  return {
    ...link,
    post: (request) => {
      // What is asked is waited for.
      worker.ref();
      link.post(request);
    },
  };
};

/** A client with such a thread to itself. */
export function clientFromSource(): RegenerationClient {
  return new RegenerationClient(ownWorker(startSourceThread));
}
