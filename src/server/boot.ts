/** Start of the server process: the tables are brought up to date, and open streams end when it is told to stop. */
import { migrate } from './db/migrate';
import { endStreams } from './events';
import { scheduleMissing } from './jobs';
import { purgeDeleted } from './services/deletion';

const shared = globalThis as typeof globalThis & { warpbeamBooted?: boolean };

export async function boot(): Promise<void> {
  if (shared.warpbeamBooted === true) return;
  shared.warpbeamBooted = true;
  process.once('SIGTERM', endStreams);
  process.once('SIGINT', endStreams);
  const applied = await migrate();
  await purgeDeleted();
  await scheduleMissing();
  if (applied.length > 0) console.log(`migrations applied: ${applied.join(', ')}`);
}
