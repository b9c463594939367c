/** Range runs at the server: the same as in the page, kept, stopped, and gone on with after a restart. */
import { randomUUID } from 'node:crypto';
import type { RunReply, RunWish } from '@/contract';
import { findNamed } from '@/core/document';
import { InstanceLibrary } from '@/core/instances';
import { evenly, runMap, runRange, Sampler } from '@/core/studies';
import { DocumentRow, RunRow } from '@/server/db/models';
import { pack } from '@/server/db/packing';
import { awaitedClient } from '@/server/geometry-workers';
import { readState } from '@/server/services/document-store';
import { importProject, readProject } from '@/server/services/projects';
import { changeRuns, readRuns, readRunSamples, resumeRuns, runEnded } from '@/server/services/runs';
import { buildWith, MASS } from '@/workers/study-build';
import { DEMO_TEXT } from '../support/demo';
import { onServer } from '../support/on-server';

onServer();

const MM = 10_000;
const NOBODY = new InstanceLibrary();

async function importDemo(): Promise<Readonly<Record<string, string>>> {
  const imported = await importProject(DEMO_TEXT, 'test');
  const read = imported.ok ? await readProject(imported.value.id) : imported;
  if (!read.ok) throw new Error(read.failure.message);
  return Object.fromEntries(read.value.documents.map(({ id, name }) => [name, id]));
}

async function documentOf(id: string) {
  const row = await DocumentRow.findByPk(id);
  if (!row) throw new Error('no document');
  return readState(row);
}

async function wishFor(document: string, name: string, range: readonly [number, number], count: number, outputs: readonly string[]): Promise<RunWish> {
  const state = await documentOf(document);
  const idOf = (one: string): string => (one === MASS ? MASS : (findNamed(state, one)?.id ?? ''));
  const [from, to] = range;
  return { id: randomUUID(), value: idOf(name), outputs: outputs.map(idOf), from: from * MM, to: to * MM, count, author: 'ann' };
}

async function only(document: string): Promise<RunReply> {
  const read = await readRuns(document);
  const [run] = read.ok ? read.value.runs : [];
  if (!run) throw new Error('no run');
  return run;
}

async function samplesOf(document: string, id: string) {
  const read = await readRunSamples(document, id);
  if (!read.ok) throw new Error(read.failure.message);
  return read.value.samples;
}

test('a part is run through a range in the background, to what the page would come to, and is kept', async () => {
  const { 'Warp beam': beam = '' } = await importDemo();
  const wish = await wishFor(beam, 'tie_pitch', [40, 60], 3, ['journal_length', MASS]);
  const started = await changeRuns(beam, { start: wish });
  expect(started.ok && started.value.runs.map(({ id, count }) => [id, count])).toEqual([[wish.id, 3]]);
  // The same press twice is one run.
  await changeRuns(beam, { start: wish });
  await runEnded(wish.id);
  const run = await only(beam);
  expect([run.status, run.done, run.author]).toEqual(['done', 3, 'ann']);
  const samples = await samplesOf(beam, wish.id);
  const document = await documentOf(beam);
  const ids = wish.outputs.filter((id) => id !== MASS);
  const client = awaitedClient(beam);
  const alone = await runRange(
    new Sampler(document, [wish.value], NOBODY),
    evenly(wish.from, wish.to, 3),
    ids,
    buildWith(client, document, NOBODY, { outputs: ids }),
  );
  expect(samples).toEqual(alone);
  expect(samples[0]?.outputs[MASS]).toBeGreaterThan(0);
  // What it was run on is needed no more.
  expect((await RunRow.findByPk(wish.id))?.document).toBeNull();
  const removed = await changeRuns(beam, { remove: wish.id });
  expect(removed.ok && removed.value.runs).toEqual([]);
}, 120_000);

