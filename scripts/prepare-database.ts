/**
 * Brings the database up to date before the server starts: a dump if migrations are pending and there is
 * something to lose, the migrations, and the demo project given as an argument if no project is there.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { closeDatabase, database } from '../src/server/db/connect';
import { listPendingMigrations, migrate } from '../src/server/db/migrate';
import { ProjectRow } from '../src/server/db/models';
import { importProject } from '../src/server/services/projects';

async function main(): Promise<void> {
  const tables = await database().getQueryInterface().showAllTables();
  const pending = await listPendingMigrations();
  if (pending.length > 0 && tables.length > 1) dump(pending);
  await migrate();
  const [, , demoFile] = process.argv;
  if (demoFile !== undefined && (await ProjectRow.count()) === 0) {
    const imported = await importProject(readFileSync(demoFile, 'utf8'), 'demo');
    if (!imported.ok) throw new Error(`The demo project cannot be imported: ${imported.failure.message}`);
    process.stderr.write(`Loaded the demo project ${imported.value.name}.\n`);
  }
  await closeDatabase();
}

function dump(pending: readonly string[]): void {
  const directory = process.env['DUMP_DIR'] ?? '.data/dumps';
  mkdirSync(directory, { recursive: true, mode: 0o700 });
  const file = path.join(directory, `before-${pending[0] ?? 'migration'}-${new Date().toISOString().replace(/[:.]/g, '-')}.sql`);
  const { DB_SOCKET, DB_NAME, DB_USER, DB_PASSWORD } = process.env;
  const sql = execFileSync('mariadb-dump', ['--no-defaults', '--single-transaction', `--socket=${DB_SOCKET ?? ''}`, `--user=${DB_USER ?? ''}`, DB_NAME ?? ''], {
    env: { ...process.env, MYSQL_PWD: DB_PASSWORD ?? '' },
    maxBuffer: 4 * 1024 ** 3,
  });
  writeFileSync(file, sql, { mode: 0o600 });
  process.stderr.write(`The database was dumped to ${file} before it is changed.\n`);
}

main().catch((problem: unknown) => {
  console.error(problem);
  process.exitCode = 1;
});
