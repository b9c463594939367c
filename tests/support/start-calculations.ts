/** Integration tests run from source: so do the threads of the server's calculations. */
import { startCalculationsWith } from '@/server/calculation/run';
import { startCalculationThread } from './calculations';

startCalculationsWith(startCalculationThread);
