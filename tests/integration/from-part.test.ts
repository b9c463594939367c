/** A part that starts from a body of another: a casting and what is machined of it. Volumes and masses by hand. */
import { applyEdit, clipSteps, listIds, pasteSteps, readProjectFile, writeProjectFile, type Document, type Drive, type Edit } from '@/core/document';
import { assemblyTree } from '@/core/assembly';
import { complete, openComplete, openValues } from '@/core/instances';
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
import { component, driven, placeless, sourceOf, withComponents, withParameters } from '../support/assemblies';
import { edited } from '../support/demo';
import { onServer } from '../support/on-server';
import { PartBuilder } from '../support/part-builder';

/** A block of 40 x 30 x 20 mm; `width`, `depth` and a weight that is measured. */
function casting(): Document {
  const { document } = PartBuilder.block('40 mm', '30 mm', '20 mm').measure('weight', 'block', { of: 'body', what: 'mass', body: 'b' });
  return { ...document, id: 'casting', name: 'Casting' };
}

/** Its body, and a hole of `bore` through it. */
function machined(bore = '10 mm'): PartBuilder {
  const part = new PartBuilder().value('bore', bore, 'length');
  part.document = withComponents(part.document, placeless(component('casting', 'casting')));
  part.do(START);
  return part
    .sketch('mark', { body: 'm', face: 'start/part:block/end(base-0)' })
    .circle('mark', 'spot', 'bore', [15, 10])
    .step({ type: 'extrude', id: 'drill', sketch: 'mark', operation: 'remove', extent: 'through', body: 'm' }, {});
}

const START: Edit = {
  type: 'step.add',
  step: { type: 'from-part', id: 'start', name: 'Body of Casting', component: 'casting', of: 'b', body: 'm', values: {} },
  values: [],
  body: { type: 'body', id: 'm', name: 'Machined', material: 'Steel' },
};

const hole = (diameter: number, height: number): number => (Math.PI * diameter ** 2 * height) / 4;

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

function build(document: Document, others: readonly Document[] = [casting()], regenerator = new Regenerator(kernel)) {
  const whole = structuredClone(complete(document, sourceOf(others)));
  const values = openComplete(whole);
  const result = regenerator.regenerate(whole, values);
  const volume = (id: string): number => result.bodies.find((body) => body.id === id)?.properties?.volume ?? NaN;
  return { ...result, volume, values, problems: result.steps.flatMap(({ problem }) => problem?.message ?? []) };
}

test('the body is that of the other part, and is worked on by steps of its own', () => {
  const { volume, steps, problems } = build(machined().document);
  expect(problems).toEqual([]);
  expect(steps.map(({ status }) => status)).toEqual(['done', 'done', 'done']);
  expect(volume('m')).toBeCloseTo(24_000 - hole(10, 20), 6);
});

test('it has the values that are set here, also such as are measured before it', () => {
  const wide = driven(machined().document, 'casting.base_w', '4 * bore', ['base_w']);
  expect(build(wide).volume('m')).toBeCloseTo(24_000 - hole(10, 20), 6);
  const wider = edited(wide, { type: 'parameter.setFormula', id: 'bore', formula: { text: '12 mm' } });
  expect(build(wider).volume('m')).toBeCloseTo(48 * 30 * 20 - hole(12, 20), 6);
});

test('what is measured on it is read here, in the same regeneration', () => {
  const part = machined();
  part.document = edited(part.document, { type: 'parameter.setFormula', id: 'bore', formula: { text: 'if(casting.weight > 0.1 kg, 8 mm, 4 mm)' } });
  const { volume, values, measured } = build(part.document);
  expect(volume('m')).toBeCloseTo(24_000 - hole(8, 20), 6);
  // 24 cm3 of steel at 7.85 g/cm3.
  part.value('share', 'casting.mass / 1 kg').value('room', 'casting.volume');
  expect(build(part.document).values.show('share')?.shown).toBe('0.188');
  expect(build(part.document).values.show('room')?.value).toBeCloseTo(24_000e12, -6);
  // The page, which builds nothing, takes it from the reply.
  const page = openValues(part.document, sourceOf([casting()]));
  expect(page.show('share')?.diagnostics[0]?.message).toMatch(/Casting|casting/);
  page.setMeasured(measured);
  expect(page.show('share')?.shown).toBe('0.188');
  expect(page.show('bore')?.shown).toBe(values.show('bore')?.shown);
});

test('a value that would decide what it is measured on is a cycle by its path', () => {
  const part = machined();
  part.measure('left', 'drill', { of: 'body', what: 'volume', body: 'm' });
  const round = driven(part.document, 'casting.base_w', 'left / (600 mm^2)', ['base_w']);
  const values = openValues(round, sourceOf([casting()]));
  expect(values.sheet.read('left')?.diagnostics[0]?.message ?? values.sheet.read('drive-casting-base_w')?.diagnostics[0]?.message).toMatch(/itself/);
});

