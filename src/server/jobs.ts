/**
 * Geometry in the background: after a revision is saved, its bodies are regenerated in a worker thread and
 * their properties attached to it, outside its content hash. Losing a job loses nothing but the figures.
 */
import { Worker } from 'node:worker_threads';
import PQueue from 'p-queue';
import { Op } from 'sequelize';
import type { SavedBody } from '@/contract';
import { DocumentValues, type Document } from '@/core/document';
import { publishValues } from '@/core/links';
import { colourOfBody, type Regenerated } from '@/core/steps';
import type { WorkerReply } from '@/workers/protocol';
import { RegenerationClient, type StartWorker } from '@/workers/client';
import { database } from './db/connect';
import { DocumentRow, RevisionRow } from './db/models';
import { pack, unpack } from './db/packing';
import { publish } from './events';
import { keepMeshes } from './services/pictures';
import { forgetPlanned } from './services/planned-documents';
import { drawThumbnail } from './thumbnail';

interface Jobs {
  readonly client: RegenerationClient;
  readonly queue: PQueue;
}

const shared = globalThis as typeof globalThis & { warpbeamJobs?: Jobs };

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

function createJobs(start: StartWorker): Jobs {
  return { client: new RegenerationClient(start), queue: new PQueue({ concurrency: 1 }) };
}

/** Jobs on workers that are started some other way than the bundled server does: for programs that run from source. Gives what ends them. */
export function startJobsWith(start: StartWorker): () => void {
  const jobs = createJobs(start);
  shared.warpbeamJobs = jobs;
  return () => jobs.client.close();
}

/** Runs work with the worker, one at a time: the client itself would drop all but the newest. What somebody waits for goes first. */
function enqueue<T>(work: (client: RegenerationClient) => Promise<T>, isAwaited: boolean): Promise<T> {
  const { client, queue } = (shared.warpbeamJobs ??= createJobs(startThread));
  return queue.add(() => work(client), { priority: isAwaited ? 1 : 0 });
}

export function scheduleRegeneration(documentId: string, revision: number): void {
  if (process.env['WARPBEAM_NO_JOBS'] === '1') return;
  enqueue((client) => attachBodies(client, documentId, revision), false).catch((problem: unknown) => {
    console.error(`regenerating ${documentId} revision ${revision} failed:`, problem);
  });
}

/** The values of a document with what its geometry measures; without a kernel where it measures nothing. */
export async function evaluateWithGeometry(document: Document): Promise<DocumentValues> {
  const values = new DocumentValues(document);
  const measures = document.kind === 'part' && Object.keys(document.records).some((id) => values.isMeasured(id));
  const built = measures ? await buildGeometry(document) : undefined;
  if (built) values.setMeasured(built.measured);
  return values;
}

/** What a part measures and which of its steps fail; undefined where it could not be built at all. */
export async function buildGeometry(document: Document): Promise<Regenerated | undefined> {
  const reply = await enqueue((client) => client.regenerate(document), true);
  return reply.ok ? reply.value.result : undefined;
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
  const reply = await client.regenerate(document, []);
  if (!reply.ok) return;
  const { result, meshes } = reply.value;
  await keepMeshes(meshes);
  const bodies: SavedBody[] = result.bodies.map(({ id, name, key, mass, properties }) => ({
    id,
    name,
    ...(key === undefined ? {} : { key }),
    ...(mass === undefined ? {} : { mass }),
    ...(properties ? { properties } : {}),
  }));
  const values = new DocumentValues(document);
  values.setMeasured(result.measured);
  // What is measured is attached like the bodies: a revision that was made without a kernel held older readings.
  await row.update({ bodies: pack(bodies), published: pack(publishValues(values)) });
  forgetPlanned(documentId);
  const drawn = result.bodies.flatMap(({ id, key }) => {
    const mesh = key === undefined ? undefined : meshes[key];
    return mesh ? [{ mesh, colour: colourOfBody(document, id) }] : [];
  });
  await DocumentRow.update({ thumbnail: drawThumbnail(drawn) ?? null }, { where: { id: documentId, revision: number } });
  const owner = await DocumentRow.findByPk(documentId, { attributes: ['projectId'] });
  if (owner) publish({ type: 'project', project: owner.projectId });
}
