/** Worker thread shell, for the server and the command line. Started, never imported. */
import { parentPort } from 'node:worker_threads';
import { createKernel } from '@/kernel/create-kernel';
import type { PostedRequest } from './held-documents';
import type { FileNotice, WorkerReply } from './protocol';
import { RegenerationHost } from './regeneration-host';

const port = parentPort;
if (!port) throw new Error('Bug: this file runs only as a worker thread');

const host = createKernel().then((kernel) => new RegenerationHost(kernel));

function post(reply: WorkerReply, transfer: ArrayBuffer[] = []): void {
  port?.postMessage(reply, transfer);
}

port.on('message', (request: PostedRequest | FileNotice) => {
  if (request.kind === 'file') {
    void host.then((ready) => {
      ready.keepFile(request);
    });
    return;
  }
  host
    .then(async (ready) => {
      const { reply, transfer } = await ready.answer(request, post);
      post(reply, transfer);
    })
    .catch((problem: unknown) => {
      post({ kind: 'crashed', id: request.id, message: problem instanceof Error ? problem.message : String(problem) });
    });
});

void host.then(() => {
  post({ kind: 'ready' });
});
