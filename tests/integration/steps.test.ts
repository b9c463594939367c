/** Every kind of step through the whole chain, document to solid, against the closed form of its volume. */
import type { KernelPort } from '@/core/kernel-port';
import { Regenerator } from '@/core/steps';
import { createKernel } from '@/kernel/create-kernel';
import { relative } from '../support/kernel-shapes';
import { build, PartBuilder } from '../support/part-builder';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

const BLOCK = 40 * 30 * 20;
const TOP = 'block/end(base-0)';

/** Builds, and checks that no step failed. */
function built(part: PartBuilder) {
  const result = build(kernel, part);
  expect(result.steps.flatMap(({ problem }) => problem?.message ?? [])).toEqual([]);
  return result;
}

describe('extrude', () => {
  test.each([
    ['both', 25 * 1200],
    ['centred', 20 * 1200],
  ] as const)('%s', (extent, volume) => {
    const part = new PartBuilder()
      .sketch('base')
      .rectangle('base', '40 mm', '30 mm')
      .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent, body: 'b' }, { depth: '20 mm', back: '5 mm' });
    expect(relative(built(part).volume, volume)).toBeLessThan(1e-9);
  });

  test('tapered both ways narrows on both sides of its sketch', () => {
    const part = new PartBuilder()
      .sketch('base')
      .rectangle('base', '40 mm', '30 mm')
      .step(
        { type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'centred', isTapered: true, body: 'b' },
        { depth: '20 mm', taper: '5 deg' },
      );
    const lean = 10 * Math.tan((5 * Math.PI) / 180);
    const half = (10 * (1200 + 4 * (40 - lean) * (30 - lean) + (40 - 2 * lean) * (30 - 2 * lean))) / 6;
    expect(relative(built(part).volume, 2 * half)).toBeLessThan(1e-9);
  });

  test('up to a face follows the face', () => {
    const part = PartBuilder.block()
      .sketch('boss', { body: 'b', face: 'block/start(base-0)' })
      .rectangle('boss', '4 mm', '5 mm', [5, -15], [4, 5])
      .step({ type: 'extrude', id: 'cut', sketch: 'boss', operation: 'remove', extent: 'up-to', upTo: TOP, body: 'b' });
    for (const height of [20, 35]) {
      part.set('block_depth', `${height} mm`);
      // A cut up to the far side takes a whole prism out.
      expect(relative(built(part).volume, 1200 * height - 20 * height)).toBeLessThan(1e-9);
    }
  });

  test('keep common leaves what both have', () => {
    const part = PartBuilder.block()
      .sketch('other')
      .rectangle('other', '10 mm', '50 mm', [5, -5], [10, 50])
      .step({ type: 'extrude', id: 'keep', sketch: 'other', operation: 'keep', extent: 'forward', body: 'b' }, { depth: '12 mm' });
    expect(relative(built(part).volume, 10 * 30 * 12)).toBeLessThan(1e-9);
  });
});

test('a sketch on a face moves with it', () => {
  const part = PartBuilder.block()
    .sketch('pad', { body: 'b', face: TOP })
    .rectangle('pad', '10 mm', '10 mm', [5, 5], [10, 10])
    .step({ type: 'extrude', id: 'boss', sketch: 'pad', operation: 'add', extent: 'forward', body: 'b' }, { depth: '8 mm' });
  for (const height of [20, 33]) {
    part.set('block_depth', `${height} mm`);
    const { volume, body } = built(part);
    expect(relative(volume, 1200 * height + 800)).toBeLessThan(1e-9);
    expect(body()?.properties?.box.max[2]).toBeCloseTo(height + 8, 4);
  }
});

test('a datum plane at an offset and an angle carries a sketch', () => {
  const part = new PartBuilder()
    .step({ type: 'datum', id: 'plane', from: 'top', turn: 'x' }, { offset: '50 mm', angle: '90 deg' })
    .sketch('base', { datum: 'plane' })
    .rectangle('base', '40 mm', '30 mm')
    .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '20 mm' });
  const { box } = built(part).body()?.properties ?? {};
  // Turned about x by a right angle, z becomes -y: the plane lies at y = -50 and the block runs on from there.
  expect(box?.min.map((v) => Math.round(v) + 0)).toEqual([0, -70, 0]);
  expect(box?.max.map((v) => Math.round(v))).toEqual([40, -50, 30]);
});

