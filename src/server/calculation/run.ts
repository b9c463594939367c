/**
 * Runs calculations: at once where they are small, and each in a thread that lives for it alone where they are large. The thread
 * has limits of time and of memory; the server answers others meanwhile.
 */
import { setImmediate as nextTurn } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';
import PQueue from 'p-queue';
import { OPERATIONS, type Argument, type OperationName, type Outcome } from './operations';

/** Characters of the documents that are calculated at once: some 0.2 s of reading formulas. */
const SMALL = 300_000;
const TIME_LIMIT_MS = 90_000;
const MOST_MEMORY_MB = 1_500;
/** So many large ones run side by side; the others wait. */
const SIDE_BY_SIDE = 2;

/** A calculation that was given up; the one who asked is told. */
export class EndedCalculation extends Error {}

// On globalThis: route handlers and start-up are separate bundles.
const shared = globalThis as typeof globalThis & { warpbeamCalculations?: { readonly queue: PQueue; readonly start: () => Worker } };

const startBundled = (): Worker => new Worker(new URL('./thread.worker.ts', import.meta.url), { resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB } });

/** For programs that run from source. */
export function startCalculationsWith(start: () => Worker): void {
  shared.warpbeamCalculations = { queue: new PQueue({ concurrency: SIDE_BY_SIDE }), start };
}

/** `size`: characters of all that it reads. */
export async function calculate<N extends OperationName>(name: N, argument: Argument<N>, size: number): Promise<Outcome<N>> {
  if (size <= SMALL) {
    // Many small ones are much, too.
    await nextTurn();
    return await (OPERATIONS[name] as (argument: Argument<N>) => Outcome<N> | Promise<Outcome<N>>)(argument);
  }
  const { queue, start } = (shared.warpbeamCalculations ??= { queue: new PQueue({ concurrency: SIDE_BY_SIDE }), start: startBundled });
  return queue.add(() => runIn(start(), { name, argument }));
}

async function runIn<N extends OperationName>(worker: Worker, message: { readonly name: N; readonly argument: Argument<N> }): Promise<Outcome<N>> {
  const outcome = new Promise<Outcome<N>>((settle, giveUp) => {
    const timer = setTimeout(() => {
      giveUp(new EndedCalculation(`The calculation took more than ${TIME_LIMIT_MS / 1000} seconds and was stopped. Nothing was changed.`));
    }, TIME_LIMIT_MS);
    worker.once('message', (outcome: Outcome<N>) => {
      clearTimeout(timer);
      settle(outcome);
    });
    worker.once('error', (problem) => {
      clearTimeout(timer);
      const isMemory = 'code' in problem && problem.code === 'ERR_WORKER_OUT_OF_MEMORY';
      giveUp(isMemory ? new EndedCalculation('The calculation took too much memory and was stopped. Nothing was changed.') : problem);
    });
    // It must not keep the server alive when that is told to stop.
    worker.unref();
    worker.postMessage(message);
  });
  try {
    return await outcome;
  } finally {
    await worker.terminate();
  }
}
