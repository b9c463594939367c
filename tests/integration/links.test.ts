/** Links between documents at the server: catching up, following, undoing, handing over, in projects of hundreds. */
import { DocumentValues, findRecord, listRecords, type Document, type Edit } from '@/core/document';
import { closeDatabase, database } from '@/server/db/connect';
import { migrate } from '@/server/db/migrate';
import { DocumentRow, RevisionRow } from '@/server/db/models';
import { commitCatchUp } from '@/server/services/catch-up';
import { previewCatchUp } from '@/server/services/catch-up-preview';
import { keepEvaluation } from '@/server/services/evaluations';
import { listChangeSets, readChangeSet, undoChangeSet } from '@/server/services/change-sets';
import { readState } from '@/server/services/document-store';
import { postEdits, readDocument, readStandingOf } from '@/server/services/documents';
import { handOver } from '@/server/services/hand-over';
import { listRevisions, listValueHistory, readRevision } from '@/server/services/history';
import { importProject, readProject } from '@/server/services/projects';
import { readReach } from '@/server/services/reach';
import { saveRevision } from '@/server/services/revisions';
import { listUses } from '@/server/services/uses';
import { DEMO_TEXT } from '../support/demo';
import { generateProject, type GeneratedProject } from '../support/generated-project';

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
  return { project: imported.value.id, ids: Object.fromEntries(read.value.documents.map(({ id, name }) => [name, id])) };
}

let keys = 0;
async function edit(id: string, ...edits: readonly Edit[]): Promise<void> {
  const read = await readStandingOf(id);
  if (!read.ok) throw new Error(read.failure.message);
  const envelopes = edits.map((one) => ({ key: `links-test-${keys++}`, author: 'ann', edit: one }));
  const posted = await postEdits(id, { base: read.value.seq, envelopes });
  if (!posted.ok) throw new Error(posted.failure.message);
}

async function save(id: string) {
  const read = await readStandingOf(id);
  if (!read.ok) throw new Error(read.failure.message);
  const saved = await saveRevision(id, { seq: read.value.seq, message: '', author: 'ann' });
  if (!saved.ok) throw new Error(saved.failure.message);
  return saved.value;
}

async function present(id: string): Promise<Document> {
  const row = await DocumentRow.findByPk(id);
  if (!row) throw new Error(`no document ${id}`);
  return readState(row);
}

const setFormula = (id: string, text: string): Edit => ({ type: 'parameter.setFormula', id, formula: { text } });

async function catchUpAll(project: string, author = 'ann') {
  const { documents } = await previewCatchUp(project);
  return commitCatchUp(project, { documents: documents.map(({ id, seq }) => ({ id, seq })), author });
}

/** `out` of every document in millimetres, evaluated from scratch out of what the database holds. */
async function readOuts({ ids }: Imported): Promise<Map<string, number>> {
  const rows = await DocumentRow.findAll({ where: { id: Object.values(ids) } });
  return new Map(rows.map((row) => [row.name, new DocumentValues(readState(row)).sheet.readNumber('out') / 10_000]));
}

/** Statements that work sends to the database. */
async function countQueries(work: () => Promise<unknown>): Promise<number> {
  let count = 0;
  database().addHook('afterQuery', 'count', () => void count++);
  await work();
  database().removeHook('afterQuery', 'count');
  return count;
}

