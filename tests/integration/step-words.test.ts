/** What steps say of what they cannot do, and of what they did though it is hardly meant. */
import { findStep } from '@/core/document';
import type { KernelPort } from '@/core/kernel-port';
import { createKernel } from '@/kernel/create-kernel';
import { relative } from '../support/kernel-shapes';
import { build, PartBuilder } from '../support/part-builder';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

const EDGE = 'edge[block/side(base-1) | block/side(base-2)]';
const said = (part: PartBuilder, step: string): string => build(kernel, part).step(step)?.problem?.message ?? 'done';
const warned = (part: PartBuilder, step: string): readonly string[] =>
  build(kernel, part)
    .step(step)
    ?.warnings?.map(({ message }) => message) ?? [];

const hole = (part: PartBuilder, diameter: string, at: readonly [number, number] = [15, 10]): PartBuilder =>
  part.sketch('marks').points('marks', at).step({ type: 'hole', id: 'drill', sketch: 'marks', form: 'simple', extent: 'through', body: 'b' }, { diameter });
const cut = (part: PartBuilder, at: readonly [number, number], size: readonly [number, number] = [5, 5]): PartBuilder =>
  part
    .sketch('s')
    .rectangle('s', `${size[0]} mm`, `${size[1]} mm`, at, size)
    .step({ type: 'extrude', id: 'cut', sketch: 's', operation: 'remove', extent: 'through', body: 'b' });

describe('refusals name the value that is to blame', () => {
  test.each([
    [
      'a depth beyond all measure',
      PartBuilder.block('40 mm', '30 mm', '1e300 mm'),
      'block',
      /^block: block_depth = 1e\+300 mm is too large; the most is 10 km\.$/,
    ],
    ['a dimension of zero', PartBuilder.block('0 mm'), 'base', 'base: base_w = 0 mm, but must be above zero.'],
    ['a negative dimension', PartBuilder.block('-5 mm'), 'base', 'base: base_w = -5 mm, but must be above zero.'],
    ['a dimension beyond all measure', PartBuilder.block('1e9 mm'), 'base', 'base: base_w = 1000000000 mm is too large; the most is 10 km.'],
    ['a negative diameter', new PartBuilder().sketch('base').circle('base', 'disc', '-3 mm', [0, 0]), 'base', 'base: disc_d = -3 mm, but must be above zero.'],
    [
      'depths that take each other back',
      new PartBuilder()
        .sketch('base')
        .rectangle('base', '9 mm', '9 mm')
        .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'both', body: 'b' }, { depth: '20 mm', back: '-20 mm' }),
      'block',
      'block: block_depth = 20 mm and block_back = -20 mm; together they leave no depth.',
    ],
    [
      'the second distance of a chamfer',
      PartBuilder.block().step({ type: 'chamfer', id: 'c', form: 'two-distances', edges: [EDGE], body: 'b' }, { distance: '2 mm', second: '500 mm' }),
      'c',
      /^c: c_second = 500 mm does not fit; the most that fits is about 39\.\d mm\.$/,
    ],
    [
      'a second distance of zero',
      PartBuilder.block().step({ type: 'chamfer', id: 'c', form: 'two-distances', edges: [EDGE], body: 'b' }, { distance: '2 mm', second: '0 mm' }),
      'c',
      'c: c_second = 0 mm, but must be above zero.',
    ],
    [
      'an angle that is too flat',
      PartBuilder.block().step({ type: 'chamfer', id: 'c', form: 'distance-angle', edges: [EDGE], body: 'b' }, { distance: '2 mm', angle: '90 deg' }),
      'c',
      'c: c_angle = 90°, but must lie between 0° and 90°.',
    ],
    [
      'a radius: what is offered is less',
      PartBuilder.block().step({ type: 'fillet', id: 'f', edges: [EDGE], body: 'b' }, { radius: '30 mm' }),
      'f',
      /^f: f_radius = 30 mm does not fit; the most that fits is about 29\.\d mm\.$/,
    ],
    [
      'a shell that is open on every side',
      PartBuilder.block().step(
        {
          type: 'shell',
          id: 's',
          faces: ['block/start(base-0)', 'block/end(base-0)', ...[0, 1, 2, 3].map((i) => `block/side(base-${i})`)],
          body: 'b',
        },
        { wall: '2 mm' },
      ),
      's',
      's: every face is left open; a wall needs one that is not.',
    ],
    [
      'a flat countersink',
      PartBuilder.block()
        .sketch('marks')
        .points('marks', [10, 10])
        .step(
          { type: 'hole', id: 'drill', sketch: 'marks', form: 'countersink', extent: 'through', body: 'b' },
          { diameter: '5 mm', head: '10 mm', cone: '180 deg' },
        ),
      'drill',
      'drill: drill_cone = 180°, but a countersink must be below 180°.',
    ],
    [
      'a bore wider than its rod',
      hole(
        new PartBuilder()
          .sketch('base')
          .circle('base', 'rod', '10 mm', [0, 0])
          .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '22 mm' }),
        '12 mm',
        [0, 0],
      ),
      'drill',
      'drill: Nothing is left of the body.',
    ],
  ])('%s', (_, part, step, expected) => {
    if (expected instanceof RegExp) expect(said(part, step)).toMatch(expected);
    else expect(said(part, step)).toBe(expected);
  });

  test('a rod of 10 mm with a cut of 12 mm drawn round it', () => {
    const part = new PartBuilder()
      .sketch('base')
      .circle('base', 'rod', '10 mm', [0, 0])
      .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '22 mm' })
      .sketch('s')
      .circle('s', 'bore', '12 mm', [0, 0], 6)
      .step({ type: 'extrude', id: 'cut', sketch: 's', operation: 'remove', extent: 'through', body: 'b' });
    expect(said(part, 'cut')).toBe('cut: Nothing is left of the body.');
  });

  test('a condition with an error builds the step in neither way', () => {
    const part = cut(PartBuilder.block(), [5, 5]);
    const step = findStep(part.document, 'cut');
    if (step) part.do({ type: 'step.update', step: { ...step, suppressed: { text: 'nowhere > 3' } }, values: [] });
    expect(said(part, 'cut')).toBe('cut: the condition for leaving it out has an error. There is no value named nowhere here.');
    expect(build(kernel, part).body()?.properties).toBeUndefined();
  });
});

