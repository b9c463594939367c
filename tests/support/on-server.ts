/** A server in the test itself: migrated, with worker threads that run from source, and nothing in the background. */
import { closeDatabase } from '@/server/db/connect';
import { migrate } from '@/server/db/migrate';
import { startWorkersWith } from '@/server/geometry-workers';
import { startSourceThread } from '@/workers/start-thread';

/** Starts it before the tests around it and ends it after them. */
export function onServer(): void {
  let endJobs: () => void;
  beforeAll(async () => {
    process.env['WARPBEAM_NO_JOBS'] = '1';
    endJobs = startWorkersWith(startSourceThread);
    await migrate();
  });
  afterAll(async () => {
    endJobs();
    await closeDatabase();
  });
}
