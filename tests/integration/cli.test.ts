/** The command line: some as a user runs it, in a process of its own, and all else in this one. */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { DocumentReport } from '@/cli/report';
import { runCommand } from '@/cli/run-command';
import type { GoalsReport } from '@/cli/goals';
import type { StackReport } from '@/cli/stack';
import type { RunReport, SolveReport } from '@/cli/studies';
import { createDocument, type Document, type DocumentRecord } from '@/core/document';
import { clientFromSource } from '@/workers/start-thread';
import { edited } from '../support/demo';

const root = path.join(__dirname, '../..');
const demo = path.join(root, 'demo/table-loom.json');

/** The command as a process of its own: what a terminal sees. */
function start(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [path.join(root, 'scripts/warpbeam.mjs'), ...args], {
    cwd: root,
    encoding: 'utf8',
  });
  return { status, stdout, stderr };
}

const kernel = clientFromSource();
afterAll(() => kernel.close());
/** What all commands here build with: it outlives each. */
const shared = new Proxy(kernel, { get: (client, name) => (name === 'close' ? () => undefined : (Reflect.get(client, name, client) as unknown)) });

/** The same command in this process. */
async function warpbeam(...args: string[]) {
  let [stdout, stderr] = ['', ''];
  const status = await runCommand(args, {
    print: (text) => (stdout += `${text}\n`),
    complain: (text) => (stderr += `${text}\n`),
    openClient: () => Promise.resolve(shared),
  });
  return { status, stdout, stderr };
}

const valueOf = (stdout: string, document: string, name: string) => {
  const { documents } = JSON.parse(stdout) as { documents: DocumentReport[] };
  return documents.find((entry) => entry.name === document)?.values.find((value) => value.name === name);
};

test('a process says what the command says, with its exit status', async () => {
  for (const [status, args] of [
    [0, ['evaluate', demo]],
    [1, ['evaluate', demo, '--set', 'Loom sizes.side_gap=beam_dai']],
    [2, ['evalute', demo]],
    [0, ['--help']],
    [0, ['run', demo, '--range', 'Loom sizes.weaving_width=300 mm..500 mm/3', '--of', 'inner_width', '--csv']],
  ] as const) {
    const said = start(...args);
    expect(said).toEqual(await warpbeam(...args));
    expect(said.status).toBe(status);
  }
});

test('evaluates a project with a value set, links caught up', async () => {
  const { status, stdout } = await warpbeam('evaluate', demo, '--set', 'Loom sizes.weaving_width=480 mm', '--json');
  expect(status).toBe(0);
  expect(valueOf(stdout, 'Side frame', 'depth')).toMatchObject({ value: 432, unit: 'mm', formula: 'frame_depth', diagnostics: [] });
  expect(valueOf(stdout, 'Cross rail', 'rail_length')).toMatchObject({ value: 540 });
});

test('as saved, a link keeps what it took', async () => {
  const { stdout } = await warpbeam('evaluate', demo, '--set', 'Loom sizes.weaving_width=480 mm', '--as-saved', '--json');
  expect(valueOf(stdout, 'Side frame', 'depth')).toMatchObject({ value: 360 });
});

test('at the limits of its tolerances, each part from the nominal that it is linked to', async () => {
  const { status, stdout } = await warpbeam('evaluate', demo, '--at', 'upper', '--json');
  expect(status).toBe(0);
  // ISO 286-2: H9 from 30 to 50 mm is +0.062/0.
  expect(valueOf(stdout, 'Side frame', 'warp_bearing')).toMatchObject({ value: 45.462 });
  // h9 is 0/-0.062: at its upper limit the beam is at nominal, and what has no tolerance follows the formulas.
  expect(valueOf(stdout, 'Warp beam', 'barrel_dia')).toMatchObject({ value: 57 });
  expect(valueOf((await warpbeam('evaluate', demo, '--at', 'lower', '--json')).stdout, 'Warp beam', 'barrel_dia')).toMatchObject({ value: 56.938 });
  expect((await warpbeam('evaluate', demo, '--at', 'nominal', '--json')).stdout).toBe((await warpbeam('evaluate', demo, '--json')).stdout);
});

