/**
 * Brings the database up to date before the server starts, and loads the demo projects given as arguments if
 * no project is there. With `--build`, all that is loaded is built as well, which the server does in the background otherwise.
 */
import { readFileSync } from 'node:fs';
import { setTimeout as wait } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { Worker } from 'node:worker_threads';
import { startCalculationsWith } from '../src/server/calculation/run';
import { closeDatabase } from '../src/server/db/connect';
import { bringUpToDate } from '../src/server/db/migrate';
import { ProjectRow } from '../src/server/db/models';
import { startWorkersWith } from '../src/server/geometry-workers';
import { countScheduled, scheduleMissing } from '../src/server/jobs';
import { importProject } from '../src/server/services/projects';
import { linkThread } from '../src/workers/thread-link';

async function main(): Promise<void> {
  startCalculationsWith(() => new Worker(new URL('../src/server/calculation/thread-entry.mjs', import.meta.url)));
  const { positionals, values } = parseArgs({ allowPositionals: true, options: { build: { type: 'boolean' } } });
  const endWorkers = startWorkersWith((onReply, onError) =>
    linkThread(new Worker(new URL('../src/workers/thread-entry.mjs', import.meta.url)), onReply, onError),
  );
  // Only what is asked for is built here.
  if (values.build !== true) process.env['WARPBEAM_NO_JOBS'] = '1';
  const dump = await bringUpToDate(process.env['DUMP_DIR'] ?? '.data/dumps');
  if (dump !== undefined) process.stderr.write(`The database was dumped to ${dump} before it was changed.\n`);
  const files = (await ProjectRow.unscoped().count()) === 0 ? positionals : [];
  for (const demoFile of files) {
    const imported = await importProject(readFileSync(demoFile, 'utf8'), 'demo');
    if (!imported.ok) throw new Error(`The demo project cannot be imported: ${imported.failure.message}`);
    process.stderr.write(`Loaded the demo project ${imported.value.name}.\n`);
  }
  if (values.build === true) {
    await scheduleMissing();
    while (countScheduled() > 0) await wait(100);
  }
  endWorkers();
  await closeDatabase();
}

main().catch((problem: unknown) => {
  console.error(problem);
  process.exitCode = 1;
});
