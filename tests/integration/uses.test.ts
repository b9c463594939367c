/** Parts that use calc sheets: in one regeneration, on real worker threads, caught up on the server before anything is committed. */
import { writeProjectFile, type Document, type Edit, type TakenValue } from '@/core/document';
import { complete, openComplete } from '@/core/instances';
import type { KernelPort } from '@/core/kernel-port';
import { Regenerator } from '@/core/steps';
import { createKernel } from '@/kernel/create-kernel';
import { commitCatchUp } from '@/server/services/catch-up';
import { previewCatchUp } from '@/server/services/catch-up-preview';
import { postEdits, readDocument } from '@/server/services/documents';
import { exportProject, importProject, readProject } from '@/server/services/projects';
import { saveRevision } from '@/server/services/revisions';
import { clientFromSource } from '@/workers/start-thread';
import { buildWhole } from '@/workers/whole-assembly';
import { component, driven, linked, placeless, sourceOf, withComponents, withParameters } from '../support/assemblies';
import { edited } from '../support/demo';
import { onServer } from '../support/on-server';
import { PartBuilder } from '../support/part-builder';

/** How thick a plate has to be that carries a mass on a width: here simply in proportion, so that hand arithmetic follows. */
const CARRY = withParameters('calc', 'carry', { load: '1 kg', width: '10 mm', per: '1 kg/(10 mm*1 mm)', thickness: 'load / (width * per)' });

/** A block, its mass as the load, and a plate of the calculated thickness on another body. */
function plate(width = '40 mm'): PartBuilder {
  const part = PartBuilder.block(width, '30 mm', '20 mm').measure('weight', 'block', { of: 'body', what: 'mass', body: 'b' });
  part.document = driven(withComponents(part.document, placeless(component('carry', 'carry'))), 'carry.load', 'weight');
  return part
    .sketch('upper')
    .rectangle('upper', '10 mm', '10 mm', [100, 0])
    .step({ type: 'extrude', id: 'plate', sketch: 'upper', operation: 'start', extent: 'forward', body: 'p' }, { depth: '1 mm + carry.thickness' });
}

describe('one regeneration', () => {
  let kernel: KernelPort;
  beforeAll(async () => {
    kernel = await createKernel();
  });
  const build = (regenerator: Regenerator, { document }: PartBuilder) => {
    const whole = structuredClone(complete(document, sourceOf([CARRY])));
    const values = openComplete(whole);
    const result = regenerator.regenerate(whole, values);
    const volume = (id: string): number => result.bodies.find((body) => body.id === id)?.properties?.volume ?? NaN;
    return { ...result, volume, values };
  };

  test('measures, calculates and builds on with the result', () => {
    const regenerator = new Regenerator(kernel);
    const first = build(regenerator, plate());
    expect(first.steps.map(({ status }) => status)).toEqual(['done', 'done', 'done', 'done']);
    // 40 x 30 x 20 mm of steel at 7.85 g/cm3 weigh 0.1884 kg.
    expect(first.volume('p')).toBeCloseTo(100 * 1.1884, 6);
    expect(first.rebuilt).toBe(4);
    const second = build(regenerator, plate('80 mm'));
    expect(second.volume('p')).toBeCloseTo(100 * (1 + 2 * 0.1884), 6);
    // The sketch of the plate is as it was.
    expect(second.rebuilt).toBe(3);
    expect(build(regenerator, plate('80 mm')).rebuilt).toBe(0);
  });

  test('a part that stands in an assembly calculates with the values that are set in it there', async () => {
    const part = { ...plate().document, id: 'plate', name: 'plate' };
    const loom = driven(
      withComponents(withParameters('assembly', 'loom', {}), component('left', 'plate'), component('right', 'plate')),
      'left.base_w',
      '80 mm',
      ['base_w'],
    );
    const client = clientFromSource();
    const whole = await buildWhole(client, loom, sourceOf([part, CARRY]).snapshot);
    client.close();
    if ('failure' in whole) throw new Error(whole.part);
    const volumes = [...whole.results.values()].map(({ bodies }) => bodies.find(({ id }) => id === 'p')?.properties?.volume ?? NaN);
    expect(volumes.sort((a, b) => a - b)).toEqual([expect.closeTo(118.84, 6), expect.closeTo(137.68, 6)]);
  });

  test('a step that decides what is measured before it is a cycle', () => {
    const round = plate().set('block_depth', '20 mm + carry.thickness');
    const { values } = build(new Regenerator(kernel), round);
    expect(values.show('block_depth')?.diagnostics[0]?.message).toMatch(/weight/);
  });
});