test('nothing is built again that is as it was', () => {
  const regenerator = new Regenerator(kernel);
  expect(build(machined().document, [casting()], regenerator).rebuilt).toBe(3);
  expect(build(machined().document, [casting()], regenerator).rebuilt).toBe(0);
  expect(build(machined('9 mm').document, [casting()], regenerator).rebuilt).toBe(2);
});

test('parts stand on parts that stand on parts', () => {
  const second = { ...machined().document, id: 'second', name: 'Second part' };
  const part = new PartBuilder();
  part.document = withComponents(part.document, placeless(component('turned', 'second')));
  part.do({ ...START, step: { ...START.step, component: 'turned', of: 'm' } } as Edit);
  part.value('inner', 'turned.mass / 1 g');
  const { volume, values } = build(part.document, [casting(), second]);
  expect(volume('m')).toBeCloseTo(24_000 - hole(10, 20), 6);
  expect(values.sheet.read('inner')?.diagnostics).toEqual([]);
  expect(values.sheet.readNumber('inner')).toBeCloseTo((24 - hole(10, 20) / 1000) * 7.85, 6);
});

test('copied with its steps, it starts from the part once more, with values of its own', () => {
  const part = machined();
  part.document = driven(part.document, 'casting.base_w', '50 mm', ['base_w']);
  const clip = clipSteps(openValues(part.document, sourceOf([casting()])), ['start', 'drill']);
  let next = 0;
  const made = pasteSteps(part.document, clip, { newId: () => `new${next++}`, tied: new Set(['bore']), body: undefined, beside: 60, formulas: new Map() });
  if (!made.ok) throw new Error(made.failure.message);
  part.do(made.value.edit);
  const drive = Object.values(part.document.records).find((record) => record.type === 'drive' && record.component !== 'casting');
  expect(listIds(part.document, 'components')).toHaveLength(2);
  part.do({ type: 'drive.put', drive: { ...(drive as Drive), formula: { text: '70 mm' } } });
  const { bodies, problems } = build(part.document);
  expect(problems).toEqual([]);
  expect(bodies.map(({ properties }) => properties?.volume)).toEqual([50, 70].map((width) => expect.closeTo(width * 600 - hole(10, 20), 6) as number));
});

describe('is told in words', () => {
  test('when the body is gone, or cannot be built', () => {
    const gone = edited(machined().document, { type: 'step.update', step: { ...START.step, of: 'other' } as never, values: [] });
    expect(build(gone).problems[0]).toMatch(/Casting has this body no longer; choose another/);
    const failing = edited(casting(), { type: 'parameter.setFormula', id: 'block_depth', formula: { text: '0 mm' } });
    expect(build(machined().document, [failing]).problems[0]).toMatch(/In Casting: .*block/i);
  });

  test('when it would contain itself', () => {
    const base = edited({ ...withComponents(casting(), placeless(component('machined', 'machined'))), id: 'casting' }, {
      ...START,
      step: { ...START.step, component: 'machined', of: 'm' },
    } as Edit);
    const round = edited({ ...machined().document, id: 'machined' }, { type: 'step.update', step: { ...START.step, of: 'm' } as never, values: [] });
    const { problems } = build(round, [base, round]);
    expect(problems.join(' ')).toMatch(/would contain itself/);
  });

  test('when nothing starts from a part whose mass is read', () => {
    const part = new PartBuilder();
    part.document = withComponents(part.document, placeless(component('casting', 'casting')));
    part.value('share', 'casting.mass');
    expect(openValues(part.document, sourceOf([casting()])).show('share')?.diagnostics[0]?.message).toMatch(/no step starts from a body of it/);
  });

  test('when an assembly is chosen, which has no body of its own', () => {
    const assembly = withParameters('assembly', 'casting', {});
    expect(build(machined().document, [assembly]).problems[0]).toMatch(/only an assembly can hold it/);
  });
});

test('in an assembly, values are set in the part and, through it, in what it starts from', async () => {
  const part = { ...machined().document, id: 'machined', name: 'Machined' };
  const pair = withComponents(
    withParameters('assembly', 'pair', { width: '60 mm', both: 'left.mass + right.mass' }),
    component('left', 'machined'),
    component('right', 'machined'),
  );
  const set = driven(driven(pair, 'left.bore', '6 mm', ['bore']), 'left.casting.base_w', 'width', ['casting', 'base_w']);
  const client = clientFromSource();
  const whole = await buildWhole(client, set, sourceOf([part, casting()]).snapshot);
  if ('failure' in whole) throw new Error(whole.part);
  const volumes = [...whole.results.values()].map(({ bodies }) => bodies.find(({ id }) => id === 'm')?.properties?.volume ?? NaN);
  // Files have them too: what a part stands on goes along.
  const { root, parts } = assemblyTree(whole.values, whole.placement.standing);
  const file = await client.exportAssembly(set, 'step', root, parts);
  client.close();
  expect(file.ok && file.value.bodies).toBe(2);
  const expected = [24_000 - hole(10, 20), 36_000 - hole(6, 20)];
  expect(volumes.sort((a, b) => a - b)).toEqual(expected.map((volume) => expect.closeTo(volume, 6) as number));
  const mass = (expected.reduce((sum, volume) => sum + volume, 0) / 1000) * 7.85e-3;
  expect((whole.values.show('pair-both')?.value ?? NaN) / 1e8).toBeCloseTo(mass, 9);
});

