/** Values that are measured on geometry and linked on: built on the server, on real worker threads, before anything is committed. */
import { createDocument, DocumentValues, writeProjectFile, type Document, type Edit, type TakenValue } from '@/core/document';
import { DocumentRow } from '@/server/db/models';
import { commitCatchUp } from '@/server/services/catch-up';
import { previewCatchUp } from '@/server/services/catch-up-preview';
import { readState } from '@/server/services/document-store';
import { postEdits, readStandingOf } from '@/server/services/documents';
import { importProject, readProject } from '@/server/services/projects';
import { saveRevision } from '@/server/services/revisions';
import { edited } from '../support/demo';
import { onServer } from '../support/on-server';
import { PartBuilder } from '../support/part-builder';

onServer();

const length = (value: number): TakenValue => ({ kind: 'quantity', dimension: 'length=1', value: value * 10_000, unit: 'mm' });

function link(source: string, parameter: string, name: string, value: TakenValue, policy: 'ask' | 'follow'): Edit {
  return {
    type: 'link.put',
    link: { type: 'link', id: `l-${source}`, source, sourceName: source, policy, revision: 1, hash: '' },
    takes: [{ type: 'take', id: `t-${name}`, link: `l-${source}`, parameter, name, sourceName: name, value }],
  };
}

const value = (name: string, text: string): Edit => ({
  type: 'parameter.add',
  parameter: { type: 'parameter', id: name, name, formula: { text }, kind: 'any', offered: true },
});

/** A master with a width, a block of that width with its volume measured, and a part that takes the volume. */
function project(policy: 'ask' | 'follow', height = '20 mm'): readonly Document[] {
  const master = edited(createDocument('sizes', 'master', 'sizes'), value('width', '40 mm'));
  const block = PartBuilder.block('40 mm', '30 mm', '20 mm').measure('volume', 'block', { of: 'body', what: 'volume', body: 'b' });
  const linked = edited(
    block.document,
    link('sizes', 'width', 'width', length(40), policy),
    { type: 'parameter.setFormula', id: 'base_w', formula: { text: 'width' } },
    { type: 'parameter.setFormula', id: 'block_depth', formula: { text: height } },
  );
  const volume: TakenValue = { kind: 'quantity', dimension: 'length=3', value: 24_000 * 10_000 ** 3, unit: 'cm^3' };
  const taker = edited(createDocument('taker', 'part', 'taker'), link('block', 'volume', 'volume', volume, policy), value('fill', 'volume / (10 cm^2)'));
  return [master, { ...linked, id: 'block', name: 'block' }, taker];
}

interface Imported {
  readonly project: string;
  readonly ids: Readonly<Record<string, string>>;
}

async function importDocuments(documents: readonly Document[]): Promise<Imported> {
  const imported = await importProject(writeProjectFile({ name: 'Measured', documents }), 'test');
  if (!imported.ok) throw new Error(imported.failure.message);
  const read = await readProject(imported.value.id);
  if (!read.ok) throw new Error(read.failure.message);
  const ids = Object.fromEntries(read.value.documents.map(({ id, name }) => [name, id]));
  // Nothing was measured when they were imported: the background is off here.
  await change(ids['block'] ?? '', { type: 'parameter.update', id: 'volume', changes: { note: 'measured' } });
  await save(ids['block'] ?? '');
  const { documents: behind } = await previewCatchUp(imported.value.id);
  if (behind.length > 0) await commitCatchUp(imported.value.id, { documents: behind.map(({ id, seq }) => ({ id, seq })), author: 'ann' });
  return { project: imported.value.id, ids };
}

let keys = 0;
async function change(id: string, edit: Edit): Promise<void> {
  const standing = await readStandingOf(id);
  if (!standing.ok) throw new Error(standing.failure.message);
  const posted = await postEdits(id, { base: standing.value.seq, envelopes: [{ key: `measured-${keys++}`, author: 'ann', edit }] });
  if (!posted.ok) throw new Error(posted.failure.message);
}

async function save(id: string) {
  const standing = await readStandingOf(id);
  if (!standing.ok) throw new Error(standing.failure.message);
  const saved = await saveRevision(id, { seq: standing.value.seq, message: '', author: 'ann' });
  if (!saved.ok) throw new Error(saved.failure.message);
  return saved.value;
}

async function shown(id: string, name: string): Promise<string | undefined> {
  const row = await DocumentRow.findByPk(id);
  return row ? new DocumentValues(readState(row)).show(name)?.shown : undefined;
}

test('what is measured on the new geometry is in the preview, and one change set brings everything to rest', async () => {
  const { project: id, ids } = await importDocuments(project('ask'));
  await change(ids['sizes'] ?? '', { type: 'parameter.setFormula', id: 'width', formula: { text: '50 mm' } });
  await save(ids['sizes'] ?? '');
  const quick = await previewCatchUp(id);
  expect(quick.documents.map(({ name, isProvisional }) => [name, isProvisional])).toEqual([['block', true]]);
  const whole = await previewCatchUp(id, { isMeasured: true });
  expect(whole.documents.map(({ name, isProvisional }) => [name, isProvisional])).toEqual([
    ['block', false],
    ['taker', false],
  ]);
  expect(whole.documents[1]?.changes.map(({ name, before, after }) => [name, before, after])).toEqual([
    ['volume', '24000 mm^3', '30000 mm^3'],
    ['fill', '24 mm', '30 mm'],
  ]);
  const done = await commitCatchUp(id, { documents: whole.documents.map(({ id: document, seq }) => ({ id: document, seq })), author: 'ann' });
  expect(done.ok && done.value.documents).toHaveLength(2);
  expect(await shown(ids['taker'] ?? '', 'fill')).toBe('30 mm');
  expect((await previewCatchUp(id, { isMeasured: true })).documents).toEqual([]);
}, 240_000);

test('links that follow take what is measured with the save of its source', async () => {
  const { ids } = await importDocuments(project('follow'));
  await change(ids['sizes'] ?? '', { type: 'parameter.setFormula', id: 'width', formula: { text: '60 mm' } });
  const saved = await save(ids['sizes'] ?? '');
  expect(saved.followed).toEqual(['block', 'taker']);
  expect(await shown(ids['taker'] ?? '', 'fill')).toBe('36 mm');
}, 240_000);

test('a part whose step would fail does not follow, says why, and nor does what takes from it', async () => {
  const { ids } = await importDocuments(project('follow', '60 mm - width'));
  await change(ids['sizes'] ?? '', { type: 'parameter.setFormula', id: 'width', formula: { text: '60 mm' } });
  const saved = await save(ids['sizes'] ?? '');
  expect(saved.followed).toEqual([]);
  expect(saved.asked[0]?.name).toBe('block');
  expect(saved.asked[0]?.reason).toMatch(/block/);
  expect(await shown(ids['taker'] ?? '', 'fill')).toBe('24 mm');
}, 240_000);