test.each([
  ['full', 2 * Math.PI],
  ['angle', Math.PI / 2],
] as const)('revolve, %s: Pappus', (extent, angle) => {
  const part = new PartBuilder()
    .sketch('base', 'front')
    .rectangle('base', '6 mm', '10 mm', [20, 0], [6, 10])
    .step({ type: 'revolve', id: 'ring', sketch: 'base', axis: 'y-axis', operation: 'start', extent, body: 'b' }, { angle: '90 deg' });
  expect(relative(built(part).volume, 60 * 23 * angle)).toBeLessThan(1e-9);
});

describe('holes', () => {
  const drilled = (form: 'simple' | 'counterbore' | 'countersink', extent: 'blind' | 'through', formulas: Record<string, string>) =>
    PartBuilder.block()
      .sketch('marks', { body: 'b', face: TOP })
      .points('marks', [10, 10], [30, 20])
      .step({ type: 'hole', id: 'holes', sketch: 'marks', form, extent, body: 'b' }, { diameter: '6 mm', ...formulas });
  const cylinder = (d: number, h: number): number => (Math.PI * d * d * h) / 4;

  test.each([
    ['simple through', drilled('simple', 'through', {}), cylinder(6, 20)],
    ['simple blind', drilled('simple', 'blind', { depth: '12 mm' }), cylinder(6, 12)],
    ['counterbore', drilled('counterbore', 'through', { head: '11 mm', seat: '5 mm' }), cylinder(11, 5) + cylinder(6, 15)],
    ['countersink', drilled('countersink', 'through', { head: '12 mm', cone: '90 deg' }), (Math.PI * 3 * (36 + 18 + 9)) / 3 + cylinder(6, 17)],
  ])('%s', (_, part, one) => {
    expect(relative(built(part).volume, BLOCK - 2 * one)).toBeLessThan(1e-9);
  });

  test.each([
    [
      'a head no larger than the hole',
      drilled('counterbore', 'through', { head: '6 mm' }),
      'holes: holes_head = 6 mm is no larger than the hole, holes_diameter = 6 mm.',
    ],
    [
      'a counterbore deeper than the hole',
      drilled('counterbore', 'blind', { depth: '4 mm', seat: '5 mm' }),
      'holes: holes_seat = 5 mm takes more than the whole depth of the hole.',
    ],
    ['no diameter', drilled('simple', 'through', { diameter: '0 mm' }), 'holes: holes_diameter = 0 mm, but must be above zero.'],
  ])('%s is said', (_, part, message) => {
    expect(build(kernel, part).step('holes')).toMatchObject({ status: 'failed', problem: { message } });
  });
});

describe('edges and faces', () => {
  const EDGE = `edge[${['block/end(base-0)', 'block/side(base-1)'].sort().join(' | ')}]`;
  test('a fillet, and the most that fits when it does not', () => {
    const part = PartBuilder.block().step({ type: 'fillet', id: 'round', edges: [EDGE], body: 'b' }, { radius: '4 mm' });
    expect(relative(built(part).volume, BLOCK - 16 * (1 - Math.PI / 4) * 30)).toBeLessThan(1e-9);
    part.set('round_radius', '25 mm');
    const message = build(kernel, part).step('round')?.problem?.message ?? '';
    expect(message).toMatch(/^round: round_radius = 25 mm does not fit; the most that fits is about (19|20)\.?\d* mm\.$/);
  });

  test('a chamfer by distance and angle', () => {
    const part = PartBuilder.block().step(
      { type: 'chamfer', id: 'cut', edges: [EDGE], form: 'distance-angle', body: 'b' },
      { distance: '3 mm', angle: '30 deg' },
    );
    expect(relative(built(part).volume, BLOCK - 4.5 * Math.tan(Math.PI / 6) * 30)).toBeLessThan(1e-9);
  });

  test('a shell', () => {
    const part = PartBuilder.block().step({ type: 'shell', id: 'hollow', faces: [TOP], body: 'b' }, { wall: '2 mm' });
    expect(relative(built(part).volume, BLOCK - 36 * 26 * 18)).toBeLessThan(1e-9);
  });

  test('tapered faces', () => {
    const part = PartBuilder.block().step({ type: 'draft', id: 'lean', faces: ['block/side(base-1)'], plane: 'top', body: 'b' }, { angle: '5 deg' });
    expect(relative(built(part).volume, BLOCK - 200 * Math.tan(Math.PI / 36) * 30)).toBeLessThan(1e-9);
  });

  test('a lost edge is named, and the rest of the part stands', () => {
    const part = PartBuilder.block().step({ type: 'fillet', id: 'round', edges: ['edge[block/end(base-0) | block/side(gone)]'], body: 'b' });
    const { step } = build(kernel, part);
    expect(step('block')?.status).toBe('done');
    expect(step('round')).toMatchObject({ status: 'failed', problem: { lost: 'edge[block/end(base-0) | block/side(gone)]' } });
  });
});