/** A square hole in a block of 40 mm, repeated along x. */
function row(count: string, spacing: string): PartBuilder {
  return cut(PartBuilder.block(), [5, 5]).step(
    { type: 'pattern', id: 'row', form: 'linear', of: ['cut'], along: 'x', spread: 'spacing', body: 'b' },
    { count, span: spacing },
  );
}

describe('what is built and hardly meant is a warning', () => {
  test.each([
    ['a cut beside the body', cut(PartBuilder.block(), [100, 100]), 'cut', ['cut changes nothing: what it would take away does not meet the body.']],
    [
      'a hole beside the body',
      hole(PartBuilder.block(), '5 mm', [100, 100]),
      'drill',
      ['drill changes nothing: what it would take away does not meet the body.'],
    ],
    ['a cut through the middle', cut(PartBuilder.block(), [15, -5], [5, 60]), 'cut', ['cut leaves the body in 2 pieces that do not hang together.']],
    ['a cut that is fine', cut(PartBuilder.block(), [5, 5]), 'cut', []],
    [
      'a boss in the air',
      PartBuilder.block()
        .sketch('s')
        .rectangle('s', '5 mm', '5 mm', [100, 0], [5, 5])
        .step({ type: 'extrude', id: 'boss', sketch: 's', operation: 'add', extent: 'forward', body: 'b' }, { depth: '5 mm' }),
      'boss',
      ['boss adds a piece that does not touch the body.'],
    ],
    ['copies beside the body', row('5', '15 mm'), 'row', ['row: places 4, 5 change nothing; copies there do not meet the body.']],
    ['all copies beside the body', row('5', '60 mm'), 'row', ['row changes nothing: the body is as it was before.']],
    ['copies that all meet the body', row('3', '15 mm'), 'row', []],
    [
      'a copied boss within another one',
      PartBuilder.block()
        .sketch('s')
        .rectangle('s', '5 mm', '5 mm', [2, 2], [5, 5])
        .step({ type: 'extrude', id: 'boss', sketch: 's', operation: 'add', extent: 'centred', body: 'b' }, { depth: '10 mm' })
        .step({ type: 'pattern', id: 'row', form: 'linear', of: ['boss'], along: 'z', spread: 'spacing', body: 'b' }, { count: '3', span: '8 mm' }),
      'row',
      ['row: place 2 changes nothing; copies there lie within the body.'],
    ],
  ])('%s', (_, part, step, expected) => {
    expect(said(part, step)).toBe('done');
    expect(warned(part, step)).toEqual(expected);
  });

  test('a hole that overtakes the circle around it', () => {
    const part = new PartBuilder().sketch('base').circle('base', 'rim', '40 mm', [0, 0], 20).circle('base', 'bore', '20 mm', [0, 0], 10);
    expect(warned(part, 'base')).toEqual([]);
    expect(warned(part.set('bore_d', '60 mm'), 'base')).toEqual([
      'An outline has overtaken the one around it: what was drawn as a hole is solid now, or the other way round.',
    ]);
  });
});

