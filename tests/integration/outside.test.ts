/** Outside calculations on the server: a service that runs beside it, is stopped, late and wrong; a workbook; what is kept and what is held. */
import { writeFile } from 'node:fs/promises';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { gzipSync } from 'node:zlib';
import { utils, write } from '@e965/xlsx';
import { postEditsSchema } from '@/contract';
import { writeProjectFile, type Asked, type Document, type Edit, type EditOf } from '@/core/document';
import { openValues } from '@/core/instances';
import { startCalculationsWith } from '@/server/calculation/run';
import { closeDatabase } from '@/server/db/connect';
import { migrate } from '@/server/db/migrate';
import { commitCatchUp } from '@/server/services/catch-up';
import { previewCatchUp } from '@/server/services/catch-up-preview';
import { postEdits, readDocument } from '@/server/services/documents';
import { readRevision } from '@/server/services/history';
import { saveRevision } from '@/server/services/revisions';
import { answerDocument, readServices } from '@/server/services/outside';
import { exportProject, importProject, readProject } from '@/server/services/projects';
import { createCalculator, type Calculator } from '../../calculator/server';
import { component, driven, linked, placeless, sourceOf, withComponents, withParameters } from '../support/assemblies';
import { startCalculationThread } from '../support/calculations';
import { edited } from '../support/demo';

/** An outside calculation of the diameter of a shaft; what it hands back is `least_dia`. */
function shaftCheck(torque: string, asked: Asked = { of: 'service', service: 'Workshop', function: 'shaft diameter' }): EditOf<'outside.put'> {
  const isBook = asked.of === 'spreadsheet';
  return {
    type: 'outside.put',
    outside: {
      type: 'outside',
      id: 'hub',
      name: 'Shaft check',
      asked,
      inputs: [
        { key: 'torque', kind: 'torque', unit: 'N*m', formula: { text: torque } },
        { key: 'allowable', kind: 'pressure', unit: 'MPa', formula: { text: '40 MPa' } },
      ],
      outputs: [{ key: 'diameter', kind: 'length', unit: 'mm' }],
    },
    outputs: [
      {
        type: 'parameter',
        id: 'least',
        owner: 'hub',
        name: 'least_dia',
        formula: { text: '' },
        kind: 'length',
        measure: { of: 'outside', what: 'answer', outside: 'hub', output: 'diameter' },
      },
    ],
    ...(isBook ? { file: { type: 'file', id: asked.file, name: 'shaft.xlsx', format: 'xlsx', content: SHAFT_BOOK } } : {}),
  };
}

const SHAFT_BOOK = (() => {
  const book = utils.book_new();
  const formula = { t: 'n' as const, v: 0, f: '(16*B1*1000/(PI()*B2))^(1/3)' };
  utils.book_append_sheet(
    book,
    utils.aoa_to_sheet([
      ['Torque', 1],
      ['Allowable', 1],
      ['Diameter', formula],
    ]),
    'Shaft',
  );
  book.Workbook = {
    Names: [
      { Name: 'torque', Ref: 'Shaft!$B$1' },
      { Name: 'allowable', Ref: 'Shaft!$B$2' },
      { Name: 'diameter', Ref: 'Shaft!$B$3' },
    ],
  };
  return gzipSync(write(book, { type: 'buffer', bookType: 'xlsx' }) as Buffer).toString('base64');
})();

const millimetres = (torque: number): number => Math.cbrt((16 * torque * 1000) / (Math.PI * 40));

let calculator: Calculator;
let address: string;
const list = path.join(tmpdir(), `services-${process.pid}.json`);
beforeAll(async () => {
  process.env['WARPBEAM_NO_JOBS'] = '1';
  await migrate();
  calculator = createCalculator('secret');
  calculator.server.listen(0, '127.0.0.1');
  await once(calculator.server, 'listening');
  address = `http://127.0.0.1:${(calculator.server.address() as AddressInfo).port}`;
  process.env['SERVICE_SECRET'] = 'secret';
  process.env['WARPBEAM_SERVICES'] = list;
  await writeFile(
    list,
    JSON.stringify({
      services: [
        { name: 'Workshop', url: address, secret: 'SERVICE_SECRET', timeLimit: 1 },
        { name: 'Stranger', url: address },
        { name: 'Nobody', url: 'http://127.0.0.1:9' },
      ],
    }),
  );
});
afterAll(async () => {
  calculator.server.closeAllConnections();
  calculator.server.close();
  await closeDatabase();
});
beforeEach(() => {
  calculator.giveTrouble({ is: 'none' });
});