describe('on the server', () => {
  onServer();

  const MASTER = withParameters('master', 'sizes', { share: '10 mm' });
  const calc = (policy: 'ask' | 'follow'): Document => {
    const document = edited(linked(CARRY, 'sizes', { share: 10 }), { type: 'parameter.setFormula', id: 'carry-width', formula: { text: 'share' } });
    return withPolicy(document, policy);
  };
  const withPolicy = (document: Document, policy: 'ask' | 'follow'): Document => ({
    ...document,
    records: Object.fromEntries(
      Object.entries(document.records).map(([id, record]) => [id, record.type === 'link' || record.type === 'component' ? { ...record, policy } : record]),
    ),
  });

  async function bring(policy: 'ask' | 'follow') {
    const part = { ...withPolicy(plate().do(measure).document, policy), id: 'plate', name: 'plate' };
    const imported = await importProject(writeProjectFile({ name: 'Uses', documents: [MASTER, calc(policy), part] }), 'ann');
    if (!imported.ok) throw new Error(JSON.stringify(imported.failure));
    const project = await readProject(imported.value.id);
    if (!project.ok) throw new Error(project.failure.message);
    const ids = Object.fromEntries(project.value.documents.map(({ id, name }) => [name, id]));
    return { project: imported.value.id, idOf: (name: string): string => ids[name] ?? '' };
  }
  const measure: Edit = {
    type: 'measure.add',
    parameter: {
      type: 'parameter',
      id: 'filled',
      owner: 'plate',
      name: 'filled',
      formula: { text: '' },
      kind: 'any',
      offered: true,
      measure: { of: 'body', what: 'volume', body: 'p' },
    },
  };
  let keys = 0;
  async function change(id: string, parameter: string, text: string) {
    const edit: Edit = { type: 'parameter.setFormula', id: parameter, formula: { text } };
    const at = await readDocument(id);
    if (!at.ok) throw new Error(at.failure.message);
    const posted = await postEdits(id, { base: at.value.seq, envelopes: [{ key: `uses-${Date.now()}-${keys++}`, author: 'ann', edit }] });
    if (!posted.ok) throw new Error(posted.failure.message);
    const saved = await saveRevision(id, { seq: at.value.seq + 1, message: '', author: 'ann' });
    if (!saved.ok) throw new Error(saved.failure.message);
    return saved.value;
  }
  const volumeOf = (values: Readonly<Record<string, TakenValue>>): number => {
    const { filled } = values;
    return filled?.kind === 'quantity' ? filled.value / 1e12 : NaN;
  };

  test('a part is behind its calc sheet, is planned with the geometry that it would have, and catches up in one change set', async () => {
    const { project, idOf } = await bring('ask');
    const opened = await readDocument(idOf('plate'));
    expect(opened.ok && Object.values(opened.value.snapshots).map(({ name }) => name)).toEqual(['carry']);
    await change(idOf('sizes'), 'sizes-share', '5 mm');
    const preview = await previewCatchUp(project, { isMeasured: true });
    expect(preview.documents.map(({ name }) => name)).toEqual(['carry', 'plate']);
    const [, part] = preview.documents;
    const changes = Object.fromEntries((part?.changes ?? []).map(({ name, before, after }) => [name, [before, after]]));
    expect(changes['carry']).toEqual(['revision 1', 'revision 2']);
    // Half the share, twice the thickness: 1 mm + 2 x 0.1884 mm on 100 mm2.
    expect(changes['filled']?.[1]).toBe('137.68 mm^3');
    const taken = await commitCatchUp(project, { documents: preview.documents.map(({ id, seq }) => ({ id, seq })), author: 'ann' });
    expect(taken.ok).toBe(true);
    const after = await readDocument(idOf('plate'));
    expect(after.ok && [after.value.revision, after.value.behind.length]).toEqual([2, 0]);
  });

  test('what follows comes along when the master is saved, sources first, and what is exported reads the same', async () => {
    const { project, idOf } = await bring('follow');
    await change(idOf('sizes'), 'sizes-share', '5 mm');
    const after = await readDocument(idOf('plate'));
    if (!after.ok) throw new Error(after.failure.message);
    expect(after.value.revision).toBe(2);
    const [used] = Object.values(after.value.snapshots);
    expect(used && openComplete(used).show('carry-width')?.shown).toBe('5 mm');
    const { publishWithGeometry } = await import('@/server/jobs');
    expect(volumeOf(await publishWithGeometry(after.value.document, 1000))).toBeCloseTo(137.68, 6);
    const file = await exportProject(project);
    if (!file.ok) throw new Error(file.failure.message);
    const again = await importProject(file.value, 'ann');
    expect(again.ok).toBe(true);
  });
});
