/** Assemblies at the server: what they stand on, what catching up does to them, and what becomes of them when documents go. */
import { findRecord, listRecords, type Document, type Edit } from '@/core/document';
import { InstanceLibrary, openValues } from '@/core/instances';
import { closeDatabase } from '@/server/db/connect';
import { migrate } from '@/server/db/migrate';
import { DocumentRow, RevisionRow } from '@/server/db/models';
import { unpack } from '@/server/db/packing';
import { startWorkersWith } from '@/server/geometry-workers';
import { commitCatchUp } from '@/server/services/catch-up';
import { previewCatchUp } from '@/server/services/catch-up-preview';
import { undoChangeSet } from '@/server/services/change-sets';
import { deleteDocument, purgeDeleted } from '@/server/services/deletion';
import { readState } from '@/server/services/document-store';
import { postEdits, readDocument, readStandingOf } from '@/server/services/documents';
import { createDocumentIn, exportProject, importProject, readProject } from '@/server/services/projects';
import { saveRevision } from '@/server/services/revisions';
import { startSourceThread } from '@/workers/start-thread';
import { DEMO_TEXT } from '../support/demo';

let stopJobs: () => void;
beforeAll(async () => {
  process.env['WARPBEAM_NO_JOBS'] = '1';
  await migrate();
  stopJobs = startWorkersWith(startSourceThread);
});
afterAll(async () => {
  stopJobs();
  await closeDatabase();
});

interface Imported {
  readonly project: string;
  readonly ids: Readonly<Record<string, string>>;
}

const importDemo = (): Promise<Imported> => importText(DEMO_TEXT);

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
  const envelopes = edits.map((one) => ({ key: `assemblies-test-${keys++}`, author: 'ann', edit: one }));
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

async function open(id: string) {
  const reply = await readDocument(id);
  if (!reply.ok) throw new Error(reply.failure.message);
  const values = openValues(reply.value.document, new InstanceLibrary(reply.value.snapshots));
  const read = (name: string): string => {
    const record = Object.values(reply.value.document.records).find((one) => one.type === 'parameter' && one.name === name);
    const shown = record && values.show(record.id);
    return shown?.diagnostics[0]?.message ?? shown?.shown ?? 'none';
  };
  return { ...reply.value, values, read };
}

async function present(id: string): Promise<Document> {
  const row = await DocumentRow.findByPk(id);
  if (!row) throw new Error(`no document ${id}`);
  return readState(row);
}

const revisionsOf = (document: Document): Record<string, number> =>
  Object.fromEntries(listRecords(document, 'components', 'component').map(({ name, revision }) => [name, revision]));

const addValue = (name: string, text: string): Edit => ({
  type: 'parameter.add',
  parameter: { type: 'parameter', id: `p-${name}`, name, formula: { text }, kind: 'any' },
});

test('a page that opens an assembly has everything that it stands on, and its values', async () => {
  const { ids } = await importDemo();
  const loom = ids['Loom'] ?? '';
  await edit(loom, addValue('reach', 'rail.rail_length + sizes.inner_width'));
  const { snapshots, read, behind } = await open(loom);
  expect(Object.keys(snapshots)).toHaveLength(8);
  expect(read('reach')).toBe('884 mm');
  expect(behind).toEqual([]);
});

test('a master, its parts and the assembly come to rest in one change set, and back with one undo', async () => {
  const { project, ids } = await importDemo();
  const loom = ids['Loom'] ?? '';
  const sizes = ids['Loom sizes'] ?? '';
  await edit(loom, addValue('bore', 'left_side.warp_bearing'), addValue('width', 'rail.rail_length'));
  await save(loom);
  // Nothing that is set from here: the diameter of the beam.
  await edit(sizes, { type: 'parameter.setFormula', id: findNamed(await present(sizes), 'beam_dia'), formula: { text: '50 mm' } });
  await save(sizes);
  const preview = await previewCatchUp(project);
  expect(preview.cycle).toEqual([]);
  expect(preview.documents.map(({ name }) => name)).toEqual(expect.arrayContaining(['Side frame', 'Warp beam', 'Ratchet wheel', 'Loom']));
  const planned = preview.documents.find(({ name }) => name === 'Loom');
  expect(planned?.changes.find(({ name }) => name === 'bore')).toMatchObject({ before: '45.4 mm', after: '50.4 mm' });
  const done = await commitCatchUp(project, { documents: preview.documents.map(({ id, seq }) => ({ id, seq })), author: 'ann' });
  if (!done.ok) throw new Error(done.failure.message);
  const after = await open(loom);
  expect(after.read('bore')).toBe('50.4 mm');
  expect(after.read('width')).toBe('460 mm');
  expect(revisionsOf(after.document)).toEqual({ sizes: 2, tension: 2, left_side: 2, right_side: 2, rail: 1, unit: 2, pawl: 1 });
  const rest = await previewCatchUp(project);
  expect(rest.documents).toEqual([]);
  const undone = await undoChangeSet(done.value.changeSet, 'ann');
  if (!undone.ok) throw new Error(undone.failure.message);
  expect((await open(loom)).read('bore')).toBe('45.4 mm');
}, 240_000);

