/** What-ifs at the server: kept, handed on in project files, and shown through all documents, with nothing changed. */
import { DocumentValues, findNamed, MOST_WHAT_IFS, type WhatIf } from '@/core/document';
import { DocumentRow } from '@/server/db/models';
import { readState } from '@/server/services/document-store';
import { exportProject, importProject, readProject } from '@/server/services/projects';
import { changeWhatIf, previewWhatIf, readWhatIfs } from '@/server/services/what-ifs';
import { DEMO_TEXT } from '../support/demo';
import { onServer } from '../support/on-server';

onServer();

async function importText(text: string): Promise<{ readonly project: string; readonly ids: Readonly<Record<string, string>> }> {
  const imported = await importProject(text, 'test');
  if (!imported.ok) throw new Error(imported.failure.message);
  const read = await readProject(imported.value.id);
  if (!read.ok) throw new Error(read.failure.message);
  return { project: imported.value.id, ids: Object.fromEntries(read.value.documents.map(({ id, name }) => [name, id])) };
}

const wide = (text: string, id = 'wide'): WhatIf => ({
  id,
  name: 'Wide',
  values: { 'weaving-width': { formula: { text }, instead: '400 mm' } },
});

test('they are kept beside the document, eight at most, changed and deleted one by one', async () => {
  const { ids } = await importText(DEMO_TEXT);
  const sizes = ids['Loom sizes'] ?? '';
  expect(await readWhatIfs(sizes)).toEqual({ ok: true, value: { whatIfs: [] } });
  const before = await DocumentRow.findByPk(sizes);
  for (let i = 0; i < MOST_WHAT_IFS; i++) await changeWhatIf(sizes, { put: wide(`${500 + i} mm`, `w${i}`) });
  expect(await changeWhatIf(sizes, { put: wide('1 m', 'more') })).toMatchObject({ ok: false, failure: { code: 'too-large' } });
  const changed = await changeWhatIf(sizes, { put: { ...wide('480 mm', 'w3'), name: 'Wider' } });
  expect(changed.ok && changed.value.whatIfs.map(({ name }) => name)).toEqual(['Wide', 'Wide', 'Wide', 'Wider', 'Wide', 'Wide', 'Wide', 'Wide']);
  const left = await changeWhatIf(sizes, { remove: 'w0' });
  expect(left.ok && left.value.whatIfs.length).toBe(MOST_WHAT_IFS - 1);
  const after = await DocumentRow.findByPk(sizes);
  expect([after?.seq, after?.revision, after?.body.equals(before?.body ?? Buffer.alloc(0))]).toEqual([before?.seq, before?.revision, true]);
  expect(await readWhatIfs('nobody')).toMatchObject({ ok: false, failure: { code: 'not-found' } });
});

test('one of a master is shown through everything that takes from it, and nothing is changed', async () => {
  const { ids } = await importText(DEMO_TEXT);
  const sizes = ids['Loom sizes'] ?? '';
  const states = async () =>
    (await DocumentRow.findAll({ where: { id: Object.values(ids) }, order: ['id'] })).map(({ id, seq, revision, body }) => ({ id, seq, revision, body }));
  const before = await states();
  const preview = await previewWhatIf(sizes, { whatIf: wide('480 mm'), isMeasured: true });
  if (!preview.ok) throw new Error(preview.failure.message);
  const { documents, left, cycle } = preview.value;
  const then = (document: string, value: string): string | undefined => {
    const after = documents.find(({ name }) => name === document)?.after;
    return after && new DocumentValues(after).show(findNamed(after, value)?.id ?? '')?.shown;
  };
  // frame_depth = 0.9 * weaving_width; the rail is as long as the inner width, with a tenon at each end.
  expect([then('Side frame', 'depth'), then('Cross rail', 'rail_length')]).toEqual(['432 mm', '540 mm']);
  expect([left, cycle]).toEqual([[], []]);
  expect(documents.map(({ name }) => name)).not.toContain('Loom sizes');
  // The loom has the sizes in it, and reads values of them as they would be.
  expect(documents.find(({ name }) => name === 'Loom')?.failures).toEqual([]);
  expect(await states()).toEqual(before);
});

test('the project file holds them outside the documents, and brings them to where it is imported', async () => {
  const { project, ids } = await importText(DEMO_TEXT);
  await changeWhatIf(ids['Loom sizes'] ?? '', { put: wide('480 mm') });
  const text = await exportProject(project);
  if (!text.ok) throw new Error(text.failure.message);
  const file = JSON.parse(text.value) as { whatIfs: unknown };
  expect(file.whatIfs).toEqual([{ document: ids['Loom sizes'], whatIfs: [wide('480 mm')] }]);
  const copy = await importText(text.value);
  expect(copy.ids['Loom sizes']).not.toBe(ids['Loom sizes']);
  expect(await readWhatIfs(copy.ids['Loom sizes'] ?? '')).toEqual({ ok: true, value: { whatIfs: [wide('480 mm')] } });
  const row = await DocumentRow.findByPk(copy.ids['Loom sizes'] ?? '');
  expect(row && new DocumentValues(readState(row)).show('weaving-width')?.shown).toBe('400 mm');
  const lost = await importProject(JSON.stringify({ ...file, whatIfs: [{ document: 'nobody', whatIfs: [wide('480 mm')] }] }), 'test');
  expect(lost).toMatchObject({ ok: false, failure: { code: 'bad-file', message: 'There is no document nobody.' } });
  const list = { document: ids['Loom sizes'], whatIfs: [wide('480 mm')] };
  const twice = await importProject(JSON.stringify({ ...file, whatIfs: [list, list] }), 'test');
  expect(twice).toMatchObject({ ok: false, failure: { code: 'bad-file', message: `The what-ifs of ${list.document ?? ''} stand in two places.` } });
});