test('a what-if of the file is evaluated through all documents', async () => {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'warpbeam-')), 'project.json');
  const sizes = (JSON.parse(readFileSync(demo, 'utf8')) as { documents: Document[] }).documents.find(({ name }) => name === 'Loom sizes');
  const whatIf = { id: 'w', name: 'Wider', values: { 'weaving-width': { formula: { text: '480 mm' }, instead: '400 mm' } } };
  writeFileSync(file, JSON.stringify({ ...(JSON.parse(readFileSync(demo, 'utf8')) as object), whatIfs: [{ document: sizes?.id, whatIfs: [whatIf] }] }));
  expect(valueOf((await warpbeam('evaluate', file, '--json')).stdout, 'Side frame', 'depth')).toMatchObject({ value: 360 });
  expect(valueOf((await warpbeam('evaluate', file, '--what-if', 'Loom sizes=Wider', '--json')).stdout, 'Side frame', 'depth')).toMatchObject({ value: 432 });
  const unknown = await warpbeam('evaluate', file, '--what-if', 'Narrow');
  expect([unknown.status, unknown.stderr]).toEqual([2, expect.stringContaining('There is no what-if "Narrow". There are Loom sizes=Wider.')]);
});

test('an error in the model is told and makes the exit status 1', async () => {
  const { status, stdout } = await warpbeam('evaluate', demo, '--set', 'Loom sizes.side_gap=beam_dai');
  expect(status).toBe(1);
  expect(stdout).toContain('There is no value named beam_dai here. Did you mean beam_dia');
});

test.each([
  [['evaluate', 'nowhere.json'], 'The file cannot be read'],
  [['evaluate', demo, '--set', 'Loom sizes.nothing=1'], 'Loom sizes has no parameter nothing.'],
  [['evaluate', demo, '--set', 'Looms.teeth=1'], 'There is no document "Looms"'],
  [['evaluate', demo, '--set', 'Loom sizes.weaving_widht=1'], 'Loom sizes has no parameter weaving_widht. Did you mean weaving_width'],
  [['evaluate', demo, '--set', 'Loom size.teeth=1'], 'There is no document "Loom size". Did you mean Loom sizes?'],
  [['paint', demo], 'Usage:'],
  [['evalute', demo], 'There is no command evalute. Did you mean evaluate?'],
  [['evaluate'], 'evaluate needs a project file.'],
  [['evaluate', demo, '--at', 'most'], '--at is nominal, upper, middle, lower, not most.'],
  [['evaluate', demo, '--loud'], 'Usage:'],
])(
  '%s cannot be carried out: status 2 and the reason',
  async (args, reason) => {
    const { status, stderr } = await warpbeam(...args);
    expect(status).toBe(2);
    expect(stderr).toContain(reason);
  },
  30_000,
);

test.each([['--help'], ['-h'], ['help']])('%s is an answer, not an error', async (flag) => {
  const { status, stdout, stderr } = await warpbeam(flag);
  expect([status, stderr]).toEqual([0, '']);
  expect(stdout).toContain('Usage:');
});

