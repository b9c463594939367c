/** Threads of the server's calculations, started from source. */
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';

export const startCalculationThread = (): Worker => new Worker(join(__dirname, '../../src/server/calculation/thread-entry.mjs'), { execArgv: [] });
