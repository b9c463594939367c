/** The workers of the server that build geometry. */
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { RegenerationClient } from '@/workers/client';
import { KeptRegenerationClient, type BuiltStore } from '@/workers/kept-client';
import { onWorker, openLane } from '@/workers/lane';
import { OneWorker, type StartWorker } from '@/workers/one-worker';
import { Scheduler, type JobOrder } from '@/workers/scheduler';
import { linkThread } from '@/workers/thread-link';
import { createBuiltStore } from './built-store';
import { readFileContent } from './services/files';

/** What somebody waits for never stands behind what nobody does. */
type Room = 'awaited' | 'background';

interface GeometryWorkers {
  readonly scheduler: Scheduler<Room>;
  readonly built: BuiltStore;
}

const shared = globalThis as typeof globalThis & { warpbeamWorkers?: GeometryWorkers };

/** JavaScript memory of a worker; that of the kernel is watched by its client. */
const MOST_MEMORY_MB = 1_500;
/** For what somebody waits for: one core is left to the server itself; each takes hundreds of megabytes. */
const MOST_AWAITED = Math.min(4, Math.max(1, availableParallelism() - 1));
/** What nobody waits for is given up sooner. */
const BACKGROUND_LIMIT_MS = 30_000;

const startThread: StartWorker = (onReply, onError) => {
  const worker = new Worker(new URL('../workers/thread.worker.ts', import.meta.url), { resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB } });
  return linkThread(worker, onReply, onError);
};

function create(start: StartWorker): GeometryWorkers {
  const open = (): OneWorker => new OneWorker(start, { readFile: readFileContent });
  return { scheduler: new Scheduler({ open, rooms: { awaited: MOST_AWAITED, background: 1 } }), built: createBuiltStore() };
}

function workers(): GeometryWorkers {
  return (shared.warpbeamWorkers ??= create(startThread));
}

/** Workers that are started some other way than the bundled server does: for programs that run from source. Gives what ends them. */
export function startWorkersWith(start: StartWorker): () => void {
  const started = create(start);
  shared.warpbeamWorkers = started;
  return () => started.scheduler.close();
}

/** What was built so far. */
export function builtStore(): BuiltStore {
  return workers().built;
}

/** For what somebody waits for on a document: its requests take turns with those on others. */
export function awaitedClient(document: string): RegenerationClient {
  const { scheduler, built } = workers();
  return new KeptRegenerationClient(openLane(scheduler, { room: 'awaited', priority: 0, document }), built);
}

/** Does what nobody waits for, when its turn comes; nothing where the server ends before. */
export async function inBackground(
  order: Pick<JobOrder<Room>, 'document' | 'project' | 'size'>,
  work: (client: RegenerationClient) => Promise<void>,
): Promise<void> {
  const { scheduler, built } = workers();
  const job = scheduler.schedule({ ...order, room: 'background', priority: 0 }, (worker) =>
    work(new KeptRegenerationClient(onWorker(worker, BACKGROUND_LIMIT_MS), built)),
  );
  await job.done;
}