test('what is published is of the geometry as it is driven', async () => {
  const { ids } = await importDemo();
  const loom = ids['Loom'] ?? '';
  await edit(loom, addValue('rail_mass', 'rail.mass'));
  const publishedMass = async (): Promise<number> => {
    const { revision } = await save(loom);
    const row = await RevisionRow.findOne({ where: { documentId: loom, number: revision } });
    const value = row && unpack<Record<string, { kind: string; value: number }>>(row.published)['p-rail_mass'];
    return (value?.value ?? NaN) / 1e8;
  };
  const before = await publishedMass();
  await edit(loom, { type: 'parameter.setFormula', id: 'loom-width', formula: { text: '500 mm' } });
  const after = await publishedMass();
  // The rail is a bar of one section with a hole along it: its mass goes with its length, 460 and 560 mm.
  expect(after / before).toBeCloseTo(560 / 460, 9);
}, 240_000);

test('an assembly whose component follows takes a new revision with what it reads of it', async () => {
  const { ids } = await importDemo();
  const pawl = ids['Pawl'] ?? '';
  const loom = ids['Loom'] ?? '';
  const component = findRecord(await present(loom), 'pawl', 'component');
  if (!component) throw new Error('no pawl');
  await edit(loom, { type: 'component.put', component: { ...component, policy: 'follow' } }, addValue('reach', '2 * pawl.pawl_reach'));
  await save(loom);
  const before = (await open(loom)).read('reach');
  await edit(pawl, { type: 'parameter.setFormula', id: findNamed(await present(pawl), 'pawl_reach'), formula: { text: '70 mm' } });
  const saved = await save(pawl);
  expect([saved.followed, saved.asked]).toEqual([['Loom'], []]);
  expect([before === '140 mm', (await open(loom)).read('reach')]).toEqual([false, '140 mm']);
}, 240_000);

test('a held component stays, one that is renamed inside is followed in formulas', async () => {
  const { project, ids } = await importDemo();
  const loom = ids['Loom'] ?? '';
  const rail = ids['Cross rail'] ?? '';
  const component = findRecord(await present(loom), 'rail', 'component');
  if (!component) throw new Error('no rail');
  await edit(loom, addValue('reach', '2 * rail.rail_length'));
  await save(loom);
  await edit(rail, { type: 'value.rename', id: findNamed(await present(rail), 'rail_length'), name: 'length_over_all' });
  await save(rail);
  await edit(loom, { type: 'component.put', component: { ...component, policy: 'hold' } });
  await save(loom);
  expect((await previewCatchUp(project)).documents).toEqual([]);
  await edit(loom, { type: 'component.put', component: { ...component, policy: 'ask' } });
  await save(loom);
  const preview = await previewCatchUp(project);
  expect(preview.documents.map(({ name }) => name)).toEqual(['Loom']);
  await commitCatchUp(project, { documents: preview.documents.map(({ id, seq }) => ({ id, seq })), author: 'ann' });
  const after = await open(loom);
  expect(findRecord(after.document, 'p-reach', 'parameter')?.formula.text).toBe('2 * rail.length_over_all');
  expect(after.read('reach')).toBe('920 mm');
}, 240_000);

test('what is behind through a sub-assembly is brought up to date from where it is seen, by a tolerance too', async () => {
  const { project, ids } = await importDemo();
  const [loom, beam] = [ids['Loom'] ?? '', ids['Warp beam'] ?? ''];
  const barrel = findNamed(await present(beam), 'barrel_length');
  await edit(beam, { type: 'parameter.update', id: barrel, changes: { tolerance: { kind: 'symmetric', by: { text: '0.4 mm' } } } });
  await save(beam);
  expect((await open(loom)).behind).toHaveLength(1);
  // Asked of the outermost alone: what stands between comes first.
  const preview = await previewCatchUp(project, { document: loom });
  expect(preview.documents.map(({ name }) => name)).toEqual(['Beam unit', 'Loom']);
  await commitCatchUp(project, { documents: preview.documents.map(({ id, seq }) => ({ id, seq })), author: 'ann' });
  expect((await open(loom)).behind).toEqual([]);
  expect((await previewCatchUp(project, { document: loom })).documents).toEqual([]);
}, 240_000);