describe('a body that has no mass says why', () => {
  const massOf = (body: Record<string, unknown>): unknown => {
    const part = PartBuilder.block().do({ type: 'body.put', body: { type: 'body', id: 'b', name: 'Board', material: 'Steel', ...body } });
    const found = build(kernel, part).body();
    return found?.massProblem ?? found?.mass;
  };
  test.each([
    [{}, expect.closeTo(40 * 30 * 20 * 7.85e-6, 9)],
    [{ material: 'Unobtainium' }, 'Unobtainium has no known density; choose one, or give Board a density of its own.'],
    [{ density: { text: '-7.85 g/cm^3' } }, 'The density of Board must be above zero.'],
    [{ density: { text: '7.85 kg' } }, 'The density of Board has an error: This is a mass (kg); the density of Board needs a density.'],
  ])('%j', (body, expected) => {
    expect(massOf(body)).toEqual(expected);
  });
});

describe('copies of what goes through go through', () => {
  /** A plate 10 mm thick and a block of 30 mm beside it. */
  const stepped = (): PartBuilder =>
    new PartBuilder()
      .sketch('base')
      .rectangle('base', '80 mm', '40 mm', [0, 0], [80, 40])
      .step({ type: 'extrude', id: 'plate', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '10 mm' });
  const tower = (part: PartBuilder): PartBuilder =>
    part
      .sketch('high')
      .rectangle('high', '40 mm', '40 mm', [40, 0], [40, 40])
      .step({ type: 'extrude', id: 'tower', sketch: 'high', operation: 'add', extent: 'forward', body: 'b' }, { depth: '30 mm' });
  const solid = 80 * 40 * 10 + 40 * 40 * 20;

  test.each(['row', 'mirror'] as const)('%s of a cut through the thinner part', (kind) => {
    const cutting = tower(
      stepped()
        .sketch('s')
        .rectangle('s', '6 mm', '6 mm', [15, 15], [6, 6])
        .step({ type: 'extrude', id: 'cut', sketch: 's', operation: 'remove', extent: 'through', body: 'b' }),
    );
    const part =
      kind === 'row'
        ? cutting.step({ type: 'pattern', id: 'row', form: 'linear', of: ['cut'], along: 'x', spread: 'spacing', body: 'b' }, { count: '2', span: '40 mm' })
        : cutting
            .step({ type: 'datum', id: 'middle', from: 'side', turn: 'none' }, { offset: '40 mm' })
            .step({ type: 'mirror', id: 'row', of: ['cut'], plane: { datum: 'middle' }, body: 'b' });
    const { volume, steps } = build(kernel, part);
    expect(steps.map(({ problem }) => problem)).toEqual(steps.map(() => undefined));
    expect(relative(volume, solid - 36 * 10 - 36 * 30)).toBeLessThan(1e-9);
  });

  test.each([
    ['simple', {}, 0],
    ['counterbore', { head: '8 mm', seat: '3 mm' }, (16 - 4) * Math.PI * 3],
  ] as const)('a row of holes, %s', (form, sizes, seat) => {
    // From below, so that the copy has to reach higher than its original did.
    const part = tower(
      stepped()
        .sketch('marks')
        .points('marks', [20, 20])
        .step({ type: 'hole', id: 'drill', sketch: 'marks', form, extent: 'through', body: 'b' }, { diameter: '4 mm', ...sizes }),
    ).step({ type: 'pattern', id: 'row', form: 'linear', of: ['drill'], along: 'x', spread: 'spacing', body: 'b' }, { count: '2', span: '40 mm' });
    expect(relative(build(kernel, part).volume, solid - 4 * Math.PI * 40 - 2 * seat)).toBeLessThan(1e-9);
  });

  test('a pattern of a pattern goes through as well', () => {
    const part = tower(
      stepped()
        .sketch('s')
        .rectangle('s', '4 mm', '4 mm', [10, 10], [4, 4])
        .step({ type: 'extrude', id: 'cut', sketch: 's', operation: 'remove', extent: 'through', body: 'b' })
        .step({ type: 'pattern', id: 'pair', form: 'linear', of: ['cut'], along: 'y', spread: 'spacing', body: 'b' }, { count: '2', span: '12 mm' }),
    ).step({ type: 'pattern', id: 'row', form: 'linear', of: ['pair'], along: 'x', spread: 'spacing', body: 'b' }, { count: '2', span: '40 mm' });
    const result = build(kernel, part);
    // The original pair, 10 deep, and the copy of its second one through 30.
    expect(relative(result.volume, solid - 2 * 16 * 10 - 16 * 30)).toBeLessThan(1e-9);
  });
});