describe('a project of 200 documents, four levels deep', () => {
  const generated: GeneratedProject = generateProject([1, 9, 60, 130]);
  let imported: Imported;
  beforeAll(async () => {
    imported = await importText(generated.text);
  });

  test('one edit in the master is previewed and caught up everywhere in one change set, with every value as from scratch', async () => {
    const master = imported.ids['g0-0'] ?? '';
    await edit(master, setFormula('out', '137 mm'));
    const saved = await save(master);
    expect(saved.nowBehind).toHaveLength(199);
    const preview = await previewCatchUp(imported.project);
    expect(preview.documents).toHaveLength(199);
    const expected = generated.expected(137);
    for (const { name, after } of preview.documents) expect(new DocumentValues(after).sheet.readNumber('out') / 10_000).toBe(expected.get(name));

    const done = await catchUpAll(imported.project);
    expect(done.ok && done.value.documents.length).toBe(199);
    expect(await readOuts(imported)).toEqual(expected);
    const read = await readProject(imported.project);
    expect(read.ok && read.value.documents.filter(({ behind }) => behind > 0)).toEqual([]);
    expect(await RevisionRow.count({ where: { documentId: Object.values(imported.ids), number: 2 } })).toBe(200);
  }, 240_000);

  test('the whole change set is taken back, and done again', async () => {
    const [latest] = (await listChangeSets(imported.project)).changeSets;
    if (!latest) throw new Error('no change set');
    expect(latest).toMatchObject({ message: 'Caught up', isUndone: false, undoes: null });
    expect(latest.documents).toHaveLength(199);
    const undone = await undoChangeSet(latest.id, 'bob');
    if (!undone.ok) throw new Error(undone.failure.message);
    expect(undone.value.nowBehind).toHaveLength(199);
    const before = generated.expected(100);
    const outs = await readOuts(imported);
    for (const [name, value] of outs) expect(value).toBe(name === 'g0-0' ? 137 : before.get(name));
    const sets = (await listChangeSets(imported.project)).changeSets;
    expect(sets.map(({ message, isUndone }) => [message, isUndone])).toEqual([
      ['Undone: Caught up', false],
      ['Caught up', true],
    ]);
    expect(await undoChangeSet(latest.id, 'bob')).toMatchObject({ ok: false, failure: { message: 'This change set was undone already.' } });
    const again = await undoChangeSet(undone.value.changeSet, 'bob');
    expect(again.ok && again.value.nowBehind).toEqual([]);
    expect(await readOuts(imported)).toEqual(generated.expected(137));
  }, 240_000);

  test('catching up a branch leaves the rest behind, and what is left behind says why', async () => {
    const source = imported.ids['g1-0'] ?? '';
    await edit(imported.ids['g0-0'] ?? '', setFormula('out', '90 mm'));
    await save(imported.ids['g0-0'] ?? '');
    const { documents } = await previewCatchUp(imported.project, { document: source, isBranch: true });
    expect(documents.some(({ id }) => id === source)).toBe(true);
    expect(documents.length).toBeLessThan(199);
    const reply = await commitCatchUp(imported.project, {
      documents: documents.slice(0, 1).map(({ id, seq }) => ({ id, seq })),
      left: documents.slice(1).map(({ id }) => ({ id, reason: 'Not today.' })),
      author: 'ann',
    });
    expect(reply.ok && reply.value.documents).toHaveLength(1);
    const [latest] = (await listChangeSets(imported.project)).changeSets;
    expect(latest?.leftBehind).toHaveLength(documents.length - 1);
    expect(latest?.leftBehind[0]).toMatchObject({ reason: 'Not today.' });
    await catchUpAll(imported.project);
    expect(await readOuts(imported)).toEqual(generated.expected(90));
  }, 240_000);
});