describe('patterns and mirrors', () => {
  const slotted = () =>
    PartBuilder.block('200 mm', '30 mm', '5 mm')
      .sketch('slot', { body: 'b', face: TOP })
      .rectangle('slot', '2 mm', '20 mm', [10, 5], [2, 20])
      .step({ type: 'extrude', id: 'cut', sketch: 'slot', operation: 'remove', extent: 'through', body: 'b' });
  const plate = 200 * 30 * 5;

  test.each([
    ['by spacing', 'spacing', '4 mm'],
    ['first to last', 'span', '4 mm * (row_count - 1)'],
  ] as const)('linear, %s, with a count by formula', (_, spread, span) => {
    const part = slotted()
      .value('dents', '30', 'count')
      .step({ type: 'pattern', id: 'row', form: 'linear', of: ['cut'], along: 'x', spread, body: 'b' }, { count: 'dents', span });
    expect(relative(built(part).volume, plate - 30 * 200)).toBeLessThan(1e-9);
    part.set('dents', '12');
    expect(relative(built(part).volume, plate - 12 * 200)).toBeLessThan(1e-9);
    part.set('dents', '1');
    expect(relative(built(part).volume, plate - 200)).toBeLessThan(1e-9);
  });

  test('places are left out', () => {
    const part = slotted().step(
      { type: 'pattern', id: 'row', form: 'linear', of: ['cut'], along: 'x', spread: 'spacing', skip: [2, 5], body: 'b' },
      { count: '10', span: '6 mm' },
    );
    expect(relative(built(part).volume, plate - 8 * 200)).toBeLessThan(1e-9);
  });

  test('circular: teeth cut into a disc', () => {
    const part = new PartBuilder()
      .sketch('base')
      .circle('base', 'disc', '100 mm', [0, 0], 50)
      .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '10 mm' })
      .sketch('notch')
      .circle('notch', 'bore', '8 mm', [35, 0], 4)
      .step({ type: 'extrude', id: 'cut', sketch: 'notch', operation: 'remove', extent: 'through', body: 'b' })
      .value('teeth', '24', 'count')
      .step(
        { type: 'pattern', id: 'ring', form: 'circular', of: ['cut'], along: 'z', spread: 'spacing', body: 'b' },
        { count: 'teeth', span: '360 deg / teeth' },
      );
    for (const teeth of [24, 7]) {
      part.set('teeth', `${teeth}`);
      expect(relative(built(part).volume, Math.PI * 10 * (2500 - 16 * teeth))).toBeLessThan(1e-9);
    }
  });

  test('a mirrored hole, and a mirrored body', () => {
    const part = PartBuilder.block()
      .sketch('mark')
      .circle('mark', 'bore', '6 mm', [30, 15], 3)
      .step({ type: 'extrude', id: 'cut', sketch: 'mark', operation: 'remove', extent: 'through', body: 'b' })
      .step({ type: 'mirror', id: 'whole', of: [], plane: 'side', body: 'b' });
    const one = BLOCK - Math.PI * 9 * 20;
    expect(relative(built(part).volume, 2 * one)).toBeLessThan(1e-9);
    part.step({ type: 'datum', id: 'middle', from: 'side', turn: 'none' }, { offset: '20 mm' });
    part.step({ type: 'mirror', id: 'hole', of: ['cut'], plane: { datum: 'middle' }, body: 'b' });
    expect(relative(built(part).volume, 2 * one - Math.PI * 9 * 20)).toBeLessThan(1e-9);
  });

  test('what neither adds nor removes cannot be repeated', () => {
    const part = slotted()
      .step({ type: 'shell', id: 'hollow', faces: [TOP], body: 'b' }, { wall: '1 mm' })
      .step({ type: 'pattern', id: 'row', form: 'linear', of: ['hollow'], along: 'x', spread: 'spacing', body: 'b' });
    expect(build(kernel, part).step('row')?.problem?.message).toBe('row: hollow neither adds nor removes, so it cannot be repeated.');
  });
});

