/**
 * Geometry in the background: after a revision is saved, its bodies are regenerated in a worker thread and
 * their properties attached to it, outside its content hash. Losing a job loses nothing but the figures.
 */
import { Worker } from 'node:worker_threads';
import type { SavedBody } from '@/contract';
import type { Document } from '@/core/document';
import type { WorkerReply } from '@/workers/protocol';
import { RegenerationClient, type StartWorker } from '@/workers/client';
import { RevisionRow } from './db/models';
import { pack, unpack } from './db/packing';

const shared = globalThis as typeof globalThis & { warpbeamJobs?: { client: RegenerationClient; queue: Promise<void> } };

const startThread: StartWorker = (onReply, onError) => {
  const worker = new Worker(new URL('../workers/thread.worker.ts', import.meta.url));
  worker.on('message', (reply: WorkerReply) => {
    onReply(reply);
  });
  worker.on('error', (problem: Error) => {
    onError(problem.message);
  });
  // It must not keep the server alive when that is told to stop.
  worker.unref();
  return {
    post: (request) => {
      worker.postMessage(request);
    },
    terminate: () => {
      void worker.terminate();
    },
  };
};

export function scheduleRegeneration(documentId: string, revision: number): void {
  if (process.env['WARPBEAM_NO_JOBS'] === '1') return;
  const jobs = (shared.warpbeamJobs ??= { client: new RegenerationClient(startThread), queue: Promise.resolve() });
  jobs.queue = jobs.queue.then(() =>
    attachBodies(jobs.client, documentId, revision).catch((problem: unknown) => {
      console.error(`regenerating ${documentId} revision ${revision} failed:`, problem);
    }),
  );
}

async function attachBodies(client: RegenerationClient, documentId: string, number: number): Promise<void> {
  const row = await RevisionRow.findOne({ where: { documentId, number } });
  if (!row) return;
  const document = unpack<Document>(row.body);
  if (document.kind !== 'part') return;
  const reply = await client.regenerate(document);
  if (!reply.ok) return;
  const bodies: SavedBody[] = reply.value.result.bodies.map(({ name, mass, properties }) => ({
    name,
    ...(mass === undefined ? {} : { mass }),
    ...(properties ? { properties } : {}),
  }));
  await row.update({ bodies: pack(bodies) });
}