describe('links that follow', () => {
  test('have new revisions with that of their source, in one change set, through others', async () => {
    const generated = generateProject([1, 3, 8], 'follow');
    const imported = await importText(generated.text);
    const master = imported.ids['g0-0'] ?? '';
    await edit(master, setFormula('out', '55 mm'));
    const saved = await save(master);
    expect(saved.followed).toHaveLength(11);
    expect(saved.nowBehind).toEqual([]);
    expect(await readOuts(imported)).toEqual(generated.expected(55));
    const [set] = (await listChangeSets(imported.project)).changeSets;
    expect(set?.documents).toHaveLength(12);
    if (!set) return;
    const undone = await undoChangeSet(set.id, 'ann');
    expect(undone.ok).toBe(true);
    expect(await readOuts(imported)).toEqual(generated.expected(100));
  });

  test('wait to be asked where something would fail, a guard would break, or somebody is at work; and so does what takes from there', async () => {
    const generated = generateProject([1, 4, 6], 'follow');
    const imported = await importText(generated.text);
    const [failing = '', guarded = '', edited = '', free = ''] = ['g1-0', 'g1-1', 'g1-2', 'g1-3'].map((name) => imported.ids[name] ?? '');
    const add = (id: string, text: string): Edit => ({ type: 'parameter.add', parameter: { type: 'parameter', id, name: id, formula: { text }, kind: 'any' } });
    await edit(failing, add('root', 'sqrt((in_0 - 60 mm) / 1 mm)'));
    await edit(guarded, {
      type: 'guard.put',
      guard: { type: 'guard', id: 'guard', condition: { text: 'in_0 >= 60 mm' }, message: 'Too small.', severity: 'error' },
    });
    for (const id of [failing, guarded]) await save(id);
    await edit(edited, add('extra', '3 mm'));
    const master = imported.ids['g0-0'] ?? '';
    await edit(master, setFormula('out', '50 mm'));
    const saved = await save(master);
    const reasons = Object.fromEntries(saved.asked.map(({ name, reason }) => [name, reason]));
    expect(reasons['g1-0']).toMatch(/^root: /);
    expect(reasons['g1-1']).toBe('A guard would be broken: Too small.');
    expect(reasons['g1-2']).toBe('It has 1 edits since its last revision.');
    expect(saved.followed).toContain('g1-3');
    // Whoever takes from one that waits, waits with it.
    for (const name of saved.followed) {
      const sources = listRecords(await present(imported.ids[name] ?? ''), 'links', 'link').map(({ sourceName }) => sourceName);
      for (const source of sources) expect(reasons[source]).toBeUndefined();
    }
    const behind = new Set(saved.nowBehind.map(({ name }) => name));
    expect([...saved.followed].filter((name) => behind.has(name))).toEqual([]);
    expect(free).not.toBe('');
  });
});

test('two who catch up at once: one is done, the other is told; and nothing is done twice', async () => {
  const generated = generateProject([1, 5, 20]);
  const imported = await importText(generated.text);
  for (let round = 0; round < 5; round++) {
    const base = 200 + round;
    await edit(imported.ids['g0-0'] ?? '', setFormula('out', `${base} mm`));
    await save(imported.ids['g0-0'] ?? '');
    const replies = await Promise.all([catchUpAll(imported.project, 'ann'), catchUpAll(imported.project, 'bob')]);
    expect(replies.filter(({ ok }) => ok)).toHaveLength(1);
    expect(replies.find(({ ok }) => !ok)).toMatchObject({ failure: { code: 'moved-on' } });
    expect(await readOuts(imported)).toEqual(generated.expected(base));
  }
  expect(await RevisionRow.count({ where: { documentId: imported.ids['g1-0'] ?? '' } })).toBe(6);
});

test('a change set is not taken back where somebody works or has changed the same since; what it changed is told', async () => {
  const imported = await importText(DEMO_TEXT);
  const rail = imported.ids['Cross rail'] ?? '';
  await edit(imported.ids['Loom sizes'] ?? '', setFormula('weaving-width', '480 mm'));
  await save(imported.ids['Loom sizes'] ?? '');
  const done = await catchUpAll(imported.project);
  if (!done.ok) throw new Error(done.failure.message);
  const made = await readRevision(rail, 2);
  const published = made.ok ? made.value.values : {};
  await keepEvaluation({ documentId: rail, number: 2 }, { bodies: [], published, thumbnail: Buffer.from('as it was drawn') });
  const changed = await readChangeSet(done.value.changeSet);
  const of = changed.ok ? changed.value.documents.find(({ id }) => id === rail) : undefined;
  expect(of?.differs[0]).toMatchObject({ before: { name: 'inner_width', shown: '424 mm' }, after: { shown: '504 mm' } });
  expect(of?.pictured).toEqual({ after: 2 });

  await edit(rail, { type: 'document.rename', name: 'Cross rail, long' });
  expect(await undoChangeSet(done.value.changeSet, 'ann')).toMatchObject({
    ok: false,
    failure: { message: 'Cross rail, long has 1 edit since its last revision. Save or undo there first; nothing was changed.' },
  });
  await save(rail);
  // What was edited elsewhere in the document stays.
  const undone = await undoChangeSet(done.value.changeSet, 'ann');
  expect(undone.ok).toBe(true);
  const after = await present(rail);
  expect(after.name).toBe('Cross rail, long');
  expect(Object.values(after.records).find((record) => record.type === 'take' && record.name === 'inner_width')).toMatchObject({ value: { value: 4_240_000 } });

  await edit(imported.ids['Loom sizes'] ?? '', setFormula('weaving-width', '500 mm'));
  await save(imported.ids['Loom sizes'] ?? '');
  const second = await catchUpAll(imported.project);
  if (!second.ok) throw new Error(second.failure.message);
  await edit(imported.ids['Loom sizes'] ?? '', setFormula('weaving-width', '520 mm'));
  await save(imported.ids['Loom sizes'] ?? '');
  await catchUpAll(imported.project);
  expect(await undoChangeSet(second.value.changeSet, 'ann')).toMatchObject({ ok: false, failure: { code: 'moved-on' } });
});

