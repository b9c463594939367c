/**
 * Geometry in the background: after a revision is saved, its bodies are regenerated in a worker thread and
 * their properties attached to it, outside its content hash. Losing a job loses nothing but the figures.
 */
import { Worker } from 'node:worker_threads';
import { Op } from 'sequelize';
import type { SavedBody } from '@/contract';
import type { Document } from '@/core/document';
import type { WorkerReply } from '@/workers/protocol';
import { RegenerationClient, type StartWorker } from '@/workers/client';
import { database } from './db/connect';
import { DocumentRow, RevisionRow } from './db/models';
import { pack, unpack } from './db/packing';
import { publish } from './events';

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

/** Schedules the latest revisions that have no figures yet: those imported, or saved when the server was stopped. */
export async function scheduleMissing(): Promise<void> {
  database();
  const rows = await DocumentRow.findAll({ attributes: ['id', 'revision'], where: { kind: 'part' } });
  const done = await RevisionRow.findAll({ attributes: ['documentId', 'number'], where: { bodies: { [Op.not]: null } } });
  const known = new Set(done.map((row) => `${row.documentId} ${row.number}`));
  for (const { id, revision } of rows) if (revision > 0 && !known.has(`${id} ${revision}`)) scheduleRegeneration(id, revision);
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
  const owner = await DocumentRow.findByPk(documentId, { attributes: ['projectId'] });
  if (owner) publish({ type: 'project', project: owner.projectId });
}
