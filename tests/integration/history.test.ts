/** Revisions, offers and migrations against a real database. */
import { mkdtempSync, readFileSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { DataTypes } from 'sequelize';
import { closeDatabase, database } from '@/server/db/connect';
import { bringUpToDate, migrate } from '@/server/db/migrate';
import { MIGRATIONS, type Migration } from '@/server/db/migrations';
import { DocumentRow } from '@/server/db/models';
import { pack, unpack } from '@/server/db/packing';
import { postEdits, readDocument } from '@/server/services/documents';
import { keepEvaluation } from '@/server/services/evaluations';
import { readRevisionThumbnail } from '@/server/services/pictures';
import { listRevisions, nameRevision, readRevision } from '@/server/services/history';
import { listOffers, offerValues } from '@/server/services/offers';
import { importProject, readProject } from '@/server/services/projects';
import { saveRevision } from '@/server/services/revisions';
import { keepSizeChecks, readSizeChecks } from '@/server/services/size-checks';
import { applyEdit, planRestore, type Document, type Edit } from '@/core/document';
import { sameData } from '@/core/kit';
import { DEMO_TEXT } from '../support/demo';

let sizes = '';

beforeAll(async () => {
  process.env['WARPBEAM_NO_JOBS'] = '1';
  await migrate();
});

beforeEach(async () => {
  const imported = await importProject(DEMO_TEXT, 'test');
  if (!imported.ok) throw new Error(imported.failure.message);
  const read = await readProject(imported.value.id);
  if (!read.ok) throw new Error(read.failure.message);
  sizes = read.value.documents.find(({ name }) => name === 'Loom sizes')?.id ?? '';
});

afterAll(closeDatabase);

let counter = 0;
async function edit(...edits: Edit[]): Promise<void> {
  const before = await open();
  const envelopes = edits.map((one) => ({ key: `history-${process.pid}-${Date.now()}-${counter++}`, edit: one, author: 'ann' }));
  const posted = await postEdits(sizes, { base: before.seq, envelopes });
  if (!posted.ok) throw new Error(posted.failure.message);
}
async function open() {
  const reply = await readDocument(sizes);
  if (!reply.ok) throw new Error(reply.failure.message);
  return reply.value;
}
async function save(message: string): Promise<void> {
  const saved = await saveRevision(sizes, { seq: (await open()).seq, message, author: 'ann' });
  if (!saved.ok) throw new Error(saved.failure.message);
}
const setWidth = (text: string): Edit => ({ type: 'parameter.setFormula', id: 'weaving-width', formula: { text } });

test('revisions are listed newest first, each with what it changed', async () => {
  await edit(setWidth('480 mm'));
  await save('Wider');
  const { revisions, hasMore } = await listRevisions(sizes);
  expect(hasMore).toBe(false);
  expect(revisions.map(({ number, message }) => [number, message])).toEqual([
    [2, 'Wider'],
    [1, 'Imported'],
  ]);
  expect(revisions[0]?.differs.find(({ id }) => id === 'inner-width')).toMatchObject({ before: { shown: '424 mm' }, after: { shown: '504 mm' } });
  expect(revisions[0]?.differing).toBeGreaterThan(2);
  expect(revisions[1]).toMatchObject({ differs: [], differing: 0 });
});

test('a long history comes in pages, without a gap in what changed', async () => {
  for (let i = 1; i <= 22; i++) {
    await edit(setWidth(`${400 + i} mm`));
    await save(`Width ${i}`);
  }
  const first = await listRevisions(sizes);
  expect([first.revisions.length, first.hasMore]).toEqual([20, true]);
  const second = await listRevisions(sizes, first.revisions.at(-1)?.number);
  expect([second.revisions.map(({ number }) => number), second.hasMore]).toEqual([[3, 2, 1], false]);
  expect(first.revisions.at(-1)?.differing).toBeGreaterThan(0);
});

test('a revision is restored exactly, and the patch undoes itself', async () => {
  await edit(setWidth('480 mm'), { type: 'value.rename', id: 'side-gap', name: 'gap' });
  await save('Other');
  const [now, first] = [await open(), await readRevision(sizes, 1)];
  if (!first.ok) throw new Error(first.failure.message);
  await edit(planRestore(now.document, first.value.document));
  const restored = await open();
  expect(sameData(restored.document, first.value.document)).toBe(true);
  const undone = applyEdit(restored.document, restored.history.at(-1)?.inverse ?? { type: 'document.rename', name: '' });
  expect(undone.ok && sameData(undone.value.document, now.document)).toBe(true);
});

test('a revision has the picture that was made of it, and no other has it', async () => {
  const picture = Buffer.from('as it was drawn');
  await edit(setWidth('480 mm'));
  await save('Wider');
  await keepEvaluation({ documentId: sizes, number: 1 }, { bodies: [], published: {}, thumbnail: picture });
  await keepEvaluation({ documentId: sizes, number: 2 }, { bodies: [], published: {} });
  const { revisions } = await listRevisions(sizes);
  expect(revisions.map(({ number, hasThumbnail }) => [number, hasThumbnail])).toEqual([
    [2, false],
    [1, true],
  ]);
  expect(await readRevisionThumbnail(sizes, 1)).toEqual(picture);
  expect(await readRevisionThumbnail(sizes, 2)).toBeUndefined();
  expect(await readRevisionThumbnail(sizes, 99)).toBeUndefined();
});

test('naming a revision changes its words and nothing else', async () => {
  const before = await readRevision(sizes, 1);
  await nameRevision(sizes, 1, 'As ordered');
  const after = await readRevision(sizes, 1);
  expect(before.ok && after.ok && sameData({ ...before.value, message: 'As ordered' }, after.value)).toBe(true);
  expect(await nameRevision(sizes, 99, 'none')).toMatchObject({ ok: false, failure: { code: 'not-found' } });
  expect(await readRevision(sizes, 0)).toMatchObject({ ok: false, failure: { code: 'not-found' } });
});

test('offers are those of the latest revision; what is not saved yet is named', async () => {
  const parameter = { type: 'parameter', id: 'rail-gap', name: 'rail_gap', formula: { text: '21 mm' }, kind: 'length' } as const;
  await edit(setWidth('480 mm'), { type: 'parameter.add', parameter });
  const offers = await listOffers(sizes);
  if (!offers.ok) throw new Error(offers.failure.message);
  expect(offers.value).toMatchObject({ revision: 1, unsavedEdits: 2, notSaved: ['rail_gap'] });
  expect(offers.value.values.find(({ id }) => id === 'weaving-width')?.shown).toBe('400 mm');
  expect(offers.value.values.some(({ id }) => id === 'rail-gap')).toBe(false);
});

test('offering on the way is an edit of the source, made once', async () => {
  await edit({ type: 'parameter.update', id: 'side-gap', changes: { offered: false } });
  const { seq } = await open();
  await offerValues(sizes, { ids: ['side-gap', 'nowhere'], author: 'ben' });
  await offerValues(sizes, { ids: ['side-gap'], author: 'ben' });
  const after = await open();
  expect([after.seq, after.history.at(-1)?.author]).toEqual([seq + 1, 'ben']);
  expect(after.document.records['side-gap']).toMatchObject({ offered: true });
});

describe('a later migration', () => {
  const later: Migration = {
    name: '9999-test',
    up: ({ context: q }) => q.createTable('later', { id: { type: DataTypes.INTEGER, primaryKey: true } }),
    down: ({ context: q }) => q.dropTable('later'),
  };
  const failing: Migration = { name: '9998-fails', up: () => Promise.reject(new Error('cannot be done')), down: () => Promise.resolve() };
  afterAll(async () => {
    await database().getQueryInterface().dropTable('later');
    await database().query("DELETE FROM schema_migrations WHERE name = '9999-test'");
  });
  const directory = mkdtempSync(path.join(tmpdir(), 'warpbeam-dump-'));

  test('is done after a dump that holds everything', async () => {
    const file = await bringUpToDate(directory, [...MIGRATIONS, later]);
    if (file === undefined) throw new Error('no dump was made');
    const dump = readFileSync(file, 'utf8');
    expect(dump).toContain('Table loom');
    expect(dump).toMatch(/CREATE TABLE `revision`/);
    expect(statSync(file).mode & 0o077).toBe(0);
    expect(await database().getQueryInterface().tableExists('later')).toBe(true);
  });

  test('that fails leaves the dump and the documents', async () => {
    await expect(bringUpToDate(directory, [...MIGRATIONS, failing])).rejects.toThrow('cannot be done');
    expect((await open()).document.name).toBe('Loom sizes');
  });

  test('brings documents of an older schema to the present one', async () => {
    const file = JSON.parse(readFileSync('tests/fixtures/project-schema-1.json', 'utf8')) as { readonly documents: readonly { readonly name: string }[] };
    const old = file.documents.find(({ name }) => name === 'Side frame');
    const row = await DocumentRow.findOne({ where: { name: 'Side frame' } });
    if (!old || !row) throw new Error('no side frame');
    await row.update({ body: pack({ ...old, id: row.id }) });
    await database().query("DELETE FROM schema_migrations WHERE name = '0002-documents-schema-2'");
    await bringUpToDate(directory);
    await row.reload();
    expect(unpack<Document>(row.body)).toMatchObject({ schema: 2, records: { board: { values: { depth: 'stock' } } } });
  });

  test('that was done needs no dump', async () => {
    expect(await bringUpToDate(directory)).toBeUndefined();
  });
});

test('what was found as sizes were checked is kept with the revision that it was found at, for as long as the size is there', async () => {
  const checked = (mass: number) => ({ key: 'key', mass, problems: [], held: [], readings: {}, time: 12 });
  const found = async () => {
    const reply = await readSizeChecks(sizes);
    return reply.ok
      ? Object.fromEntries(Object.entries(reply.value.checked).map(([size, { mass, revision }]) => [size, [mass, revision]]))
      : reply.failure.code;
  };
  expect(await found()).toEqual({});
  await keepSizeChecks(sizes, { 'size-narrow': checked(1), 'size-wide': checked(3), 'no-such-size': checked(9) });
  expect(await found()).toEqual({ 'size-narrow': [1, 1], 'size-wide': [3, 1] });
  await edit({ type: 'parameter.setFormula', id: 'beam-dia', formula: { text: '46 mm' } });
  await save('second');
  const { seq } = await open();
  await keepSizeChecks(sizes, { 'size-wide': checked(4) });
  expect(await found()).toEqual({ 'size-narrow': [1, 1], 'size-wide': [4, 2] });
  // It is no edit.
  expect((await open()).seq).toBe(seq);
  await edit({ type: 'size.remove', id: 'size-narrow' });
  await keepSizeChecks(sizes, {});
  expect(await found()).toEqual({ 'size-wide': [4, 2] });
  expect(await readSizeChecks('nothing')).toMatchObject({ ok: false, failure: { code: 'not-found' } });
  expect(await keepSizeChecks('nothing', {})).toMatchObject({ ok: false, failure: { code: 'not-found' } });
});