test('one that is stopped keeps what is done; one that a restart broke off goes on from there, on the document as it was', async () => {
  const { 'Loom sizes': sizes = '' } = await importDemo();
  const wish = await wishFor(sizes, 'weaving_width', [300, 500], 2_000, ['inner_width']);
  await changeRuns(sizes, { start: wish });
  const stopped = await changeRuns(sizes, { stop: wish.id });
  const [first] = stopped.ok ? stopped.value.runs : [];
  expect(first?.status).toBe('stopped');
  expect(first?.done).toBeLessThan(2_000);

  // As a server leaves it that ends in the middle; the document is another by now.
  const few = await wishFor(sizes, 'weaving_width', [300, 500], 5, ['inner_width']);
  const before = await documentOf(sizes);
  const kept = evenly(few.from, few.to, 5)
    .slice(0, 2)
    .map((at) => ({ at, outputs: { [few.outputs[0] ?? '']: at + 24 * MM }, problems: [], held: [] }));
  const asked = pack({ wish: few, state: 'then' });
  await RunRow.create({ id: few.id, documentId: sizes, status: 'under-way', asked, samples: pack(kept), done: 2, document: pack(before) });
  const gap = findNamed(before, 'side_gap')?.id ?? '';
  const later = { ...before, records: { ...before.records, [gap]: { ...before.records[gap], formula: { text: '50 mm' } } } };
  await DocumentRow.update({ body: pack(later) }, { where: { id: sizes } });
  await resumeRuns();
  await runEnded(few.id);
  const samples = await samplesOf(sizes, few.id);
  expect([(await RunRow.findByPk(few.id))?.status, samples.map(({ at }) => at / MM)]).toEqual(['done', [300, 350, 400, 450, 500]]);
  expect(samples.map(({ at, outputs }) => (outputs[few.outputs[0] ?? ''] ?? NaN) - at)).toEqual([24, 24, 24, 24, 24].map((mm) => mm * MM));
}, 60_000);

test('what cannot be run is told, and nothing is kept of it', async () => {
  const { 'Loom sizes': sizes = '' } = await importDemo();
  const wish = await wishFor(sizes, 'weaving_width', [300, 500], 5, []);
  expect(await readRunSamples(sizes, wish.id)).toMatchObject({ ok: false, failure: { code: 'not-found' } });
  expect(await changeRuns('nobody', { start: wish })).toMatchObject({ ok: false, failure: { code: 'not-found' } });
  expect(await changeRuns(sizes, { start: { ...wish, from: wish.to } })).toMatchObject({
    ok: false,
    failure: { message: 'A range must run from less to more.' },
  });
  const screw = findNamed(await documentOf(sizes), 'screw')?.id ?? '';
  expect(await changeRuns(sizes, { start: { ...wish, value: screw } })).toMatchObject({
    ok: false,
    failure: { message: expect.stringMatching(/must be an amount/) as unknown },
  });
  expect(await changeRuns(sizes, { start: { ...wish, value: 'gone' } })).toMatchObject({ ok: false });
  expect(await RunRow.count({ where: { documentId: sizes } })).toBe(0);
});

test('two values are run together, to what the page would come to; what cannot be is refused', async () => {
  const { 'Loom sizes': sizes = '' } = await importDemo();
  const one = await wishFor(sizes, 'weaving_width', [300, 500], 4, ['inner_width']);
  const other = await wishFor(sizes, 'side_gap', [10, 14], 3, []);
  const { value, from, to, count } = other;
  const wish: RunWish = { ...one, second: { value, from, to, count } };
  const started = await changeRuns(sizes, { start: wish });
  expect(started.ok).toBe(true);
  await runEnded(wish.id);
  expect(await only(sizes)).toMatchObject({ status: 'done', done: 12, second: { value, count: 3 } });
  const document = await documentOf(sizes);
  const amounts = [evenly(wish.from, wish.to, 4), evenly(from, to, 3)] as const;
  const alone = await runMap(new Sampler(document, [wish.value, value], NOBODY), amounts, wish.outputs);
  const samples = await samplesOf(sizes, wish.id);
  expect(samples.map(({ at, also, ...rest }) => ({ at: [at, also], ...rest }))).toEqual(alone);
  const refused = [
    { ...wish, id: randomUUID(), second: { value: wish.value, from, to, count } },
    { ...wish, id: randomUUID(), second: { value, from: to, to: from, count } },
  ];
  for (const start of refused) expect((await changeRuns(sizes, { start })).ok).toBe(false);
}, 120_000);

test('an assembly is run at amounts that are listed, and what stands in one another is told', async () => {
  const { Loom: loom = '' } = await importDemo();
  const document = await documentOf(loom);
  const gap = findNamed(document, 'wheel_gap')?.id ?? '';
  // The wheel beside the right frame: a millimetre apart, or five into it.
  const wish: RunWish = { id: randomUUID(), value: gap, from: -5 * MM, to: MM, count: 2, amounts: [-5 * MM, MM], isJudged: true, outputs: [], author: 'ann' };
  expect((await changeRuns(loom, { start: wish })).ok).toBe(true);
  await runEnded(wish.id);
  const [into, apart] = await samplesOf(loom, wish.id);
  expect([into?.at, apart?.at]).toEqual([-5 * MM, MM]);
  expect(into?.problems.join()).toMatch(/right_side and unit\.wheel stand in one another|unit\.wheel and right_side stand in one another/);
  expect(apart?.problems).toEqual([]);
}, 120_000);
