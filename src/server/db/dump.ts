/** The whole database as one SQL file, made before its tables are changed. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** Gives the path of the file; only its owner can read it. Throws when the dump fails: then nothing must be changed. */
export function dumpDatabase(directory: string, before: string): string {
  mkdirSync(directory, { recursive: true, mode: 0o700 });
  const file = path.join(directory, `before-${before}-${new Date().toISOString().replace(/[:.]/g, '-')}.sql`);
  const { DB_SOCKET, DB_NAME, DB_USER, DB_PASSWORD } = process.env;
  const sql = execFileSync('mariadb-dump', ['--no-defaults', '--single-transaction', `--socket=${DB_SOCKET ?? ''}`, `--user=${DB_USER ?? ''}`, DB_NAME ?? ''], {
    env: { ...process.env, MYSQL_PWD: DB_PASSWORD ?? '' },
    maxBuffer: 4 * 1024 ** 3,
  });
  writeFileSync(file, sql, { mode: 0o600 });
  return file;
}