describe('several bodies', () => {
  test('a copy lands beside its original, and the two are combined', () => {
    const part = PartBuilder.block()
      .step({ type: 'place', id: 'copy', from: 'b', body: 'b2' }, { x: '30 mm' })
      .step({ type: 'combine', id: 'join', operation: 'add', tools: ['b2'], body: 'b' });
    const { volume, body } = built(part);
    expect(relative(volume, 70 * 30 * 20)).toBeLessThan(1e-9);
    expect(body('b2')).toMatchObject({ usedBy: 'join' });
  });

  test('a copy that would lie on its original is refused', () => {
    const part = PartBuilder.block().step({ type: 'place', id: 'copy', from: 'b', body: 'b2' });
    expect(build(kernel, part).step('copy')?.problem?.message).toBe('copy: the copy would lie exactly on b. Give it a distance or an angle.');
  });

  test('a body is turned about an axis', () => {
    const part = PartBuilder.block().step({ type: 'place', id: 'turned', about: 'z', body: 'b' }, { angle: '90 deg' });
    expect(built(part).body()?.properties?.box.min[0]).toBeCloseTo(-30, 4);
  });
});

describe('measured values', () => {
  test('the area of a region, the volume and mass of a body, a distance and an angle', () => {
    const part = PartBuilder.block()
      .measure('face_area', 'base', { of: 'region', what: 'area' })
      .measure('vol', 'block', { of: 'body', what: 'volume', body: 'b' })
      .measure('weight', 'block', { of: 'body', what: 'mass', body: 'b' })
      .measure('gap', 'block', { of: 'geometry', what: 'distance', body: 'b', on: ['block/side(base-0)', 'block/side(base-2)'] })
      .measure('corner', 'block', { of: 'geometry', what: 'angle', body: 'b', on: ['block/side(base-0)', 'block/side(base-1)'] })
      .measure('inertia', 'block', { of: 'body', what: 'inertia-z', body: 'b' });
    const { values } = built(part);
    expect(values.show('face_area')?.shown).toBe('1200 mm^2');
    expect(values.show('vol')?.shown).toBe('24000 mm^3');
    expect(values.show('weight')?.shown).toBe('0.188 kg');
    expect(values.show('gap')?.shown).toBe('30 mm');
    expect(values.show('corner')?.shown).toBe('90°');
    expect(values.sheet.readNumber('inertia') / 1e16 / ((0.1884 * (1600 + 900)) / 12)).toBeCloseTo(1, 9);
  });

  test('how far two holes are apart: by the shortest way, along each axis, and from axis to axis', () => {
    const holes = ['cut/side(a)', 'cut/side(c)'];
    const part = PartBuilder.block()
      .sketch('bores')
      .circle('bores', 'a', '6 mm', [10, 8], 3)
      .circle('bores', 'c', '8 mm', [28, 20], 4)
      .step({ type: 'extrude', id: 'cut', sketch: 'bores', operation: 'remove', extent: 'through', body: 'b' }, {});
    for (const what of ['distance', 'distance-x', 'distance-y', 'distance-z', 'axis-distance'] as const)
      part.measure(what.replaceAll('-', '_'), 'cut', { of: 'geometry', what, body: 'b', on: holes });
    part.measure('flat', 'cut', { of: 'geometry', what: 'axis-distance', body: 'b', on: [holes[0] ?? '', 'block/side(base-0)'] });
    part.measure('edges', 'cut', { of: 'geometry', what: 'distance-x', body: 'b', on: ['block/side(base-1)', 'block/side(base-3)'] });
    const { values } = built(part);
    const millimetres = (id: string): number => values.sheet.readNumber(id) / 10_000;
    const apart = Math.hypot(18, 12);
    expect(millimetres('axis_distance')).toBeCloseTo(apart, 9);
    expect(millimetres('distance')).toBeCloseTo(apart - 7, 6);
    expect(millimetres('distance_x')).toBeCloseTo((18 * (apart - 7)) / apart, 5);
    expect(millimetres('distance_y')).toBeCloseTo((12 * (apart - 7)) / apart, 5);
    expect(millimetres('distance_z')).toBeCloseTo(0, 5);
    expect(millimetres('edges')).toBeCloseTo(40, 6);
    expect(values.show('flat')?.diagnostics[0]?.message).toBe('Only round faces and edges have an axis.');
  });

  test('drive later steps in the same pass', () => {
    const part = PartBuilder.block()
      .measure('vol', 'block', { of: 'body', what: 'volume', body: 'b' })
      .sketch('pad', { body: 'b', face: TOP })
      .rectangle('pad', '10 mm', '10 mm', [5, 5], [10, 10])
      // A boss of a tenth of the block's volume.
      .step({ type: 'extrude', id: 'boss', sketch: 'pad', operation: 'add', extent: 'forward', body: 'b' }, { depth: 'vol / 10 / (10 mm * 10 mm)' });
    expect(relative(built(part).volume, 1.1 * BLOCK)).toBeLessThan(1e-9);
    part.set('block_depth', '45 mm');
    expect(relative(built(part).volume, 1.1 * 1200 * 45)).toBeLessThan(1e-9);
  });

  test('an inverse relation: a length from a wanted mass, in mixed units', () => {
    const part = PartBuilder.block('40 mm', '30 mm', '2 lb / (7.85 g/cm^3) / (base_w * base_h)');
    part.measure('weight', 'block', { of: 'body', what: 'mass', body: 'b' });
    // The pound is exactly 0.45359237 kg (NIST SP 811).
    expect(built(part).body()?.mass).toBeCloseTo(2 * 0.45359237, 9);
  });

  test('one that would drive what it is measured on is told as a cycle with its path', () => {
    const part = PartBuilder.block('40 mm', '30 mm', 'vol / (1200 mm^2)').measure('vol', 'block', { of: 'body', what: 'volume', body: 'b' });
    const { values, step } = build(kernel, part);
    expect(values.show('vol')?.diagnostics[0]?.message).toBe('This value depends on itself: vol → step block → block_depth → vol.');
    expect(step('block')?.status).toBe('waiting');
  });

  test('a reference dimension reads what the sketch is solved to', () => {
    const part = new PartBuilder().sketch('base').rectangle('base', '40 mm', '30 mm');
    part.do({
      type: 'sketch.draw',
      sketch: 'base',
      entities: [],
      constraints: [],
      dimensions: [
        { type: 'dimension', id: 'diagonal', sketch: 'base', kind: 'length', on: ['base-p0', 'base-p2'], parameter: 'across', at: [0, 0], isReference: true },
      ],
      values: [{ type: 'parameter', id: 'across', owner: 'base', name: 'across', formula: { text: '1 mm' }, kind: 'length' }],
    });
    part.value('half', 'across / 2');
    const { values } = built(part);
    expect(values.show('across')?.shown).toBe('50 mm');
    expect(values.show('half')?.shown).toBe('25 mm');
  });
});

