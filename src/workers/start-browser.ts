/** Starts the regeneration worker of a page. */
import type { StartWorker } from './one-worker';
import { DocumentTeller } from './held-documents';
import type { WorkerReply } from './protocol';

export const startBrowserWorker: StartWorker = (onReply, onError) => {
  const teller = new DocumentTeller();
  const worker = new Worker(new URL('./browser.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<WorkerReply>) => {
    onReply(data);
  };
  worker.onerror = (event) => {
    onError(event.message || 'The geometry worker could not be loaded.');
  };
  return {
    post: (request) => {
      worker.postMessage(teller.tell(request));
    },
    terminate: () => {
      worker.terminate();
    },
  };
};
