/**
 * Brings the database up to date before the server starts, and loads the demo projects given as arguments if
 * no project is there.
 */
import { readFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { startCalculationsWith } from '../src/server/calculation/run';
import { closeDatabase } from '../src/server/db/connect';
import { bringUpToDate } from '../src/server/db/migrate';
import { ProjectRow } from '../src/server/db/models';
import { importProject } from '../src/server/services/projects';

async function main(): Promise<void> {
  startCalculationsWith(() => new Worker(new URL('../src/server/calculation/thread-entry.mjs', import.meta.url)));
  const dump = await bringUpToDate(process.env['DUMP_DIR'] ?? '.data/dumps');
  if (dump !== undefined) process.stderr.write(`The database was dumped to ${dump} before it was changed.\n`);
  const files = (await ProjectRow.unscoped().count()) === 0 ? process.argv.slice(2) : [];
  for (const demoFile of files) {
    const imported = await importProject(readFileSync(demoFile, 'utf8'), 'demo');
    if (!imported.ok) throw new Error(`The demo project cannot be imported: ${imported.failure.message}`);
    process.stderr.write(`Loaded the demo project ${imported.value.name}.\n`);
  }
  await closeDatabase();
}

main().catch((problem: unknown) => {
  console.error(problem);
  process.exitCode = 1;
});