test('values are handed over from their source to several documents at once, or to none', async () => {
  const imported = await importText(DEMO_TEXT);
  const [sizes = '', rail = '', reed = ''] = ['Loom sizes', 'Cross rail', 'Reed'].map((name) => imported.ids[name] ?? '');
  const document = await present(sizes);
  const gap = Object.values(document.records).find((record) => record.type === 'parameter' && record.name === 'side_gap')?.id ?? '';
  const table = listRecords(document, 'tables', 'table')[0]?.id ?? '';
  const to = [rail, reed].map((id) => ({ document: id, takes: [{ parameter: gap, name: 'gap' }] }));
  const clash = { document: reed, takes: [{ parameter: gap, name: 'dents' }] };
  const refused = await handOver(sizes, { policy: 'ask', author: 'ann', to: [to[0] ?? clash, clash] });
  expect(refused).toEqual({
    ok: true,
    value: { documents: [], problems: [{ document: reed, parameter: gap, message: 'Reed: There is a value named dents here already.', offer: 'dents_2' }] },
  });
  expect(findNamed(await present(rail), 'gap')).toBeUndefined();

  const done = await handOver(sizes, {
    policy: 'follow',
    author: 'ann',
    to: [...to, { document: rail, takes: [{ parameter: table, name: 'bolts' }] }].slice(0, 2),
  });
  expect(done.ok && done.value.documents.map(({ name }) => name)).toEqual(['Cross rail', 'Reed']);
  for (const id of [rail, reed]) expect(findNamed(await present(id), 'gap')).toMatchObject({ value: { value: 120_000 } });
  expect(findRecord(await present(sizes), gap, 'parameter')?.offered).toBe(true);
  expect(
    (await listUses(sizes))
      .filter(({ parameter }) => parameter === gap)
      .map(({ name }) => name)
      .sort(),
  ).toEqual(['Cross rail', 'Reed']);

  const handed = await handOver(sizes, { policy: 'ask', author: 'ann', to: [{ document: rail, takes: [{ parameter: table, name: 'bolts' }] }] });
  expect(handed.ok).toBe(true);
  await edit(rail, {
    type: 'parameter.add',
    parameter: { type: 'parameter', id: 'bolt', name: 'bolt', formula: { text: 'lookup(bolts, "M5", "clearance")' }, kind: 'length' },
  });
  expect(new DocumentValues(await present(rail)).show('bolt')?.shown).toBe('5.5 mm');
});

function findNamed(document: Document, name: string) {
  return Object.values(document.records).find((record) => 'name' in record && record.name === name);
}

