/** Sketches that follow what is outside them, and curves repeated by a value, through to the solid. */
import type { KernelPort } from '@/core/kernel-port';
import { Regenerator } from '@/core/steps';
import { createKernel } from '@/kernel/create-kernel';
import { relative } from '../support/kernel-shapes';
import { build, PartBuilder } from '../support/part-builder';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

const TOP = 'block/end(base-0)';
const EAST_EDGE = 'edge[block/end(base-0) | block/side(base-1)]';

/** A block with a sketch on top that takes the east edge and places a circle 8 mm from it. */
function withTakenEdge(): PartBuilder {
  return PartBuilder.block()
    .sketch('marks', { body: 'b', face: TOP })
    .do({
      type: 'sketch.draw',
      sketch: 'marks',
      entities: [
        { type: 'point', id: 'e1', sketch: 'marks', x: 39, y: 1, isConstruction: true },
        { type: 'point', id: 'e2', sketch: 'marks', x: 39, y: 29, isConstruction: true },
        { type: 'line', id: 'edge', sketch: 'marks', start: 'e1', end: 'e2', isConstruction: true, from: { body: 'b', edge: EAST_EDGE } },
        { type: 'point', id: 'centre', sketch: 'marks', x: 30, y: 15 },
        { type: 'circle', id: 'bore', sketch: 'marks', centre: 'centre', radius: 3 },
      ],
      constraints: [],
      dimensions: [
        { type: 'dimension', id: 'd1', sketch: 'marks', kind: 'length', on: ['centre', 'edge'], parameter: 'inset', at: [0, 0] },
        { type: 'dimension', id: 'd2', sketch: 'marks', kind: 'diameter', on: ['bore'], parameter: 'bore_d', at: [0, 0] },
        { type: 'dimension', id: 'd3', sketch: 'marks', kind: 'vertical', on: ['origin', 'centre'], parameter: 'rise', at: [0, 0] },
      ],
      values: [
        { type: 'parameter', id: 'inset', owner: 'marks', name: 'inset', formula: { text: '8 mm' }, kind: 'length' },
        { type: 'parameter', id: 'bore_d', owner: 'marks', name: 'bore_d', formula: { text: '6 mm' }, kind: 'length' },
        { type: 'parameter', id: 'rise', owner: 'marks', name: 'rise', formula: { text: '15 mm' }, kind: 'length' },
      ],
    });
}

test('a dimension to an edge of the body follows the body', () => {
  const part = withTakenEdge();
  for (const width of [40, 65, 30]) {
    part.set('base_w', `${width} mm`);
    const { sketch } = build(kernel, part).step('marks') ?? {};
    expect(sketch).toMatchObject({ status: 'solved', degreesOfFreedom: 0, redundant: [] });
    expect(sketch?.points['centre']?.[0]).toBeCloseTo(width - 8, 9);
    expect(sketch?.points['e1']?.[0]).toBeCloseTo(width, 9);
  }
});

test('an edge that is gone is named, and the body stands', () => {
  const part = withTakenEdge();
  const { document } = part;
  const edge = document.records['edge'];
  if (edge?.type !== 'line') throw new Error('no line');
  part.do({
    type: 'patch',
    ops: [{ op: 'put', id: 'edge', before: edge, after: { ...edge, from: { body: 'b', edge: 'edge[block/end(base-0) | block/side(gone)]' } } }],
  });
  const { step } = build(kernel, part);
  expect(step('block')?.status).toBe('done');
  expect(step('marks')).toMatchObject({ status: 'failed', problem: { about: ['edge'], lost: 'edge[block/end(base-0) | block/side(gone)]' } });
});

test('a circle of another sketch, on a parallel plane, is followed in size and place', () => {
  const part = new PartBuilder()
    .sketch('base')
    .circle('base', 'ring', '40 mm', [12, 7], 20)
    .step({ type: 'datum', id: 'above', from: 'top', turn: 'none' }, { offset: '30 mm' })
    .sketch('lid', { datum: 'above' })
    .do({
      type: 'sketch.draw',
      sketch: 'lid',
      entities: [
        { type: 'point', id: 'o', sketch: 'lid', x: 0, y: 0, isConstruction: true },
        { type: 'circle', id: 'taken', sketch: 'lid', centre: 'o', radius: 5, isConstruction: true, from: { sketch: 'base', entity: 'ring' } },
        { type: 'circle', id: 'rim', sketch: 'lid', centre: 'o', radius: 8 },
      ],
      constraints: [{ type: 'constraint', id: 'same', sketch: 'lid', kind: 'equal', on: ['taken', 'rim'] }],
      dimensions: [],
      values: [],
    })
    .step({ type: 'extrude', id: 'disc', sketch: 'lid', operation: 'start', extent: 'forward', body: 'b' }, { depth: '3 mm' });
  for (const dia of [40, 70]) {
    part.set('ring_d', `${dia} mm`);
    const { volume, body } = build(kernel, part);
    expect(relative(volume, ((Math.PI * dia * dia) / 4) * 3)).toBeLessThan(1e-9);
    expect(body()?.properties?.centre[0]).toBeCloseTo(12, 9);
    expect(body()?.properties?.centre[2]).toBeCloseTo(31.5, 9);
  }
});