test('changing the last step rebuilds that one alone; the rest comes from cache', () => {
  const regenerator = new Regenerator(kernel);
  const part = PartBuilder.block()
    .step({ type: 'shell', id: 'hollow', faces: [TOP], body: 'b' }, { wall: '2 mm' })
    .step({ type: 'fillet', id: 'round', edges: ['edge[block/side(base-0) | block/side(base-1)]'], body: 'b' }, { radius: '1 mm' });
  expect(build(kernel, part, regenerator).rebuilt).toBe(4);
  part.set('round_radius', '1.5 mm');
  expect(build(kernel, part, regenerator)).toMatchObject({ rebuilt: 1 });
});

test('a suppressed step is left out, and what needs it waits', () => {
  const part = PartBuilder.block().step({ type: 'shell', id: 'hollow', faces: [TOP], body: 'b' }, { wall: '2 mm' });
  const { document } = part;
  const shell = document.records['hollow'];
  if (shell?.type !== 'shell') throw new Error('no shell');
  part.do({ type: 'step.update', step: { ...shell, suppressed: { text: 'block_depth > 15 mm' } }, values: [] });
  expect(relative(built(part).volume, BLOCK)).toBeLessThan(1e-9);
  part.set('block_depth', '15 mm');
  expect(relative(built(part).volume, 1200 * 15 - 36 * 26 * 13)).toBeLessThan(1e-9);
});