test('a value that depends on itself across documents is marked, with a path that closes; the rest is evaluated', async () => {
  const project = JSON.parse(readFileSync(demo, 'utf8')) as { documents: Document[] };
  const [sizes] = project.documents;
  const side = project.documents.find(({ name }) => name === 'Side frame');
  if (!sizes || !side) throw new Error('the demo has other documents');
  const depth = Object.values(side.records).find((record) => record.type === 'parameter' && record.name === 'depth');
  const frameDepth = Object.values(sizes.records).find((record) => record.type === 'parameter' && record.name === 'frame_depth');
  if (depth?.type !== 'parameter' || frameDepth?.type !== 'parameter') throw new Error('the demo has other values');
  const back: Record<string, DocumentRecord> = {
    back: { type: 'link', id: 'back', source: side.id, sourceName: side.name, policy: 'ask', revision: 0, hash: '' },
    'back-depth': {
      type: 'take',
      id: 'back-depth',
      link: 'back',
      parameter: depth.id,
      name: 'side_depth',
      sourceName: 'depth',
      value: { kind: 'yes-no', value: 1 },
    },
    [frameDepth.id]: { ...frameDepth, formula: { text: 'side_depth' } },
  };
  const ringed: Document = {
    ...sizes,
    records: { ...sizes.records, ...back },
    lists: { ...sizes.lists, links: [...(sizes.lists['links'] ?? []), 'back'], 'back/takes': ['back-depth'] },
  };
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'warpbeam-')), 'ring.json');
  writeFileSync(file, JSON.stringify({ ...project, documents: project.documents.map((document) => (document.id === sizes.id ? ringed : document)) }));
  const { status, stdout } = await warpbeam('evaluate', file, '--json');
  expect(status).toBe(1);
  const message = valueOf(stdout, 'Loom sizes', 'side_depth')?.diagnostics[0]?.message ?? '';
  const names = /depends on itself: (.*)\.$/.exec(message)?.[1]?.split(' → ') ?? [];
  expect(names.length).toBeGreaterThan(2);
  expect(names[0]).toBe(names.at(-1));
  expect(names).toEqual(expect.arrayContaining(['Loom sizes: side_depth', 'Side frame: depth']));
  expect(valueOf(stdout, 'Cross rail', 'rail_length')).toMatchObject({ value: 460, diagnostics: [] });
});

test('a broken file says where it is broken', async () => {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'warpbeam-')), 'broken.json');
  writeFileSync(file, readFileSync(demo, 'utf8').replace('"kind": "master"', '"kind": "monster"'));
  const { status, stderr } = await warpbeam('evaluate', file);
  expect(status).toBe(2);
  expect(stderr).toContain('documents[0].kind');
});

test('regenerates solids and writes them, beside a part that has none yet', () => {
  const directory = mkdtempSync(path.join(tmpdir(), 'warpbeam-'));
  const project = JSON.parse(readFileSync(demo, 'utf8')) as { documents: Document[] };
  const file = path.join(directory, 'project.json');
  writeFileSync(file, JSON.stringify({ ...project, documents: [createDocument('emptyPart000', 'part', 'Empty'), ...project.documents] }));
  const { status, stdout } = start('regenerate', file, '--json', '--step', directory, '--stl', directory);
  expect(status).toBe(0);
  const { documents } = JSON.parse(stdout) as {
    documents: {
      name: string;
      bodies?: { properties: { volume: number; isValid: boolean } }[];
      steps?: { sketch?: { points: Record<string, number[]>; degreesOfFreedom: number; redundant: string[] } }[];
    }[];
  };
  const outline = documents.find((entry) => entry.name === 'Side frame')?.steps?.[0]?.sketch;
  expect(outline).toMatchObject({ degreesOfFreedom: 0, redundant: [] });
  expect(Object.values(outline?.points ?? {}).map((point) => point.length)).toContain(2);
  const rail = documents.find((entry) => entry.name === 'Cross rail')?.bodies?.[0]?.properties;
  expect(rail?.isValid).toBe(true);
  expect(Math.abs((rail?.volume ?? 0) / ((36 * 36 - Math.PI * 3.3 ** 2) * 460) - 1)).toBeLessThan(1e-9);
  expect(readFileSync(path.join(directory, 'cross-rail.step'), 'latin1')).toContain('ISO-10303-21');
  expect(existsSync(path.join(directory, 'empty.step'))).toBe(false);
  expect(readFileSync(path.join(directory, 'side-frame.stl')).byteLength).toBeGreaterThan(84);
});