test('a sketch that others take from cannot go, nor stand after them', () => {
  const part = new PartBuilder()
    .sketch('base')
    .circle('base', 'ring', '40 mm', [0, 0])
    .sketch('lid')
    .do({
      type: 'sketch.draw',
      sketch: 'lid',
      entities: [{ type: 'point', id: 'p', sketch: 'lid', x: 0, y: 0, from: { sketch: 'base', entity: 'ring-c' } }],
      constraints: [],
      dimensions: [],
      values: [],
    });
  expect(() => part.do({ type: 'step.remove', id: 'base', readers: { mode: 'refuse' } })).toThrow('lid builds on base.');
  expect(() => part.do({ type: 'step.move', id: 'lid', after: null })).toThrow('must stand after it');
});

describe('repeats in a sketch', () => {
  const ring = (): PartBuilder =>
    new PartBuilder()
      .value('holes', '8', 'count')
      .sketch('base')
      .circle('base', 'disc', '100 mm', [0, 0], 50)
      .circle('base', 'hole', '6 mm', [35, 0], 3)
      .do({
        type: 'sketch.draw',
        sketch: 'base',
        entities: [],
        constraints: [],
        dimensions: [],
        values: [
          { type: 'parameter', id: 'n', owner: 'base', name: 'n', formula: { text: 'holes' }, kind: 'count' },
          { type: 'parameter', id: 'pitch', owner: 'base', name: 'pitch', formula: { text: '360 deg / n' }, kind: 'angle' },
        ],
        repeats: [{ type: 'repeat', id: 'r', sketch: 'base', form: 'circular', of: ['hole'], about: 'origin', count: 'n', spacing: 'pitch' }],
      })
      .step({ type: 'extrude', id: 'plate', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '4 mm' });

  test.each([1, 8, 20])('%d holes by a named count', (count) => {
    const part = ring().set('holes', `${count}`);
    expect(relative(build(kernel, part).volume, Math.PI * 4 * (2500 - 9 * count))).toBeLessThan(1e-9);
  });

  test('faces of the copies have names of their own, which a larger count does not disturb', () => {
    const namesOf = (count: number): readonly string[] => {
      const regenerator = new Regenerator(kernel);
      const result = build(kernel, ring().set('holes', `${count}`), regenerator);
      expect(result.steps.flatMap(({ problem }) => problem ?? [])).toEqual([]);
      return regenerator.mesh(result.body()?.key ?? '')?.faces.map(({ name }) => name) ?? [];
    };
    const five = namesOf(5);
    expect(five).toContain('plate/side(hole~4)');
    expect(five).toHaveLength(8);
    expect(
      namesOf(6)
        .filter((name) => name !== 'plate/side(hole~5)')
        .sort(),
    ).toEqual([...five].sort());
  });

  test('a count that is not whole keeps the sketch waiting and is told', () => {
    const part = ring().set('holes', '3.5');
    const { values, step } = build(kernel, part);
    expect(values.show('holes')?.diagnostics[0]?.code).toBe('not-whole');
    expect(step('base')).toMatchObject({ status: 'waiting' });
  });

  test('it goes with what it repeats, and its values with it', () => {
    const part = ring();
    part.do({ type: 'sketch.erase', sketch: 'base', ids: ['hole'], readers: { mode: 'refuse' } });
    expect(part.document.records['r']).toBeUndefined();
    expect(part.document.records['n']).toBeUndefined();
    expect(relative(build(kernel, part).volume, Math.PI * 4 * 2500)).toBeLessThan(1e-9);
  });
});

test('regions are listed by size and each is measured for itself', () => {
  const part = new PartBuilder()
    .sketch('base')
    .rectangle('base', '40 mm', '30 mm')
    .circle('base', 'disc', '10 mm', [100, 0], 5)
    .measure('all', 'base', { of: 'region', what: 'area' })
    .measure('one', 'base', { of: 'region', what: 'area', curve: 'disc' })
    .measure('across', 'base', { of: 'region', what: 'centroid-x', curve: 'base-0' })
    .measure('stiff', 'base', { of: 'region', what: 'second-moment-x', curve: 'base-2' });
  const { values, step } = build(kernel, part);
  expect(step('base')?.sketch?.regions.map(({ area }) => Number(area.toFixed(6)))).toEqual([1200, Number((25 * Math.PI).toFixed(6))]);
  expect(values.sheet.readNumber('all') / 1e8).toBeCloseTo(1200 + 25 * Math.PI, 6);
  expect(values.sheet.readNumber('one') / 1e8).toBeCloseTo(25 * Math.PI, 6);
  expect(values.show('across')?.shown).toBe('20 mm');
  // b h³ / 12.
  expect(values.sheet.readNumber('stiff') / 1e16).toBeCloseTo((40 * 30 ** 3) / 12, 4);
});