async function bring(...documents: readonly Document[]): Promise<(name: string) => string> {
  const imported = await importProject(writeProjectFile({ name: 'Outside', documents }), 'ann');
  if (!imported.ok) throw new Error(JSON.stringify(imported.failure));
  const project = await readProject(imported.value.id);
  if (!project.ok) throw new Error(project.failure.message);
  const ids = Object.fromEntries(project.value.documents.map(({ id, name }) => [name, id]));
  return (name) => ids[name] ?? '';
}

let keys = 0;
async function change(id: string, edit: Edit): Promise<void> {
  const at = await readDocument(id);
  if (!at.ok) throw new Error(at.failure.message);
  const posted = await postEdits(id, { base: at.value.seq, envelopes: [{ key: `outside-${Date.now()}-${keys++}`, author: 'ann', edit }] });
  if (!posted.ok) throw new Error(posted.failure.message);
}
const setArm = (id: string, text: string) => change(id, { type: 'parameter.setFormula', id: 'shaft-arm', formula: { text } });

/** A value as the document has it now, in millimetres, and whether it is held. */
async function stateOf(id: string, value = 'least', others: readonly Document[] = []) {
  const read = await readDocument(id);
  if (!read.ok) throw new Error(read.failure.message);
  const source =
    Object.keys(read.value.snapshots).length > 0
      ? { snapshot: (one: string, n: number) => read.value.snapshots[`${one}@${n}`], built: () => undefined }
      : sourceOf(others);
  const values = openValues(read.value.document, source);
  return { mm: values.sheet.readNumber(value) / 10_000, isHeld: values.isHeld(value), document: read.value.document };
}
async function problems(id: string): Promise<string[]> {
  const asked = await answerDocument(id);
  if (!asked.ok) throw new Error(asked.failure.message);
  return asked.value.failures.map(({ problem }) => problem);
}

const SHAFT = edited(withParameters('master', 'shaft', { force: '200 N', arm: '24 mm' }), shaftCheck('force * arm'));

test('the services that are listed tell what they compute, or why they do not', async () => {
  const { services, problem } = await readServices();
  expect(problem).toBeUndefined();
  expect(services.map(({ name, functions }) => [name, functions.map((one) => one.name)])).toEqual([
    ['Workshop', ['shaft diameter', 'rope brake', 'bearing life']],
    ['Stranger', []],
    ['Nobody', []],
  ]);
  expect(services.map((one) => one.problem)).toEqual([
    undefined,
    expect.stringMatching(/^Stranger answered something else than numbers: .*secret/),
    'Nobody cannot be reached.',
  ]);
});

test('an answer is kept once, drives what reads it, and serves again when the inputs come back', async () => {
  const id = (await bring(SHAFT))('shaft');
  const before = calculator.asked();
  expect(await problems(id)).toEqual([]);
  expect((await stateOf(id)).mm).toBeCloseTo(millimetres(4.8), 9);
  await setArm(id, '48 mm');
  expect(await stateOf(id)).toMatchObject({ isHeld: true });
  // Two pages ask at once.
  expect(await Promise.all([problems(id), problems(id)])).toEqual([[], []]);
  expect((await stateOf(id)).mm).toBeCloseTo(millimetres(9.6), 9);
  await setArm(id, '24 mm');
  expect(await problems(id)).toEqual([]);
  const { mm, isHeld, document } = await stateOf(id);
  expect([mm, isHeld]).toEqual([expect.closeTo(millimetres(4.8), 9), false]);
  expect(calculator.asked() - before).toBe(2);
  const answers = Object.values(document.records).filter(({ type }) => type === 'answer');
  expect(answers).toMatchObject([{ version: 'workshop 1' }, { version: 'workshop 1' }]);
});

