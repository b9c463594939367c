import { readFileSync } from 'node:fs';
import path from 'node:path';
import { closeDatabase } from '@/server/db/connect';
import { migrate } from '@/server/db/migrate';
import { commitCatchUp } from '@/server/services/catch-up';
import { previewCatchUp } from '@/server/services/catch-up-preview';
import { postEdits, readDocument } from '@/server/services/documents';
import { importProject, readProject } from '@/server/services/projects';
import { saveRevision } from '@/server/services/revisions';
import type { Envelope } from '@/contract';
import type { Edit } from '@/core/document';

const DEMO = readFileSync(path.join(__dirname, '../../demo/table-loom.json'), 'utf8');

let project = '';
let ids: Record<string, string> = {};

beforeAll(async () => {
  process.env['WARPBEAM_NO_JOBS'] = '1';
  await migrate();
});

beforeEach(async () => {
  const imported = await importProject(DEMO, 'test');
  if (!imported.ok) throw new Error(imported.failure.message);
  project = imported.value.id;
  const read = await readProject(project);
  if (!read.ok) throw new Error(read.failure.message);
  ids = Object.fromEntries(read.value.documents.map((document) => [document.name, document.id]));
});

afterAll(closeDatabase);

let counter = 0;
const envelope = (edit: Edit, author = 'ann'): Envelope => ({ key: `key-${process.pid}-${Date.now()}-${counter++}`, edit, author });
const setWidth = (text: string): Edit => ({ type: 'parameter.setFormula', id: 'weaving-width', formula: { text } });

async function open(name: string) {
  const reply = await readDocument(ids[name] ?? '');
  if (!reply.ok) throw new Error(reply.failure.message);
  return reply.value;
}

test('an edit posted twice is applied once', async () => {
  const sent = envelope(setWidth('410 mm'));
  const first = await postEdits(ids['Loom sizes'] ?? '', { base: 0, envelopes: [sent] });
  const second = await postEdits(ids['Loom sizes'] ?? '', { base: 0, envelopes: [sent] });
  expect(first).toMatchObject({ ok: true, value: { seq: 1 } });
  expect(second).toMatchObject({ ok: true, value: { seq: 1 } });
});

test('a stale edit changes nothing and gets the missing edits back', async () => {
  const id = ids['Loom sizes'] ?? '';
  await postEdits(id, { base: 0, envelopes: [envelope(setWidth('410 mm'), 'ann')] });
  const stale = await postEdits(id, { base: 0, envelopes: [envelope(setWidth('420 mm'), 'ben')] });
  expect(stale).toMatchObject({ ok: false, failure: { code: 'stale', seq: 1, edits: [{ author: 'ann', seq: 1 }] } });
  expect((await open('Loom sizes')).document.records['weaving-width']).toMatchObject({ formula: { text: '410 mm' } });
});

test('edits posted at once by twenty clients are all kept or all told to rebase', async () => {
  const id = ids['Loom sizes'] ?? '';
  const replies = await Promise.all(
    Array.from({ length: 20 }, (_, i) => postEdits(id, { base: 0, envelopes: [envelope(setWidth(`${400 + i} mm`), `client ${i}`)] })),
  );
  expect(replies.filter((reply) => reply.ok)).toHaveLength(1);
  expect((await open('Loom sizes')).seq).toBe(1);
});

test('one refused edit of a batch leaves the document as it was', async () => {
  const id = ids['Loom sizes'] ?? '';
  const reply = await postEdits(id, { base: 0, envelopes: [envelope(setWidth('410 mm')), envelope({ type: 'value.rename', id: 'side-gap', name: 'max' })] });
  expect(reply).toMatchObject({ ok: false, failure: { code: 'edit-refused' } });
  expect((await open('Loom sizes')).seq).toBe(0);
});

test('a saved master marks its takers behind, and a catch-up brings them in one change set', async () => {
  const id = ids['Loom sizes'] ?? '';
  await postEdits(id, { base: 0, envelopes: [envelope(setWidth('480 mm'))] });
  const saved = await saveRevision(id, { seq: 1, message: '', author: 'ann' });
  expect(saved).toMatchObject({ ok: true, value: { revision: 2 } });
  const preview = await previewCatchUp(project);
  expect(preview.documents.map((entry) => entry.name).sort()).toEqual([
    'Beam unit',
    'Cross rail',
    'Let-off brake',
    'Loom',
    'Ratchet wheel',
    'Reed',
    'Side frame',
    'Warp beam',
    'Warp tension',
  ]);
  const side = preview.documents.find((entry) => entry.name === 'Side frame');
  expect(side?.changes).toContainEqual(expect.objectContaining({ name: 'frame_depth', before: '360 mm', after: '432 mm', isTaken: true }));
  const done = await commitCatchUp(project, { documents: preview.documents.map(({ id: document, seq }) => ({ id: document, seq })), author: 'ann' });
  expect(done).toMatchObject({ ok: true, value: { documents: preview.documents.map(() => ({ revision: 2 })) } });
  expect((await previewCatchUp(project)).documents).toEqual([]);
});

test('a document that moved on since the preview stops the whole change set', async () => {
  const master = ids['Loom sizes'] ?? '';
  await postEdits(master, { base: 0, envelopes: [envelope(setWidth('480 mm'))] });
  await saveRevision(master, { seq: 1, message: '', author: 'ann' });
  const preview = await previewCatchUp(project);
  await postEdits(ids['Side frame'] ?? '', { base: 0, envelopes: [envelope({ type: 'document.rename', name: 'Side' }, 'ben')] });
  const done = await commitCatchUp(project, { documents: preview.documents.map(({ id, seq }) => ({ id, seq })), author: 'ann' });
  expect(done).toMatchObject({ ok: false, failure: { code: 'moved-on' } });
  expect((await open('Cross rail')).revision).toBe(1);
});

test('a revision that changes no taken value marks nobody behind', async () => {
  const master = ids['Loom sizes'] ?? '';
  await postEdits(master, { base: 0, envelopes: [envelope({ type: 'parameter.update', id: 'teeth', changes: { note: 'Even numbers only.' } })] });
  const saved = await saveRevision(master, { seq: 1, message: '', author: 'ann' });
  expect(saved).toMatchObject({ ok: true, value: { nowBehind: [] } });
});
