/** Starts a regeneration worker thread from source, for programs run by tsx: the command line, tests, benches. */
import { Worker } from 'node:worker_threads';
import type { WorkerReply } from './protocol';
import { RegenerationClient } from './client';
import { ownWorker } from './lane';
import type { StartWorker } from './one-worker';
import { DocumentTeller } from './held-documents';

export const startSourceThread: StartWorker = (onReply, onError) => {
  const teller = new DocumentTeller();
  const worker = new Worker(new URL('./thread-entry.mjs', import.meta.url), { execArgv: [] });
  worker.on('message', (reply: WorkerReply) => {
    onReply(reply);
  });
  worker.on('error', (problem: Error) => {
    onError(problem.message);
  });
  worker.unref();
  return {
    post: (request) => {
      worker.ref();
      worker.postMessage(teller.tell(request));
    },
    terminate: () => {
      void worker.terminate();
    },
  };
};

/** A client with such a thread to itself. */
export function clientFromSource(): RegenerationClient {
  return new RegenerationClient(ownWorker(startSourceThread));
}
