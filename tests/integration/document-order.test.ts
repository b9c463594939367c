/** In which order people meet the documents of a project, and which of them it is pictured by. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { loadPlanned } from '@/server/services/planned-documents';
import { chooseShown } from '@/server/services/project-list';
import { createDocumentIn, createProject, importProject, readProject } from '@/server/services/projects';
import { onServer } from '../support/on-server';

onServer();

test('documents are listed by kind, then by name as people count, whatever their ids', async () => {
  const { id } = await createProject('Order');
  const wanted = [
    ['part', 'Rail 10'],
    ['assembly', 'Bench'],
    ['part', 'rail 2'],
    ['master', 'Sizes'],
    ['part', 'Äsche'],
    ['calc', 'Load'],
    ['part', 'Bolt'],
    ['master', 'Boards'],
  ] as const;
  for (const [kind, name] of wanted) expect((await createDocumentIn(id, { kind, name, author: 'ann' })).ok).toBe(true);
  const read = await readProject(id);
  expect(read.ok && read.value.documents.map(({ name }) => name)).toEqual(['Boards', 'Sizes', 'Load', 'Äsche', 'Bolt', 'rail 2', 'Rail 10', 'Bench']);
});

test('a project is pictured by what goes into nothing else, whatever it is called', async () => {
  const demo = JSON.parse(readFileSync(path.join(import.meta.dirname, '../../demo/table-loom.json'), 'utf8')) as { documents: { name: string }[] };
  const named = { ...demo, name: 'Pictured', documents: demo.documents.map((one) => (one.name === 'Loom' ? { ...one, name: 'A loom' } : one)) };
  const imported = await importProject(JSON.stringify(named), 'ann');
  if (!imported.ok) throw new Error(imported.failure.message);
  const documents = await loadPlanned(imported.value.id);
  expect(documents.slice(-2).map(({ head }) => head.name)).toEqual(['A loom', 'Beam unit']);
  const shownOf = (among: typeof documents) => chooseShown(documents, new Set(among.map(({ head }) => head.id)))?.head.name;
  expect(shownOf(documents)).toBe('A loom');
  // Until the assembly is built: the reed is the part that goes into nothing.
  expect(shownOf(documents.slice(0, -2))).toBe('Reed');
  expect(shownOf(documents.filter(({ head }) => head.name === 'Pawl' || head.name === 'Cross rail'))).toBe('Pawl');
  expect(shownOf([])).toBeUndefined();
});