test.each([
  ['failing', { is: 'failing' }, /^Workshop failed \(HTTP 500\)\.$/, 3],
  ['slow', { is: 'slow', ms: 1500 }, /^Workshop did not answer within 1 s\.$/, 3],
  ['sending a page', { is: 'nonsense' }, /^Workshop cannot be understood\. The reply is not JSON: "<html><body>Maintenance/, 1],
  ['sending ten megabytes', { is: 'huge' }, /^Workshop cannot be understood\. The reply is longer than 64 kB\.$/, 1],
  ['answering in another unit', { is: 'wrong-unit' }, /^Workshop: diameter came in kg: it should be in a unit of length\.$/, 1],
] as const)('a service that is %s leaves the last result, held, and says why', async (_, trouble, words, times) => {
  const id = (await bring(SHAFT))('shaft');
  await problems(id);
  await setArm(id, '48 mm');
  const before = calculator.asked();
  calculator.giveTrouble(trouble);
  expect(await problems(id)).toEqual([expect.stringMatching(words)]);
  expect(calculator.asked() - before).toBe(times);
  expect(await stateOf(id)).toMatchObject({ mm: expect.closeTo(millimetres(4.8), 9) as number, isHeld: true });
  const exported = await exportProject(((await readDocument(id)) as { value: { project: { id: string } } }).value.project.id);
  expect(exported.ok && exported.value).toContain('"type": "answer"');
  calculator.giveTrouble({ is: 'none' });
  expect(await problems(id)).toEqual([]);
  expect(await stateOf(id)).toMatchObject({ mm: expect.closeTo(millimetres(9.6), 9) as number, isHeld: false });
});

test('inputs that move on while the service computes: its late answer is not taken for the new ones', async () => {
  const id = (await bring(SHAFT))('shaft');
  calculator.giveTrouble({ is: 'slow', ms: 400 });
  const asking = problems(id);
  await new Promise((go) => setTimeout(go, 200));
  await setArm(id, '48 mm');
  expect(await asking).toEqual([]);
  expect(await stateOf(id)).toMatchObject({ mm: expect.closeTo(millimetres(9.6), 9) as number, isHeld: false });
});

test('what it says of inputs that it cannot compute is told in its words', async () => {
  const id = (await bring(SHAFT))('shaft');
  await setArm(id, '0 mm');
  expect(await problems(id)).toEqual(['Workshop: torque and allowable must be above zero']);
  await change(id, { ...shaftCheck('force * arm', { of: 'service', service: 'Elsewhere', function: 'x' }), outputs: [] });
  expect(await problems(id)).toEqual([expect.stringMatching(/^There is no service Elsewhere\./)]);
});

test('a calculation that is deleted while it is asked needs no answer', async () => {
  const id = (await bring(SHAFT))('shaft');
  calculator.giveTrouble({ is: 'slow', ms: 400 });
  const asking = problems(id);
  await new Promise((go) => setTimeout(go, 200));
  await change(id, { type: 'outside.remove', id: 'hub', readers: { mode: 'refuse' } });
  expect(await asking).toEqual([]);
  expect(Object.values((await stateOf(id)).document.records).filter(({ type }) => type === 'answer')).toEqual([]);
});

test('each use of a calc sheet has answers of its own, in the document that uses it; one feeds the next', async () => {
  const sheet = edited(withParameters('calc', 'sheet', { force: '200 N', arm: '24 mm' }), shaftCheck('force * arm'));
  const host = withComponents(
    withParameters('part', 'host', { hub: 'two.least_dia' }),
    placeless(component('one', 'sheet')),
    placeless(component('two', 'sheet')),
  );
  const idOf = await bring(sheet, driven(host, 'two.arm', 'one.least_dia'));
  const id = idOf('host');
  expect(await problems(id)).toEqual([]);
  expect((await stateOf(id, 'host-hub')).mm).toBeCloseTo(millimetres((200 * millimetres(4.8)) / 1000), 9);
  expect(Object.values((await stateOf(idOf('sheet'))).document.records).filter(({ type }) => type === 'answer')).toEqual([]);
});

test('a workbook that is kept in the document computes as a service does', async () => {
  const id = (
    await bring(edited(withParameters('master', 'shaft', { force: '200 N', arm: '24 mm' }), shaftCheck('force * arm', { of: 'spreadsheet', file: 'book' })))
  )('shaft');
  expect(await problems(id)).toEqual([]);
  expect((await stateOf(id)).mm).toBeCloseTo(millimetres(4.8), 9);
  await setArm(id, '48 mm');
  expect(await problems(id)).toEqual([]);
  expect((await stateOf(id)).mm).toBeCloseTo(millimetres(9.6), 9);
});

test('a workbook that takes too much is told by its name, and holds up nothing', async () => {
  const id = (
    await bring(edited(withParameters('master', 'shaft', { force: '200 N', arm: '24 mm' }), shaftCheck('force * arm', { of: 'spreadsheet', file: 'book' })))
  )('shaft');
  startCalculationsWith(
    () => new Worker('const kept = []; for (;;) kept.push(new Array(100_000).fill({}));', { eval: true, resourceLimits: { maxOldGenerationSizeMb: 16 } }),
  );
  try {
    expect(await problems(id)).toEqual(['shaft.xlsx: The calculation took too much memory and was stopped. Nothing was changed.']);
  } finally {
    startCalculationsWith(startCalculationThread);
  }
  expect(await problems(id)).toEqual([]);
});

describe('a document that takes what it asks about', () => {
  const master = withParameters('master', 'sizes', { reach: '24 mm' });
  const taker = edited(linked(SHAFT, 'sizes', { reach: 24 }), { type: 'parameter.setFormula', id: 'shaft-arm', formula: { text: 'reach' } });
  const offered = edited(taker, { type: 'parameter.update', id: 'least', changes: { offered: true } });

  async function move(idOf: (name: string) => string): Promise<string> {
    const id = idOf('sizes');
    await change(id, { type: 'parameter.setFormula', id: 'sizes-reach', formula: { text: '48 mm' } });
    const at = await readDocument(id);
    if (!at.ok) throw new Error(at.failure.message);
    const saved = await saveRevision(id, { seq: at.value.seq, message: '', author: 'ann' });
    if (!saved.ok) throw new Error(saved.failure.message);
    return at.value.project.id;
  }

  test('is caught up with the answer to its new inputs, asked while the plan is made', async () => {
    const idOf = await bring(master, offered);
    await problems(idOf('shaft'));
    const project = await move(idOf);
    const before = calculator.asked();
    const preview = await previewCatchUp(project, { document: idOf('shaft'), isMeasured: true });
    const [plan] = preview.documents;
    expect(plan?.changes.find(({ name }) => name === 'least_dia')).toMatchObject({ before: '8.486 mm', after: '10.692 mm' });
    const done = await commitCatchUp(project, { documents: [{ id: idOf('shaft'), seq: plan?.seq ?? 0 }], author: 'ann' });
    if (!done.ok) throw new Error(done.failure.message);
    // Once for the preview, once for what is committed: nothing is kept of a preview.
    expect(calculator.asked() - before).toBe(2);
    expect(await stateOf(idOf('shaft'))).toMatchObject({ mm: expect.closeTo(millimetres(9.6), 9) as number, isHeld: false });
    const revision = await readRevision(idOf('shaft'), 2);
    expect(revision.ok && revision.value.values['least']).not.toHaveProperty('isHeld');
  });

  test('keeps its last answer while the service is down: the preview and what it publishes say so', async () => {
    const idOf = await bring(master, offered);
    await problems(idOf('shaft'));
    const project = await move(idOf);
    calculator.giveTrouble({ is: 'failing' });
    const preview = await previewCatchUp(project, { document: idOf('shaft'), isMeasured: true });
    const [plan] = preview.documents;
    expect(plan?.changes.find(({ name }) => name === 'least_dia')).toMatchObject({ before: '8.486 mm', after: '8.486 mm (held)' });
    const done = await commitCatchUp(project, { documents: [{ id: idOf('shaft'), seq: plan?.seq ?? 0 }], author: 'ann' });
    expect(done.ok).toBe(true);
    const revision = await readRevision(idOf('shaft'), 2);
    expect(revision.ok && revision.value.values['least']).toMatchObject({ isHeld: true });
  });
});

test('nobody but the server keeps answers', () => {
  const answer: Edit = {
    type: 'outside.answer',
    answer: { type: 'answer', id: 'a', outside: 'hub', within: [], question: 'q', inputs: {}, outputs: {}, at: '2026-11-28T12:00:00.000Z', version: '' },
  };
  const posted = (edit: Edit) => postEditsSchema.safeParse({ base: 0, envelopes: [{ key: 'key-12345', author: 'eve', edit }] }).success;
  expect([posted(answer), posted({ type: 'batch', edits: [answer] }), posted({ type: 'document.rename', name: 'x' })]).toEqual([false, false, true]);
});