test('the published schema is the one that the code checks', async () => {
  const { stdout } = await warpbeam('schema');
  expect(JSON.parse(stdout)).toEqual(JSON.parse(readFileSync(path.join(root, 'docs/project-file.schema.json'), 'utf8')));
});

test('a tolerance stack, by itself and with general tolerances, the same for the same seed', async () => {
  const stack = async (...more: string[]) => {
    const { status, stdout } = await warpbeam('stack', demo, '--of', 'Loom sizes.inner_width', '--json', ...more);
    expect(status).toBe(0);
    return JSON.parse(stdout) as StackReport;
  };
  expect(await stack()).toMatchObject({ nominal: 424, contributors: [], worstCase: [424, 424] });
  // inner_width = weaving_width + 2 * side_gap; ISO 2768-1 m: 400 mm 0.5, 12 mm 0.2, twice.
  const general = await stack('--general', 'm', '--seed', '7');
  expect(general.contributors.map(({ name, sensitivity }) => [name, sensitivity])).toEqual([
    ['weaving_width', 1],
    ['side_gap', 2],
  ]);
  expect(general.worstCase).toEqual([423.1, 424.9]);
  expect(general.unit).toBe('mm');
  expect((await stack('--general', 'm', '--seed', '7')).monteCarlo).toEqual(general.monteCarlo);
  expect((await stack('--general', 'm', '--seed', '8')).monteCarlo).not.toEqual(general.monteCarlo);
  expect((await stack('--general', 'm', '--least', '423 mm', '--most', '425')).required).toMatchObject({
    least: 423,
    most: 425,
    worstCaseBeyond: 0,
    outside: 0,
  });
  const asked = await warpbeam('stack', demo, '--of', 'Loom sizes.inner_width', '--general', 'm', '--least', '423.5 mm', '--distribution', 'normal');
  expect([asked.status, asked.stdout]).toEqual([1, expect.stringContaining('worst case: 423.1 to 424.9 mm, 0.4 mm beyond the limits')]);
  // weaving_width ±0.5 and twice side_gap ±0.2: of 0.5 in all, what is four times as dear keeps twice as much.
  const dear = ['--least', '423.5 mm', '--cost', 'weaving_width=4', '--distribution', 'side_gap=normal'];
  const missed = await warpbeam('stack', demo, '--of', 'Loom sizes.inner_width', '--json', '--general', 'm', ...dear);
  expect(missed.status).toBe(1);
  const cheaper = JSON.parse(missed.stdout) as StackReport;
  expect(cheaper.contributors.map(({ name, cost, distribution }) => [name, cost, distribution])).toEqual([
    ['weaving_width', 4, 'even'],
    ['side_gap', 1, 'normal'],
  ]);
  expect(cheaper.required).toMatchObject({ judgedBy: 'worst-case', isMet: false });
  const [width, gap] = cheaper.required?.tighten ?? [];
  const off = (one: typeof width, nominal: number): number => nominal - (one?.lower ?? NaN);
  expect(off(width, 400) + 2 * off(gap, 12)).toBeCloseTo(0.5, 6);
  expect(off(width, 400) / off(gap, 12)).toBeCloseTo(Math.sqrt(4 * 2), 6);
  expect((await stack('--general', 'm', '--least', '423.2 mm', '--judged-by', 'root-sum-square')).required).toMatchObject({ isMet: true, tighten: [] });
});

