/** The commands that start and stop the application, beside the one that the journeys run on. */
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';

const root = process.cwd();
const PORT = Number(process.env['E2E_PORT'] ?? 4299) + 10;

async function started(server: ChildProcess): Promise<void> {
  for (let i = 0; i < 150 && server.exitCode === null; i++) {
    const answer = await fetch(`http://127.0.0.1:${PORT}/api/health`).catch(() => undefined);
    if (answer?.ok === true) return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error('the second server did not start');
}

test('a server that is told to stop has stopped within three seconds, with a tab open on it', async ({ page }) => {
  const server = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(PORT), '--keepAliveTimeout', '75000'], {
    cwd: root,
    stdio: 'ignore',
  });
  try {
    await started(server);
    await page.goto(`http://127.0.0.1:${PORT}/`);
    await expect(page.getByText('Table loom', { exact: true })).toBeVisible();
    await page.waitForTimeout(500);
    const ended = new Promise<number>((resolve) => {
      const from = Date.now();
      server.once('exit', () => resolve(Date.now() - from));
    });
    server.kill('SIGTERM');
    expect(await ended).toBeLessThan(3_000);
  } finally {
    server.kill('SIGKILL');
  }
});

test('a second demo beside a running one says so and touches nothing', async ({ page, baseURL }) => {
  const port = new URL(baseURL ?? '').port;
  const data = mkdtempSync(path.join(tmpdir(), 'warpbeam-data-'));
  const environment = { ...process.env, PORT: port, WARPBEAM_DATA: data };
  const taken = spawnSync('bash', ['scripts/demo.sh'], { cwd: root, env: environment, encoding: 'utf8', timeout: 20_000 });
  expect(taken.status).toBe(1);
  expect(taken.stderr).toContain(`Port ${port} is in use`);
  // The same data, held by somebody: what is told is where that one is.
  const holder = spawn('bash', ['-c', `exec 8>>"${data}/running"; flock 8; printf http://127.0.0.1:1 >"${data}/running"; sleep 30`], { stdio: 'ignore' });
  try {
    await page.waitForTimeout(500);
    const again = spawnSync('bash', ['scripts/demo.sh'], { cwd: root, env: { ...environment, PORT: String(PORT) }, encoding: 'utf8', timeout: 20_000 });
    expect(again.status).toBe(0);
    expect(again.stderr).toContain('running already, on the same data: http://127.0.0.1:1');
  } finally {
    holder.kill('SIGKILL');
  }
  expect((await page.request.get('/api/health')).ok()).toBe(true);
});
