/** Integration tests run from source, and so do the threads of the calculations of the server. */
import { startCalculationsWith } from '@/server/calculation/run';
import { startCalculationThread } from './calculations';

startCalculationsWith(startCalculationThread);

// Where several lines run side by side, each has a database of its own.
if (process.env['TEST_LINES'] !== undefined) process.env['DB_NAME'] = `${process.env['DB_NAME'] ?? ''}_test_${process.env['JEST_WORKER_ID'] ?? '1'}`;
