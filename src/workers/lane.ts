/** What one asker has of a scheduler: its requests one by one, of those that wait for one purpose the newest, stopped together. */
import { fail, type Result } from '@/core/kit';
import { OneWorker, type RegenerationFailure, type RequestOptions, type StartWorker, type WorkerOptions } from './one-worker';
import type { WorkerReply, Wish } from './protocol';
import { Scheduler, type Job, type JobOrder } from './scheduler';

export interface Lane {
  /** Of requests that wait for one purpose the newest is left: a newer one makes it `superseded`. */
  ask: (wish: Wish, purpose: string, onProgress?: RequestOptions['onProgress']) => Promise<Result<WorkerReply, RegenerationFailure>>;
  /** Starts a worker before it is needed. */
  warm: () => void;
  /** Ends what is under way and what waits, as `superseded`. */
  cancel: () => void;
  /** Ends what is under way and what waits, and whatever is asked later, as `closed`. */
  close: () => void;
}

let lanes = 0;

/** A lane of a scheduler; `timeLimitMs` is that of each request. */
export function openLane<Room extends string>(scheduler: Scheduler<Room>, order: Omit<JobOrder<Room>, 'key'>, timeLimitMs?: number): Lane {
  const lane = ++lanes;
  const jobs = new Set<Job<Result<WorkerReply, RegenerationFailure>>>();
  let isClosed = false;
  const dropAll = (failure: RegenerationFailure): void => {
    for (const job of jobs) job.drop(failure);
  };
  return {
    ask: async (wish, purpose, onProgress) => {
      if (isClosed) return fail({ kind: 'closed' });
      const options = { ...(timeLimitMs === undefined ? {} : { timeLimitMs }), ...(onProgress ? { onProgress } : {}) };
      const job = scheduler.schedule({ ...order, key: `${lane} ${purpose}` }, (worker) => worker.run(wish, options));
      jobs.add(job);
      const done = await job.done;
      jobs.delete(job);
      return done.ok ? done.value : done;
    },
    warm: () => scheduler.warm(order),
    cancel: () => dropAll({ kind: 'superseded' }),
    close: () => {
      isClosed = true;
      dropAll({ kind: 'closed' });
    },
  };
}

/** A lane with a worker of its own, which ends with it: what is asked waits for nobody else. */
export function ownWorker(start: StartWorker, { timeLimitMs, ...options }: WorkerOptions & { readonly timeLimitMs?: number } = {}): Lane {
  const worker = new OneWorker(start, options);
  const scheduler = new Scheduler({ open: () => worker, rooms: { own: 1 } });
  const lane = openLane(scheduler, { room: 'own', priority: 0, document: '' }, timeLimitMs);
  return {
    ...lane,
    close: () => {
      lane.close();
      scheduler.close();
    },
  };
}

/** A lane on a worker that its asker has to itself for now. */
export function onWorker(worker: OneWorker, timeLimitMs?: number): Lane {
  return openLane(new Scheduler({ open: () => worker, rooms: { own: 1 } }), { room: 'own', priority: 0, document: '' }, timeLimitMs);
}
