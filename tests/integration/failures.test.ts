/** What must not be lost: a database that goes away, a process that is killed in the middle of a change set. */
import { execFileSync, spawn } from 'node:child_process';
import path from 'node:path';
import type { ErrorReply } from '@/contract';
import { closeDatabase, database } from '@/server/db/connect';
import { migrate } from '@/server/db/migrate';
import { MIGRATIONS } from '@/server/db/migrations';
import { EditRow, RevisionRow } from '@/server/db/models';
import { handle } from '@/server/http/handle';
import { isAllowedRequest } from '@/server/http/origin';
import { postEdits, readDocument } from '@/server/services/documents';
import { importProject, readProject } from '@/server/services/projects';
import { DEMO_TEXT } from '../support/demo';
import { generateProject } from '../support/generated-project';

const root = path.join(__dirname, '../..');

beforeAll(async () => {
  process.env['WARPBEAM_NO_JOBS'] = '1';
  await migrate();
});
afterAll(closeDatabase);

interface Imported {
  readonly project: string;
  /** Ids by name. */
  readonly ids: Readonly<Record<string, string>>;
}

async function importText(text: string): Promise<Imported> {
  const imported = await importProject(text, 'test');
  if (!imported.ok) throw new Error(imported.failure.message);
  const read = await readProject(imported.value.id);
  if (!read.ok) throw new Error(read.failure.message);
  return { project: imported.value.id, ids: Object.fromEntries(read.value.documents.map((document) => [document.name, document.id])) };
}

const controlDatabase = (command: 'start' | 'stop') => {
  execFileSync('bash', ['scripts/db.sh', command], { cwd: root, env: { ...process.env, DB_DIR: process.env['TEST_DB_DIR'] ?? '' }, stdio: 'ignore' });
};

test('a database that goes away gives a clear word, and the edit sent again afterwards is applied once', async () => {
  const { ids } = await importText(DEMO_TEXT);
  const master = ids['Loom sizes'] ?? '';
  const envelope = { key: `outage-${Date.now()}`, author: 'ann', edit: { type: 'document.rename' as const, name: 'Loom sizes, metric' } };
  const send = () => handle(() => postEdits(master, { base: 0, envelopes: [envelope] }));
  controlDatabase('stop');
  const refused = await send();
  expect(refused.status).toBe(503);
  expect(((await refused.json()) as ErrorReply).error).toMatchObject({ code: 'database-unavailable' });
  controlDatabase('start');
  let reply = await send();
  // A pooled connection may still be the dead one: the browser sends again, so does this test.
  for (let i = 0; i < 5 && reply.status === 503; i++) reply = await send();
  expect(reply.status).toBe(200);
  expect((await send()).status).toBe(200);
  expect(await EditRow.count({ where: { documentId: master } })).toBe(1);
  // Other connections of the pool may still be dead ones.
  await closeDatabase();
});

const KILLS = 24;
const MASTER = 'g0-0';
const TAKERS = ['g1-0', 'g1-1'];

test('killed in the middle of its commits, a change set is there as a whole or not at all', async () => {
  // Two at a time, each on a project of its own: a master, and two documents that take its value.
  const { text } = generateProject([1, 2]);
  const lanes = await Promise.all([importText(text), importText(text)]);
  const hits = (await Promise.all(lanes.map((lane, i) => killOver(lane, KILLS / lanes.length, i)))).flat();
  // The law says something only if commits were cut short: most of these were.
  expect(hits.filter((isHit) => isHit).length).toBeGreaterThan(KILLS / 2);
}, 480_000);

/** Kills a process that catches up over and over while it commits, and looks at what it left each time. Gives which commits were cut short. */
async function killOver({ project, ids }: Imported, kills: number, lane: number): Promise<boolean[]> {
  const hits: boolean[] = [];
  for (let kill = 0; kill < kills; kill++) {
    const said = await new Promise<string>((resolve, reject) => {
      const child = spawn(process.execPath, ['scripts/run.mjs', 'tests/support/commit-loop.ts', project, ids[MASTER] ?? ''], { cwd: root });
      let output = '';
      child.stdout.on('data', (data: Buffer) => {
        output += data.toString();
        // The first round says that it is at work; from then on a commit that has begun is cut short after a few milliseconds.
        if (/round\n[^]*commits\n$/.test(output) && !child.killed) setTimeout(() => child.kill('SIGKILL'), (kill * 5 + lane * 3) % 23);
      });
      let complaint = '';
      child.stderr.on('data', (data: Buffer) => (complaint += data.toString()));
      child.on('exit', (_, signal) => (signal === 'SIGKILL' ? resolve(output) : reject(new Error(complaint))));
    });
    hits.push(said.trimEnd().endsWith('commits'));
    await expectWhole(ids);
  }
  return hits;
}

/** Every change set holds both documents, and every head stands where its log and its revisions end. */
async function expectWhole(ids: Readonly<Record<string, string>>): Promise<void> {
  const revisions = await RevisionRow.findAll({
    attributes: ['documentId', 'number', 'changeSetId'],
    where: { documentId: TAKERS.map((name) => ids[name] ?? '') },
  });
  const perSet = new Map<string, number>();
  for (const { changeSetId } of revisions) if (changeSetId !== null) perSet.set(changeSetId, (perSet.get(changeSetId) ?? 0) + 1);
  expect([...new Set(perSet.values())]).toEqual([2]);
  for (const name of TAKERS) {
    const read = await readDocument(ids[name] ?? '');
    if (!read.ok) throw new Error(read.failure.message);
    const own = revisions.filter((row) => row.documentId === ids[name]);
    expect(Math.max(...own.map((row) => row.number))).toBe(read.value.revision);
    expect(await EditRow.max('seq', { where: { documentId: ids[name] ?? '' } })).toBe(read.value.seq);
  }
}

test('several processes that start at once migrate once', async () => {
  const applied = await Promise.all([migrate(), migrate(), migrate()]);
  expect(applied.flat()).toEqual([]);
  const [rows] = await database().query('SELECT name FROM schema_migrations');
  expect(rows).toHaveLength(MIGRATIONS.length);
});

describe('only this machine and its own pages are answered', () => {
  const request = { method: 'GET', host: '127.0.0.1:4173', origin: null, fetchSite: null };
  test.each([
    ['its own page', request, true],
    ['localhost by name', { ...request, host: 'localhost:4173' }, true],
    ['another name for the same address', { ...request, host: 'evil.example:4173' }, false],
    ['a name that only starts like it', { ...request, host: '127.0.0.1.evil.example' }, false],
    ['no host', { ...request, host: null }, false],
    ['a change by its own page', { ...request, method: 'POST', origin: 'http://127.0.0.1:4173', fetchSite: 'same-origin' }, true],
    ['a change by another page', { ...request, method: 'POST', origin: 'http://evil.example', fetchSite: 'cross-site' }, false],
    ['a change by another port of this machine', { ...request, method: 'POST', origin: 'http://127.0.0.1:9999' }, false],
    ['a change by a program', { ...request, method: 'POST' }, true],
  ])('%s', (_, given, allowed) => {
    expect(isAllowedRequest(given)).toBe(allowed);
  });
});
