/** Documents copied into their own project and into another one, with other values. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { listRecords } from '@/core/document';
import { openComplete } from '@/core/instances';
import { closeDatabase } from '@/server/db/connect';
import { migrate } from '@/server/db/migrate';
import { copyDocument } from '@/server/services/copy-document';
import { readDocument } from '@/server/services/documents';
import { createProject, importProject, readProject } from '@/server/services/projects';

let project = '';
let ids: Readonly<Record<string, string>> = {};
beforeAll(async () => {
  process.env['WARPBEAM_NO_JOBS'] = '1';
  await migrate();
  const imported = await importProject(readFileSync(path.join(import.meta.dirname, '../../demo/table-loom.json'), 'utf8'), 'ann');
  if (!imported.ok) throw new Error(imported.failure.message);
  project = imported.value.id;
  const read = await readProject(project);
  if (read.ok) ids = Object.fromEntries(read.value.documents.map(({ id, name }) => [name, id]));
});
afterAll(() => closeDatabase());

const copy = async (name: string, wish: Partial<Parameters<typeof copyDocument>[1]> = {}) => {
  const done = await copyDocument(ids[name] ?? 'nothing', { project, name: `${name} 2`, author: 'ann', formulas: {}, ...wish });
  return done.ok ? done.value : done.failure.message;
};
const opened = async (id: string) => {
  const read = await readDocument(id);
  if (!read.ok) throw new Error(read.failure.message);
  return { reply: read.value, values: openComplete({ ...read.value.document, stands: read.value.snapshots }) };
};

test('in its own project a copy keeps its links, has the values that were asked for, and is no longer the original', async () => {
  const done = await copy('Warp beam', { formulas: { 'tie-pitch': '40 mm' } });
  if (typeof done === 'string') throw new Error(done);
  expect(done.kept).toEqual([]);
  const { reply, values } = await opened(done.id);
  expect([reply.document.name, reply.revision, reply.behind.length]).toEqual(['Warp beam 2', 1, 0]);
  expect(values.show('tie-pitch')?.shown).toBe('40 mm');
  expect(listRecords(reply.document, 'links', 'link').map(({ source }) => source)).toEqual([ids['Loom sizes']]);
  expect((await opened(ids['Warp beam'] ?? '')).values.show('tie-pitch')?.shown).toBe('50 mm');
});

test('what uses a calculation uses it in the copy too, and an assembly is copied with what stands in it', async () => {
  const wheel = await copy('Ratchet wheel');
  if (typeof wheel === 'string') throw new Error(wheel);
  const { values } = await opened(wheel.id);
  const shown = Object.values(values.document.records).flatMap((record) => (record.type === 'parameter' && record.name === 'wheel_stock' ? [record.id] : []));
  expect(values.show(shown[0] ?? '')?.shown).toBe('18 mm');
  const loom = await copy('Loom', { formulas: { 'loom-width': '500 mm' } });
  if (typeof loom === 'string') throw new Error(loom);
  expect((await opened(loom.id)).values.show('loom-width')?.shown).toBe('500 mm');
});

test('in another project links lead to documents of the same names; what is not there becomes a value of the copy', async () => {
  const other = await createProject('Elsewhere');
  const alone = await copy('Warp beam', { project: other.id });
  if (typeof alone === 'string') throw new Error(alone);
  expect(alone.kept).toContain('beam_dia');
  const first = await opened(alone.id);
  expect(listRecords(first.reply.document, 'links', 'link')).toEqual([]);
  // Nothing but where they come from is another.
  const before = await opened(ids['Warp beam'] ?? '');
  for (const { id, name } of listRecords(first.reply.document, 'parameters', 'parameter')) {
    const original = Object.values(before.reply.document.records).find((record) => 'name' in record && record.name === name);
    expect([name, first.values.show(id)?.shown]).toEqual([name, before.values.show(original?.id ?? '')?.shown]);
  }
  const sizes = await copy('Loom sizes', { project: other.id, name: 'Loom sizes', formulas: { 'beam-dia': '50 mm' } });
  if (typeof sizes === 'string') throw new Error(sizes);
  const taken = await copy('Warp beam', { project: other.id });
  if (typeof taken === 'string') throw new Error(taken);
  expect(taken.kept).toEqual([]);
  const second = await opened(taken.id);
  expect(listRecords(second.reply.document, 'links', 'link').map(({ source }) => source)).toEqual([sizes.id]);
  expect(second.values.show('barrel-dia')?.shown).toBe('62 mm');
});

test('what is wrong is told before anything is made', async () => {
  const before = await readProject(project);
  expect(await copy('Warp beam', { formulas: { 'tie-pitch': '40 furlongs of it' } })).toMatch(/tie_pitch/);
  expect(await copy('Warp beam', { formulas: { 'tie-pitch': '3 kg' } })).toMatch(/tie_pitch/);
  expect(await copy('Warp beam', { formulas: { gone: '3 mm' } })).toMatch(/no longer|not/i);
  expect(await copy('Loom', { project: (await createProject('No loom')).id })).toMatch(/within its project/);
  expect(await copy('Nowhere')).toMatch(/no such document/);
  expect(await copy('Reed', { project: 'no-project' })).toMatch(/no such project/);
  const after = await readProject(project);
  expect(after.ok && before.ok && after.value.documents.length === before.value.documents.length).toBe(true);
});