test('a tolerance stack of what is measured is built at the limits; draws as often as is said', async () => {
  const project = JSON.parse(readFileSync(demo, 'utf8')) as { documents: Document[] };
  const measured = project.documents.map((document) => (document.name === 'Cross rail' ? withVolume(document) : document));
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'warpbeam-')), 'project.json');
  writeFileSync(file, JSON.stringify({ ...project, documents: measured }));
  const { status, stdout } = await warpbeam('stack', file, '--of', 'Cross rail.filled', '--samples', '1000', '--json');
  const report = JSON.parse(stdout) as StackReport;
  expect([status, report.way, report.stuck, report.free]).toEqual([0, 'differences', [], []]);
  // A bar of 36 by 36 mm with a hole of 6.6 mm along it, a millimetre longer or shorter.
  const section = 36 * 36 - Math.PI * 3.3 ** 2;
  expect(report.contributors.map(({ name, lower, upper }) => [name, lower, upper])).toEqual([['rail_length', 459, 461]]);
  expect((report.worstCase[1] ?? NaN) - (report.nominal ?? NaN)).toBeCloseTo(section, 1);
  expect((await warpbeam('stack', demo, '--of', 'Loom sizes.inner_width', '--samples', '2000000')).stderr).toContain(
    '--samples is a whole number from 1000 to 1000000',
  );
}, 60_000);

function withVolume(document: Document): Document {
  const [body = ''] = Object.values(document.records).flatMap((record) => (record.type === 'body' ? [record.id] : []));
  const measure = { of: 'body', what: 'volume', body } as const;
  return edited(
    document,
    {
      type: 'measure.add',
      parameter: { type: 'parameter', id: 'filled', name: 'filled', owner: document.lists['steps']?.at(-1), formula: { text: '' }, kind: 'volume', measure },
    },
    { type: 'parameter.update', id: 'rail-length', changes: { tolerance: { kind: 'symmetric', by: { text: '1 mm' } } } },
  );
}

test('two goals are reached at once by two values', async () => {
  const goals = ['--goal', 'Loom sizes.inner_width=500 mm', '--goal', 'Loom sizes.frame_depth=400 mm'];
  const by = ['--by', 'Loom sizes.weaving_width=200 mm..900 mm', '--by', 'Loom sizes.side_gap=5 mm..60 mm'];
  const { status, stdout } = await warpbeam('solve', demo, ...goals, ...by, '--json');
  expect(status).toBe(0);
  const report = JSON.parse(stdout) as GoalsReport;
  expect(report).toMatchObject({ isReached: true, goals: [{ isMet: true }, { isMet: true }] });
  // frame_depth is 0.9 weaving_width, inner_width is weaving_width + 2 side_gap.
  expect(report.values.map(({ name, at }) => [name, at])).toEqual([
    ['weaving_width', expect.closeTo(400 / 0.9, 6)],
    ['side_gap', expect.closeTo((500 - 400 / 0.9) / 2, 6)],
  ]);
  const narrow = await warpbeam('solve', demo, ...goals, '--by', 'Loom sizes.weaving_width=200 mm..300 mm', '--by', 'Loom sizes.side_gap=5 mm..60 mm');
  expect([narrow.status, narrow.stdout]).toEqual([1, expect.stringContaining('not met')]);
  const wrong = await warpbeam('solve', demo, ...goals, '--by', 'Pawl.pawl_reach=30 mm..90 mm', '--by', 'Loom sizes.side_gap=5 mm..60 mm');
  expect([wrong.status, wrong.stderr]).toEqual([2, expect.stringContaining('All values must be of one document')]);
});

test('a value is run in steps, and at amounts that are listed', async () => {
  const amounts = async (range: string): Promise<(number | null)[]> => {
    const { stdout } = await warpbeam('run', demo, '--range', `Loom sizes.weaving_width=${range}`, '--of', 'inner_width', '--json');
    return (JSON.parse(stdout) as RunReport).samples.map(({ at }) => at);
  };
  expect(await amounts('300 mm..500 mm by 80 mm')).toEqual([300, 380, 460]);
  expect(await amounts('450 mm; 30 cm')).toEqual([300, 450]);
});

