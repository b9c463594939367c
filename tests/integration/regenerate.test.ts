/** Regeneration of the demo's parts on the real kernel. */
import { applyEdit, DocumentValues, type Document } from '@/core/document';
import type { KernelPort } from '@/core/kernel-port';
import { massOf, Regenerator } from '@/core/steps';
import { createKernel } from '@/kernel/create-kernel';
import { edited, plainSide } from '../support/demo';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

const side = plainSide();
const regenerate = (regenerator: Regenerator, document: Document) => regenerator.regenerate(document, new DocumentValues(document));
const withDepth = (text: string) => edited(side, { type: 'parameter.setFormula', id: 'edge-w', formula: { text } });

test('the side frame has the volume of its closed form, and its mass', () => {
  const { bodies, steps } = regenerate(new Regenerator(kernel), side);
  const expected = (360 * 260 - 36 * 36 - (Math.PI * 45.4 ** 2) / 4) * 18;
  expect(steps.map((step) => step.status)).toEqual(['done', 'done', 'done', 'done']);
  expect(Math.abs((bodies[0]?.properties?.volume ?? 0) / expected - 1)).toBeLessThan(1e-9);
  expect(bodies[0]?.mass).toBeCloseTo((expected * 0.72) / 1e6, 9);
});

test('steel weighs 7.85 g/cm³ (common practice)', () => {
  const mass = massOf({ densityOf: () => undefined, densityProblem: () => undefined }, { id: 'body', name: 'Body', material: 'Steel' }, 1000);
  expect('kilograms' in mass && mass.kilograms).toBeCloseTo(0.00785, 12);
});

test('a driving value runs over its whole range and no step fails', () => {
  const regenerator = new Regenerator(kernel);
  for (let depth = 250; depth <= 900; depth += 50) {
    const document = withDepth(`${depth} mm`);
    const { steps, bodies } = regenerate(regenerator, document);
    expect(steps.every((step) => step.status === 'done')).toBe(true);
    const expected = (depth * 260 - 36 * 36 - (Math.PI * 45.4 ** 2) / 4) * 18;
    expect(Math.abs((bodies[0]?.properties?.volume ?? 0) / expected - 1)).toBeLessThan(1e-9);
  }
});

test('only what changed is rebuilt, and the same again is all from cache', () => {
  const regenerator = new Regenerator(kernel);
  expect(regenerate(regenerator, side).rebuilt).toBe(4);
  expect(regenerate(regenerator, side).rebuilt).toBe(0);
  const bored = edited(side, { type: 'parameter.setFormula', id: 'bearing-x', formula: { text: '70 mm' } });
  const result = regenerate(regenerator, bored);
  expect(result.steps.map((step) => step.isFromCache)).toEqual([true, true, false, false]);
});

test('incremental results equal those of a new start', () => {
  const living = new Regenerator(kernel);
  for (const depth of ['300 mm', '410 mm', '360 mm']) {
    const document = withDepth(depth);
    const [a, b] = [regenerate(living, document), regenerate(new Regenerator(kernel), document)];
    expect(a.bodies).toEqual(b.bodies);
  }
});

test('a failing step says why, keeps those that do not need it, and makes later ones wait', () => {
  const flat = edited(side, { type: 'parameter.setFormula', id: 'board-depth', formula: { text: '0 mm' } });
  const { steps, bodies } = regenerate(new Regenerator(kernel), flat);
  expect(steps.map((step) => [step.status, step.problem?.message])).toEqual([
    ['done', undefined],
    ['failed', 'Side board: stock = 0 mm; an extrusion needs a depth.'],
    ['done', undefined],
    ['waiting', 'Waiting on Side board.'],
  ]);
  expect(bodies[0]?.key).toBeUndefined();
});

test('a value in error makes its step wait by name', () => {
  const wrong = edited(side, { type: 'parameter.setFormula', id: 'board-depth', formula: { text: 'frame_stok' } });
  const { steps } = regenerate(new Regenerator(kernel), wrong);
  expect(steps[1]).toMatchObject({ status: 'waiting', problem: { message: 'Waiting on stock.' } });
});

test('contradicting dimensions are named with their values', () => {
  const over = applyEdit(side, {
    type: 'sketch.draw',
    sketch: 'outline',
    entities: [],
    constraints: [],
    dimensions: [{ type: 'dimension', id: 'again', sketch: 'outline', kind: 'length', on: ['edge-top'], parameter: 'again-value', at: [0, 0] }],
    values: [{ type: 'parameter', id: 'again-value', owner: 'outline', name: 'top_length', formula: { text: '300 mm' }, kind: 'length' }],
  });
  if (!over.ok) throw new Error('refused');
  const { steps } = regenerate(new Regenerator(kernel), over.value.document);
  expect(steps[0]?.problem?.message).toBe('These cannot hold together: vertical, vertical, depth = 360 mm, top_length = 300 mm.');
});

test('an open outline is reported before the kernel is asked', () => {
  const open = edited(side, { type: 'sketch.erase', sketch: 'outline', ids: ['edge-top'], readers: { mode: 'refuse' } });
  const { steps } = regenerate(new Regenerator(kernel), open);
  expect(steps[1]).toMatchObject({ status: 'failed', problem: { message: expect.stringContaining('The outline is open') as string } });
});

test('a suppressed step is left out, by a formula too', () => {
  const step = side.records['openings-cut'];
  if (step?.type !== 'extrude') throw new Error('no step');
  const without = edited(side, { type: 'step.update', step: { ...step, suppressed: { text: 'frame_depth > 300 mm' } }, values: [] });
  const { bodies, steps } = regenerate(new Regenerator(kernel), without);
  expect(steps[3]?.status).toBe('suppressed');
  expect(Math.abs((bodies[0]?.properties?.volume ?? 0) / (360 * 260 * 18) - 1)).toBeLessThan(1e-12);
});

test('what came and what went are solids with the volumes of their closed forms', () => {
  const regenerator = new Regenerator(kernel);
  const [before, deeper] = [side, withDepth('400 mm')].map((document) => regenerate(regenerator, document));
  if (!before || !deeper) throw new Error('not built');
  const [difference, ...others] = regenerator.differences(before, deeper);
  expect(others).toEqual([]);
  expect(difference?.body).toBe(before.bodies[0]?.id);
  // The frame is 40 mm longer; its mortise at the far end and the bore move along or stay.
  const volume = (state: typeof before) => state.bodies[0]?.properties?.volume ?? NaN;
  expect((difference?.added?.volume ?? 0) - (difference?.removed?.volume ?? 0)).toBeCloseTo(volume(deeper) - volume(before), 3);
  expect(difference?.added?.mesh.positions.length).toBeGreaterThan(0);
  expect(regenerator.differences(before, before)).toEqual([]);
  const none = { ...before, bodies: [] };
  expect(regenerator.differences(none, before)[0]?.added?.volume).toBeCloseTo(volume(before), 6);
});