describe('a sweep that would run through itself', () => {
  const rod = (size: number, ...path: readonly (readonly [number, number])[]): PartBuilder =>
    new PartBuilder()
      .sketch('square')
      .rectangle('square', `${size} mm`, `${size} mm`, [-size / 2, -size / 2], [size, size])
      .sketch('path', 'front')
      .chain('path', ...path)
      .step({ type: 'sweep', id: 'rod', sketch: 'square', path: 'path', operation: 'start', body: 'b' });

  test.each([
    ['crosses itself', rod(2, [0, 0], [0, 50], [40, 50], [40, 20], [-20, 20]), /the path crosses itself/, ['path-0', 'path-3']],
    ['touches itself with its end', rod(2, [0, 0], [0, 50], [40, 50], [40, 20], [0, 20]), /the path crosses itself/, ['path-0', 'path-3']],
    ['comes back too close', rod(8, [0, 0], [0, 50], [20, 50], [20, 20], [2, 20]), /closer than the profile is wide/, ['path-0', 'path-3']],
  ])('%s', (_, part, message, about) => {
    const problem = build(kernel, part).step('rod')?.problem;
    expect(problem?.message).toMatch(message);
    expect(problem?.about).toEqual(about);
  });

  test('one that keeps clear is built', () => {
    const part = rod(8, [0, 0], [0, 50], [20, 50], [20, 20], [12, 20]);
    expect(relative(build(kernel, part).volume, 64 * (50 + 20 + 30 + 8))).toBeLessThan(1e-9);
  });
});

describe('a horizontal dimension keeps its side', () => {
  /** A point at the left of the origin, its distance a dimension made from either end. */
  const pointAt = (on: string[]): PartBuilder =>
    new PartBuilder().sketch('s').do({
      type: 'sketch.draw',
      sketch: 's',
      entities: [{ type: 'point', id: 'p', sketch: 's', x: -12.66, y: 4 }],
      constraints: [],
      dimensions: [{ type: 'dimension', id: 'd', sketch: 's', kind: 'horizontal', on, parameter: 'reach', at: [0, 0] }],
      values: [{ type: 'parameter', id: 'reach', owner: 's', name: 'reach', formula: { text: '12.66 mm' }, kind: 'length' }],
    });
  const placeOf = (part: PartBuilder): number => build(kernel, part).step('s')?.sketch?.points['p']?.[0] ?? NaN;

  test.each([[['origin', 'p']], [['p', 'origin']]])('made on %j', (on) => {
    const part = pointAt(on);
    expect(placeOf(part)).toBeCloseTo(-12.66, 9);
    expect(placeOf(part.set('reach', '-5 mm'))).toBeCloseTo(5, 9);
    // The drawn shape moves over to where it is solved now, as it does with the next thing drawn: nothing turns over.
    part.do({ type: 'sketch.reshape', sketch: 's', points: { p: [5, 4] }, radii: {} });
    expect(placeOf(part)).toBeCloseTo(5, 9);
    expect(placeOf(part.set('reach', '7 mm'))).toBeCloseTo(-7, 9);
  });
});
