/** The shelf: what is on it, what a project gets of it, and what is told of files that are none. */
import { cpSync, mkdtempSync, rmSync, writeFileSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { closeDatabase } from '@/server/db/connect';
import { migrate } from '@/server/db/migrate';
import { readDocument } from '@/server/services/documents';
import { changeProject, createProject, exportProject, importProject, readProject } from '@/server/services/projects';
import { listShelf, takeFromShelf } from '@/server/services/shelf';

const folder = mkdtempSync(path.join(tmpdir(), 'shelf-'));

beforeAll(async () => {
  process.env['WARPBEAM_NO_JOBS'] = '1';
  cpSync(path.join(import.meta.dirname, '../../shelf'), folder, { recursive: true });
  writeFileSync(path.join(folder, 'torn.json'), '{"warpbeam":');
  process.env['WARPBEAM_SHELF'] = folder;
  await migrate();
});
afterAll(async () => {
  rmSync(folder, { recursive: true });
  await closeDatabase();
});

const author = 'ann';
const namesIn = async (project: string): Promise<string[]> => {
  const read = await readProject(project);
  return read.ok ? read.value.documents.map(({ name }) => name).sort() : [];
};

test('everything on it is told with what it is for; a torn file is told by its name and hides nothing', async () => {
  const { items, broken } = await listShelf();
  expect(items).toHaveLength(readdirSync(path.join(import.meta.dirname, '../../shelf')).length);
  expect(items.every(({ about }) => about.length > 10)).toBe(true);
  expect(items.find(({ item }) => item === 'gears')).toMatchObject({ name: 'Gear pair', kind: 'calc' });
  expect(broken.map(({ item }) => item)).toEqual(['torn']);
});

test('a project gets copies of its own, under names of their own', async () => {
  const project = await createProject('Shelf');
  const taken = await takeFromShelf(project.id, { items: ['gears', 'materials'], author });
  if (!taken.ok) throw new Error(taken.failure.message);
  expect(await namesIn(project.id)).toEqual(['Gear pair', 'Materials']);
  const again = await takeFromShelf(project.id, { items: ['gears', 'gears'], author });
  expect(again.ok && again.value.documents.map(({ name }) => name)).toEqual(['Gear pair 2', 'Gear pair 3']);
  const [first] = taken.value.documents;
  const document = await readDocument(first?.id ?? '');
  expect(document.ok && [document.value.revision, document.value.document.name]).toEqual([1, 'Gear pair']);
});

test('what is not there is refused with its name, and then nothing is taken', async () => {
  const project = await createProject('Nothing');
  for (const item of ['gone', '../package', 'torn']) {
    const refused = await takeFromShelf(project.id, { items: ['gears', item], author });
    expect(refused.ok ? '' : refused.failure.message).toContain(item);
  }
  expect(await namesIn(project.id)).toEqual([]);
  expect((await takeFromShelf('no-project', { items: ['gears'], author })).ok).toBe(false);
});

test('a project is renamed, and its bodies are of a material; one that is not there is not', async () => {
  const project = await createProject('Before');
  expect((await changeProject(project.id, { name: 'After' })).ok).toBe(true);
  const read = await readProject(project.id);
  expect(read.ok && read.value.name).toBe('After');
  // Its documents are handed the material, and a file of it has it too.
  expect((await changeProject(project.id, { material: 'Oak' })).ok).toBe(true);
  const again = await readProject(project.id);
  expect(again.ok && [again.value.name, again.value.material]).toEqual(['After', 'Oak']);
  const file = await exportProject(project.id);
  const copy = file.ok ? await importProject(file.value, author) : file;
  const opened = copy.ok ? await readProject(copy.value.id) : copy;
  expect(opened).toMatchObject({ value: { name: 'After', material: 'Oak' } });
  expect((await changeProject('no-project', { name: 'After' })).ok).toBe(false);
});