test('what was deleted stays in the assembly as it was taken; the project is exported and read again', async () => {
  const { project, ids } = await importDemo();
  const loom = ids['Loom'] ?? '';
  await edit(loom, addValue('reach', 'rail.rail_length'));
  await deleteDocument(ids['Cross rail'] ?? '');
  await purgeDeleted(new Date(Date.now() + 90 * 86_400_000));
  expect((await open(loom)).read('reach')).toBe('460 mm');
  expect((await previewCatchUp(project)).documents).toEqual([]);
  const text = await exportProject(project);
  if (!text.ok) throw new Error(text.failure.message);
  const again = await importText(text.value);
  // It comes along as what it is: deleted, and standing in the loom.
  expect(again.ids['Cross rail']).toBeUndefined();
  expect((await open(again.ids['Loom'] ?? '')).read('reach')).toBe('460 mm');
  const read = await readProject(again.project);
  expect(read.ok && read.value.deleted.map(({ name }) => name)).toEqual(['Cross rail']);
});

test('a project that is written out and read again stands for the same, held and unsaved states too', async () => {
  const { project, ids } = await importDemo();
  const [loom, rail, unit] = [ids['Loom'] ?? '', ids['Cross rail'] ?? '', ids['Beam unit'] ?? ''];
  await edit(loom, addValue('reach', 'rail.tenon'), addValue('inside', 'unit.gap'));
  await edit(unit, addValue('gap', '3 mm'));
  await save(unit);
  const held = findRecord(await present(loom), 'unit', 'component');
  if (!held) throw new Error('no unit');
  await edit(loom, { type: 'component.put', component: { ...held, policy: 'hold', revision: 2 } });
  await save(loom);
  await edit(unit, { type: 'parameter.setFormula', id: 'p-gap', formula: { text: '4 mm' } });
  await save(unit);
  // Not saved: the loom stands for the revision before.
  await edit(rail, { type: 'parameter.setFormula', id: findNamed(await present(rail), 'tenon'), formula: { text: '21 mm' } });
  const before = await open(loom);
  expect([before.read('reach'), before.read('inside')]).toEqual(['18 mm', '3 mm']);
  const text = await exportProject(project);
  if (!text.ok) throw new Error(text.failure.message);
  const again = await importText(text.value);
  const after = await open(again.ids['Loom'] ?? '');
  expect([after.read('reach'), after.read('inside')]).toEqual(['18 mm', '3 mm']);
  expect(revisionsOf(after.document)).toMatchObject({ rail: 1, unit: 1, left_side: 1 });
  expect((await open(again.ids['Beam unit'] ?? '')).read('gap')).toBe('4 mm');
  // What was not saved there is a revision here, which the loom is behind; a second copy carries as much.
  expect([before.behind, after.behind.map(({ name }) => name)]).toEqual([[], ['rail']]);
  const twice = await exportProject(again.project);
  expect(twice.ok && (JSON.parse(twice.value) as { earlier: unknown[] }).earlier.length).toBe(
    (JSON.parse(text.value) as { earlier: unknown[] }).earlier.length,
  );
}, 240_000);

test('assemblies that stand in one another are told, and nothing hangs', async () => {
  const { project, ids } = await importDemo();
  const made = await createDocumentIn(project, { name: 'Unit', kind: 'assembly', author: 'ann' });
  if (!made.ok) throw new Error(made.failure.message);
  const unit = made.value.id;
  const stands = (id: string, source: string, revision: number): Edit => ({
    type: 'component.put',
    component: { type: 'component', id, name: id, source, sourceName: '', policy: 'ask', revision, hash: '', at: { origin: [0, 0, 0], turn: [1, 0, 0, 0] } },
  });
  await edit(unit, stands('loom', ids['Loom'] ?? '', 1), addValue('reach', 'loom.rail.rail_length'));
  await save(unit);
  expect((await open(unit)).read('reach')).toBe('460 mm');
  await edit(ids['Loom'] ?? '', stands('unit', unit, 2), addValue('through', 'unit.reach'));
  const { read } = await open(ids['Loom'] ?? '');
  // The unit as it was: it stands on the first revision of the loom, which it would contain again.
  expect(read('through')).not.toBe('460 mm');
  expect((await previewCatchUp(project)).documents.length).toBeLessThan(3);
}, 240_000);

function findNamed(document: Document, name: string): string {
  const record = Object.values(document.records).find((one) => one.type === 'parameter' && one.name === name);
  if (!record) throw new Error(`no value ${name}`);
  return record.id;
}