test('two values are run together', async () => {
  const { status, stdout } = await warpbeam(
    ...['run', demo, '--range', 'Loom sizes.weaving_width=300 mm..500 mm/3', '--range', 'Loom sizes.side_gap=10 mm..20 mm/2'],
    ...['--of', 'inner_width', '--csv'],
  );
  // inner_width = weaving_width + 2 * side_gap; to and fro, so that one of both alone is another from line to line.
  expect([status, stdout.trim().split(/\r?\n/)]).toEqual([
    0,
    ['weaving_width in mm,side_gap in mm,inner_width in mm,wrong', '300,10,320,', '400,10,420,', '500,10,520,', '500,20,540,', '400,20,440,', '300,20,340,'],
  ]);
});

test('a value is run through a range with the geometry, and found for a mass', async () => {
  const run = await warpbeam('run', demo, '--range', 'Pawl.pawl_reach=30 mm..90 mm/3', '--of', 'mass', '--json');
  expect(run.status).toBe(0);
  const { samples, safe, outputs } = JSON.parse(run.stdout) as RunReport;
  expect([outputs, safe]).toEqual([[{ name: 'mass', unit: 'kg' }], [{ from: 30, to: 90 }]]);
  const [first, second, third] = samples.map(({ values: [mass] }) => mass ?? NaN);
  // A bar of one section is longer by the same: the mass grows evenly.
  expect((first ?? 0) + (third ?? 0)).toBeCloseTo(2 * (second ?? 0), 3);
  const solve = await warpbeam('solve', demo, '--goal', 'Pawl.mass=0.1 kg', '--by', 'Pawl.pawl_reach=30 mm..90 mm', '--json');
  const found = JSON.parse(solve.stdout) as SolveReport;
  expect([solve.status, found.reached]).toEqual([0, 0.1]);
  expect(found.at).toBeGreaterThan(60);
  const far = await warpbeam('solve', demo, '--goal', 'Loom sizes.inner_width=9 m', '--by', 'Loom sizes.weaving_width=200 mm..300 mm');
  expect([far.status, far.stdout]).toEqual([1, expect.stringContaining('is not reached. The nearest is 324')]);
}, 240_000);

test.each([
  [['stack', demo, '--of', 'Loom sizes.inner_widht'], 'Did you mean inner_width?'],
  [['stack', demo, '--of', 'Loom sizes.inner_width', '--general', 'x'], 'There are f, m, c, v.'],
  [['stack', demo, '--of', 'Loom sizes.inner_width', '--least', '3 kg'], 'cannot be 3 kg'],
  [['stack', demo, '--of', 'Loom sizes.inner_width', '--distribution', 'flat'], 'There are even, normal, triangular.'],
  [['stack', demo], 'stack needs a value'],
  [['run', demo, '--range', 'Pawl.pawl_reach=30 mm'], 'is no range'],
  [['run', demo, '--range', 'Pawl.pawl_reach=30 mm..90 mm', '--range', 'Reed.reed_margin=1 mm..2 mm'], 'both ranges are of one document'],
  [['run', demo, '--range', 'Pawl.pawl_reach=30 mm..90 mm by nothing'], 'is no step of pawl_reach'],
  [['run', demo, '--range', 'Pawl.pawl_reach=30 mm; 2 kg'], 'lists no amounts of pawl_reach'],
  [['run', demo, '--range', 'Pawl.pawl_reach=90 mm..30 mm'], 'from less to more'],
  [['run', demo, '--range', 'Pawl.pawl_reach=30 mm..90 mm/1'], '2 to 10000 samples'],
  [['solve', demo, '--goal', 'Pawl.mass', '--by', 'Pawl.pawl_reach=30 mm..90 mm'], 'is no goal'],
])(
  '%s is told why not',
  async (args, reason) => {
    const { status, stderr } = await warpbeam(...args);
    expect([status, stderr]).toEqual([2, expect.stringContaining(reason)]);
  },
  30_000,
);
