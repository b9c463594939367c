/** A worker thread of Node as a link. */
import type { Worker } from 'node:worker_threads';
import { DocumentTeller } from './held-documents';
import type { StartWorker, WorkerLink } from './one-worker';
import type { WorkerReply } from './protocol';

/** The thread alone does not keep its program alive. */
export function linkThread(worker: Worker, ...[onReply, onError]: Parameters<StartWorker>): WorkerLink {
  const teller = new DocumentTeller();
  worker.on('message', (reply: WorkerReply) => {
    onReply(reply);
  });
  worker.on('error', (problem: Error) => {
    onError(problem.message);
  });
  worker.unref();
  return {
    post: (request) => {
      worker.postMessage(teller.tell(request));
    },
    terminate: () => {
      void worker.terminate();
    },
  };
}
