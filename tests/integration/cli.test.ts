/** The command line as a user runs it. */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { DocumentReport } from '@/cli/report';

const root = path.join(__dirname, '../..');
const demo = path.join(root, 'demo/table-loom.json');

function warpbeam(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx', path.join(root, 'src/cli/main.ts'), ...args], {
    cwd: root,
    encoding: 'utf8',
  });
  return { status, stdout, stderr };
}

const valueOf = (stdout: string, document: string, name: string) => {
  const { documents } = JSON.parse(stdout) as { documents: DocumentReport[] };
  return documents.find((entry) => entry.name === document)?.values.find((value) => value.name === name);
};

test('evaluates a project with a value set, links caught up', () => {
  const { status, stdout } = warpbeam('evaluate', demo, '--set', 'Loom sizes.weaving_width=480 mm', '--json');
  expect(status).toBe(0);
  expect(valueOf(stdout, 'Side frame', 'depth')).toMatchObject({ value: 432, unit: 'mm', formula: 'frame_depth', diagnostics: [] });
  expect(valueOf(stdout, 'Cross rail', 'rail_length')).toMatchObject({ value: 540 });
}, 30_000);

test('as saved, a link keeps what it took', () => {
  const { stdout } = warpbeam('evaluate', demo, '--set', 'Loom sizes.weaving_width=480 mm', '--as-saved', '--json');
  expect(valueOf(stdout, 'Side frame', 'depth')).toMatchObject({ value: 360 });
}, 30_000);

test('an error in the model is told and makes the exit status 1', () => {
  const { status, stdout } = warpbeam('evaluate', demo, '--set', 'Loom sizes.side_gap=beam_dai');
  expect(status).toBe(1);
  expect(stdout).toContain('There is no value named beam_dai here. Did you mean beam_dia');
}, 30_000);

test.each([
  [['evaluate', 'nowhere.json'], 'The file cannot be read'],
  [['evaluate', demo, '--set', 'Loom sizes.nothing=1'], 'Loom sizes has no parameter nothing.'],
  [['evaluate', demo, '--set', 'Looms.teeth=1'], 'There is no document "Looms"'],
  [['paint', demo], 'Usage:'],
  [['evaluate', demo, '--loud'], 'Usage:'],
])(
  '%s cannot be carried out: status 2 and the reason',
  (args, reason) => {
    const { status, stderr } = warpbeam(...args);
    expect(status).toBe(2);
    expect(stderr).toContain(reason);
  },
  30_000,
);

test('a broken file says where it is broken', () => {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'warpbeam-')), 'broken.json');
  writeFileSync(file, readFileSync(demo, 'utf8').replace('"kind": "master"', '"kind": "monster"'));
  const { status, stderr } = warpbeam('evaluate', file);
  expect(status).toBe(2);
  expect(stderr).toContain('documents[0].kind');
}, 30_000);

test('regenerates solids and writes them', () => {
  const directory = mkdtempSync(path.join(tmpdir(), 'warpbeam-'));
  const stdout = execFileSync(
    process.execPath,
    ['--import', 'tsx', path.join(root, 'src/cli/main.ts'), 'regenerate', demo, '--json', '--step', directory, '--stl', directory],
    { cwd: root, encoding: 'utf8' },
  );
  const { documents } = JSON.parse(stdout) as { documents: { name: string; bodies?: { properties: { volume: number; isValid: boolean } }[] }[] };
  const rail = documents.find((entry) => entry.name === 'Cross rail')?.bodies?.[0]?.properties;
  expect(rail?.isValid).toBe(true);
  expect(Math.abs((rail?.volume ?? 0) / ((36 * 36 - Math.PI * 3.3 ** 2) * 460) - 1)).toBeLessThan(1e-9);
  expect(readFileSync(path.join(directory, 'cross-rail.step'), 'latin1')).toContain('ISO-10303-21');
  expect(readFileSync(path.join(directory, 'side-frame.stl')).byteLength).toBeGreaterThan(84);
}, 90_000);

test('the published schema is the one that the code checks', () => {
  const { stdout } = warpbeam('schema');
  expect(JSON.parse(stdout)).toEqual(JSON.parse(readFileSync(path.join(root, 'docs/project-file.schema.json'), 'utf8')));
}, 30_000);