describe('on the server', () => {
  onServer();

  /** The casting, what is machined of it, a pair of those, and a value that is handed on from the mass of the casting. */
  async function bring() {
    const part = machined().value('share', 'casting.mass / 1 kg').document;
    const pair = withComponents(withParameters('assembly', 'pair', { first: 'left.share' }), component('left', 'machined', { sourceName: 'Machined' }));
    const documents = [casting(), { ...part, id: 'machined', name: 'Machined' }, pair];
    const imported = await importProject(writeProjectFile({ name: 'Castings', documents }), 'ann');
    if (!imported.ok) throw new Error(JSON.stringify(imported.failure));
    const project = await readProject(imported.value.id);
    if (!project.ok) throw new Error(project.failure.message);
    const ids = Object.fromEntries(project.value.documents.map(({ id, name }) => [name, id]));
    return { project: imported.value.id, idOf: (name: string): string => ids[name] ?? '' };
  }

  test('what starts from a part is behind it, is planned with the geometry that it would have, and catches up in one change set', async () => {
    const { project, idOf } = await bring();
    // Nothing was measured when they were imported: the background is off here.
    await save('Machined', { type: 'parameter.update', id: 'share', changes: { note: 'of steel' } });
    const edit: Edit = { type: 'parameter.setFormula', id: 'base_w', formula: { text: '80 mm' } };
    await save('Casting', edit);
    async function save(name: string, made: Edit): Promise<void> {
      const posted = await postEdits(idOf(name), { base: 0, envelopes: [{ key: `${name}-${Date.now()}`, author: 'ann', edit: made }] });
      expect(posted.ok && (await saveRevision(idOf(name), { seq: 1, message: '', author: 'ann' })).ok).toBe(true);
    }
    const preview = await previewCatchUp(project, { isMeasured: true });
    expect(preview.documents.map(({ name }) => name)).toEqual(['Machined', 'pair']);
    expect(preview.documents.map(({ isProvisional }) => isProvisional)).toEqual([false, false]);
    const changes = Object.fromEntries(preview.documents.flatMap(({ changes: all }) => all.map(({ name, before, after }) => [name, [before, after]])));
    expect(changes).toMatchObject({ casting: ['revision 1', 'revision 2'], share: ['0.188', '0.377'], first: ['0.188', '0.377'] });
    const taken = await commitCatchUp(project, { documents: preview.documents.map(({ id, seq }) => ({ id, seq })), author: 'ann' });
    expect(taken.ok).toBe(true);
    const { publishWithGeometry } = await import('@/server/jobs');
    const after = await readDocument(idOf('Machined'));
    if (!after.ok) throw new Error(after.failure.message);
    expect([after.value.revision, after.value.behind.length]).toEqual([3, 0]);
    expect(await publishWithGeometry(after.value.document, 1000)).toMatchObject({ share: { value: expect.closeTo(0.3768, 9) as number } });
    const file = await exportProject(project);
    expect(file.ok && (await importProject(file.value, 'ann')).ok).toBe(true);
  });
});

describe('edits', () => {
  const refusal = (document: Document, edit: Edit): string | undefined => {
    const result = applyEdit(document, edit);
    return result.ok ? undefined : result.failure.message;
  };

  test('the part is not removed while a step starts from it, and goes with the last one', () => {
    const part = new PartBuilder();
    part.document = withComponents(part.document, placeless(component('casting', 'casting')));
    expect(refusal(part.document, START)).toBeUndefined();
    part.do(START);
    expect(refusal(part.document, { type: 'component.remove', id: 'casting' })).toBe('Body of Casting starts from casting.');
    const without = edited(part.document, { type: 'step.remove', id: 'start', readers: { mode: 'refuse' } });
    expect(Object.keys(without.records)).toEqual([]);
    part.value('share', 'casting.mass');
    const read = edited(part.document, { type: 'step.remove', id: 'start', readers: { mode: 'refuse' } });
    expect(Object.keys(read.records)).toEqual(['casting', 'share']);
    expect(refusal(new PartBuilder().document, START)).toMatch(/The part of Body of Casting is not used here/);
  });

  test('undone and redone it is as it was, and a file of it reads back', () => {
    const { document } = machined();
    const removed = applyEdit(document, { type: 'step.remove', id: 'drill', readers: { mode: 'refuse' } });
    expect(removed.ok).toBe(true);
    const read = readProjectFile(writeProjectFile({ name: 'p', documents: [casting(), document] }));
    expect(read.ok && read.value.documents[1]).toEqual(document);
  });
});