test('a lookup table that is taken comes with its changes, and is gone with a word', async () => {
  const imported = await importText(DEMO_TEXT);
  const [sizes = '', rail = ''] = ['Loom sizes', 'Cross rail'].map((name) => imported.ids[name] ?? '');
  const table = listRecords(await present(sizes), 'tables', 'table')[0];
  if (!table) throw new Error('no table');
  await handOver(sizes, { policy: 'ask', author: 'ann', to: [{ document: rail, takes: [{ parameter: table.id, name: 'bolts' }] }] });
  await edit(rail, {
    type: 'parameter.add',
    parameter: { type: 'parameter', id: 'bolt', name: 'bolt', formula: { text: 'lookup(bolts, "M5", "clearance")' }, kind: 'length' },
  });
  await save(rail);
  await edit(sizes, { type: 'table.put', table: { ...table, rows: table.rows.map((row) => row.map((cell) => (cell === '5.5 mm' ? '5.8 mm' : cell))) } });
  const saved = await save(sizes);
  expect(saved.nowBehind.filter(({ name }) => name !== 'Loom')).toEqual([{ id: rail, name: 'Cross rail', values: 1 }]);
  const { documents } = await previewCatchUp(imported.project);
  expect(documents[0]?.changes.map(({ name, before, after }) => [name, before, after])).toEqual([
    ['bolts', 'table, 3 rows', 'table, 3 rows'],
    ['bolt', '5.5 mm', '5.8 mm'],
  ]);
  await catchUpAll(imported.project);
  expect(new DocumentValues(await present(rail)).show('bolt')?.shown).toBe('5.8 mm');
});

test('what one value reaches is told across documents, through what is computed and the steps that read it', async () => {
  const imported = await importText(DEMO_TEXT);
  const reach = await readReach(imported.project, imported.ids['Loom sizes'] ?? '', 'weaving-width');
  if (!reach.ok) throw new Error(reach.failure.message);
  const names = (document: string) => reach.value.drives.find(({ name }) => name === document)?.values.map(({ name }) => name);
  expect(names('Loom sizes')?.sort()).toEqual(['dents', 'frame_depth', 'inner_width']);
  expect(names('Cross rail')).toContain('rail_length');
  expect(reach.value.drives.find(({ name }) => name === 'Cross rail')?.steps.map(({ name }) => name)).not.toEqual([]);
  expect(names('Pawl')).toBeUndefined();
  const rail = imported.ids['Cross rail'] ?? '';
  const length = findNamed(await present(rail), 'rail_length')?.id ?? '';
  const back = await readReach(imported.project, rail, length);
  expect(
    back.ok &&
      back.value.reads
        .find(({ name }) => name === 'Loom sizes')
        ?.values.map(({ name }) => name)
        .sort(),
  ).toEqual(['frame_stock', 'inner_width', 'side_gap', 'weaving_width']);
});

test('where-used, history, change sets and standing are one query each, in a project of 300 documents too', async () => {
  const generated = generateProject([1, 40, 90, 169]);
  const imported = await importText(generated.text);
  const master = imported.ids['g0-0'] ?? '';
  expect(Object.keys(imported.ids)).toHaveLength(300);
  let uses: unknown[] = [];
  expect(await countQueries(async () => (uses = await listUses(master)))).toBe(1);
  expect(uses.length).toBeGreaterThanOrEqual(40);
  expect(await countQueries(() => listRevisions(master))).toBe(1);
  expect(await countQueries(() => listValueHistory(master, 'out'))).toBe(1);
  expect(await countQueries(() => listChangeSets(imported.project))).toBe(1);
  await readDocument(master);
  // Its own row, and the heads of the project: nothing has moved.
  expect(await countQueries(() => readStandingOf(master))).toBe(2);

  await edit(master, setFormula('out', '101 mm'));
  expect((await save(master)).nowBehind).toHaveLength(299);
  const done = await catchUpAll(imported.project);
  expect(done.ok && done.value.documents).toHaveLength(299);
  expect(await readOuts(imported)).toEqual(generated.expected(101));
});

test('many who import and save at once do not get in each other’s way', async () => {
  const generated = generateProject([1, 4, 10]);
  const imported = await Promise.all(Array.from({ length: 12 }, () => importText(generated.text)));
  const saved = await Promise.all(
    imported.map(async ({ ids }, i) => {
      await edit(ids['g0-0'] ?? '', setFormula('out', `${200 + i} mm`));
      return save(ids['g0-0'] ?? '');
    }),
  );
  expect(saved.every(({ nowBehind }) => nowBehind.length === 14)).toBe(true);
  const done = await Promise.all(imported.map(({ project }) => catchUpAll(project)));
  expect(done.every(({ ok }) => ok)).toBe(true);
}, 240_000);
