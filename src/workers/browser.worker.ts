/// <reference lib="webworker" />
/** Web worker shell. Started by the browser's client; never imported. */
import { createKernel } from '@/kernel/create-kernel';
import type { PostedRequest } from './held-documents';
import type { FileNotice, WorkerReply } from './protocol';
import { RegenerationHost } from './regeneration-host';

declare const self: DedicatedWorkerGlobalScope;

const host = createKernel().then((kernel) => new RegenerationHost(kernel));

function post(reply: WorkerReply, transfer: Transferable[] = []): void {
  self.postMessage(reply, transfer);
}

self.onmessage = ({ data }: MessageEvent<PostedRequest | FileNotice>) => {
  if (data.kind === 'file') {
    // A host that cannot be started says so below.
    host.then(
      (ready) => {
        ready.keepFile(data);
      },
      () => undefined,
    );
    return;
  }
  host
    .then(async (ready) => {
      const { reply, transfer } = await ready.answer(data, post);
      post(reply, transfer);
    })
    .catch((problem: unknown) => {
      post({ kind: 'crashed', id: data.id, message: problem instanceof Error ? problem.message : String(problem) });
    });
};

host.then(
  () => {
    post({ kind: 'ready' });
  },
  (problem: unknown) => {
    post({ kind: 'crashed', id: -1, message: problem instanceof Error ? problem.message : String(problem) });
  },
);
