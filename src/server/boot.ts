/** Start of the server process: the tables are brought up to date, and open streams end when it is told to stop. */
import { migrate } from './db/migrate';
import { endStreams } from './events';
import { scheduleMissing } from './jobs';
import { purgeDeleted } from './services/deletion';
import { resumeRuns } from './services/runs';

const shared = globalThis as typeof globalThis & { warpbeamBooted?: boolean };

/** How long requests that are under way are waited for, in milliseconds. What is cut off then is rolled back. */
const STOP_WITHIN_MS = 1_500;

/** Pages that are open hold connections that would keep the server from ending. */
function stop(): void {
  endStreams();
  setTimeout(() => process.exit(0), STOP_WITHIN_MS).unref();
}

export async function boot(): Promise<void> {
  if (shared.warpbeamBooted === true) return;
  shared.warpbeamBooted = true;
  process.once('SIGTERM', stop);
  process.once('SIGINT', stop);
  const applied = await migrate();
  await purgeDeleted();
  await scheduleMissing();
  await resumeRuns();
  if (applied.length > 0) console.log(`migrations applied: ${applied.join(', ')}`);
}
