/**
 * The piece that was picked, or none: a face or an edge that is cut into pieces is told by what lies beside it. Every case has a closed form;
 * what a reference must not do is act on another piece.
 */
import type { Point3 } from '@/core/geometry';
import type { KernelPort } from '@/core/kernel-port';
import { createKernel } from '@/kernel/create-kernel';
import { build, PartBuilder } from '../support/part-builder';
import { block, BLOCK_TOP as TOP, pickOf, place } from '../support/picked-parts';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

/** A groove along y from the top, 10 wide and 5 deep, at `gx`. */
function groove(part: PartBuilder, id = 'groove', gx = 'gx'): PartBuilder {
  part.sketch(id, { body: 'b', face: TOP });
  place(part, id, gx, '90 mm', '10 mm', '80 mm', [150, 90, 10, 80]);
  return part.step({ type: 'extrude', id: `${id}_cut`, sketch: id, operation: 'remove', extent: 'forward', isReversed: true, body: 'b' }, { depth: '5 mm' });
}

const grooved = (): PartBuilder => groove(block().value('gx', '150 mm'));

const pick = (part: PartBuilder, kind: 'edge' | 'face', at: Point3): string => pickOf(kernel, part, kind, at);

const R = 2;
/** What a fillet of 2 mm takes away along a length. */
const rounded = (length: number): number => (1 - Math.PI / 4) * R * R * length;
const fillet = (part: PartBuilder, edge: string, id = 'soft'): PartBuilder =>
  part.step({ type: 'fillet', id, edges: [edge], body: 'b' }, { radius: `${R} mm` });

/** The volume of the part, or what a step of it says that is not built. */
function outcome(part: PartBuilder, step = 'soft'): number | string {
  const built = build(kernel, part);
  const found = built.step(step);
  return found?.status === 'done' ? built.volume : (found?.problem?.message ?? found?.status ?? 'not there');
}

const GONE = expect.stringMatching(
  /^soft: An edge that it was made on is no longer there \(edge between end of block and side 1 of block, beside .*\)\.$/,
) as string;
const BLOCK = 100 * 60 * 20;
const suppress = (part: PartBuilder, id: string, is = true): PartBuilder => {
  const step = part.document.records[id];
  if (step?.type !== 'extrude') throw new Error(`no extrusion ${id}`);
  const { suppressed: _, ...rest } = step;
  return part.do({ type: 'step.update', step: is ? { ...step, suppressed: { text: 'yes' } } : rest, values: [] });
};

describe('the south edge of the land right of a groove', () => {
  const part = (): PartBuilder => {
    const made = grooved();
    return fillet(made, pick(made, 'edge', [180, 100, 20]));
  };

  test.each([
    [150, 40],
    [120, 70],
    [105, 85],
    [188, 2],
  ])('groove at %s: its %s mm are rounded', (gx, length) => {
    expect(outcome(part().set('gx', `${gx} mm`))).toBeCloseTo(BLOCK - 10 * 60 * 5 - rounded(length), 4);
  });

  test.each([192, 195, 199])('groove at %s: it is gone, and nothing else is rounded', (gx) => {
    expect(outcome(part().set('gx', `${gx} mm`))).toEqual(GONE);
  });

  test('the groove is left out: the whole edge is rounded; and comes back', () => {
    const made = suppress(part(), 'groove_cut');
    expect(outcome(made)).toBeCloseTo(BLOCK - rounded(100), 4);
    expect(outcome(suppress(made, 'groove_cut', false))).toBeCloseTo(BLOCK - 10 * 60 * 5 - rounded(40), 4);
  });

  test('there and back, and over the other side', () => {
    const made = part();
    for (const gx of [192, 150, 95, 150]) {
      const length = gx === 95 ? 95 : 40;
      const cut = gx === 95 ? 5 * 60 * 5 : 10 * 60 * 5;
      const found = outcome(made.set('gx', `${gx} mm`));
      // With its left land gone the groove is a step at the edge; what is right of it is still there.
      expect(found).toEqual(gx === 192 ? GONE : expect.closeTo(BLOCK - cut - rounded(length), 4));
    }
  });

  test('the block grows to the right and in depth', () => {
    const made = part().set('base_w', '120 mm').set('base_h', '70 mm');
    expect(outcome(made)).toBeCloseTo(120 * 70 * 20 - 10 * 70 * 5 - rounded(60), 4);
  });
});

describe('a land between grooves', () => {
  /** A groove at 120 that is left out, then one at 150: what is right of the latter is rounded. */
  const late = (): PartBuilder => {
    const made = groove(suppress(groove(block().value('gx', '150 mm').value('early', '120 mm'), 'first', 'early'), 'first_cut'));
    return fillet(made, pick(made, 'edge', [180, 100, 20]));
  };

  test('an earlier groove that is restored cuts another land', () => {
    expect(outcome(late())).toBeCloseTo(BLOCK - 3000 - rounded(40), 4);
    expect(outcome(suppress(late(), 'first_cut', false))).toBeCloseTo(BLOCK - 6000 - rounded(40), 4);
  });

  const row = (): PartBuilder => {
    const made = groove(block().value('gx', '110 mm')).step(
      { type: 'pattern', id: 'row', form: 'linear', of: ['groove_cut'], along: 'x', spread: 'spacing', body: 'b' },
      { count: '3', span: '25 mm' },
    );
    // Grooves at 110, 135 and 160: the third land is between the second and the third of them.
    return fillet(made, pick(made, 'edge', [152, 100, 20]));
  };

  test.each([
    ['as it is', (part: PartBuilder) => part, BLOCK - 9000 - rounded(15)],
    ['wider apart', (part: PartBuilder) => part.set('row_span', '30 mm'), BLOCK - 9000 - rounded(20)],
    ['the first one pushed off the end', (part: PartBuilder) => part.set('gx', '90 mm'), BLOCK - 6000 - rounded(15)],
    ['four of them', (part: PartBuilder) => part.set('row_count', '4').set('row_span', '22 mm'), BLOCK - 12_000 - rounded(12)],
    ['two of them: there is no such land', (part: PartBuilder) => part.set('row_count', '2'), GONE],
    ['one of them: there is no such land', (part: PartBuilder) => part.set('row_count', '1'), GONE],
  ] as const)('%s', (_, change, expected) => {
    expect(outcome(change(row()))).toEqual(typeof expected === 'number' ? expect.closeTo(expected, 4) : expected);
  });
});

describe('edges that share both their faces', () => {
  /** A notch from the south, 10 wide, 8 in and through: the south edge of the top is in two, and so is the face. */
  const notched = (depth = '6 mm'): PartBuilder => {
    const part = block().value('nx', '140 mm').sketch('notch', { body: 'b', face: TOP });
    place(part, 'notch', 'nx', '95 mm', '10 mm', '13 mm', [140, 95, 10, 13]);
    return part.step({ type: 'extrude', id: 'notch_cut', sketch: 'notch', operation: 'remove', extent: 'forward', isReversed: true, body: 'b' }, { depth });
  };

  test.each([
    [120, 40],
    [170, 50],
  ])('the one at %s is rounded alone', (x, length) => {
    const part = notched();
    const before = build(kernel, part).volume;
    fillet(part, pick(part, 'edge', [x, 100, 20]));
    expect(outcome(part)).toBeCloseTo(before - rounded(length), 4);
    const moved = x === 120 ? length + 20 : length - 20;
    expect(outcome(part.set('nx', '160 mm'))).toBeCloseTo(before - rounded(moved), 4);
  });

  test('each is measured by itself, both together where the edge was picked whole', () => {
    const whole = pick(block(), 'edge', [120, 100, 20]);
    const part = notched();
    const [left, right] = [pick(part, 'edge', [120, 100, 20]), pick(part, 'edge', [170, 100, 20])];
    for (const [id, name] of Object.entries({ left, right, whole })) part.measure(id, 'notch_cut', { of: 'geometry', what: 'length', body: 'b', on: [name] });
    const { values } = build(kernel, part);
    expect(['left', 'right', 'whole'].map((id) => values.sheet.readNumber(id) / 1e4)).toEqual(
      [40, 50, 90].map((length) => expect.closeTo(length, 6) as number),
    );
  });
});

test('a face that was picked whole is measured whole when it is cut in two', () => {
  const part = grooved();
  part.measure('area', 'groove_cut', { of: 'geometry', what: 'area', body: 'b', on: [TOP] });
  expect(build(kernel, part).values.sheet.readNumber('area') / 1e8).toBeCloseTo(90 * 60, 6);
});

describe('halves of a disc with a groove across it that turns', () => {
  /** Radius 50; the groove is 10 wide and 4 off the middle, so that the halves are of two sizes. */
  const disc = (angle: string): PartBuilder => {
    const part = new PartBuilder()
      .value('turn', angle, 'angle')
      .sketch('base')
      .circle('base', 'rim', '100 mm', [0, 0], 50)
      .step({ type: 'extrude', id: 'disc', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '10 mm' })
      .sketch('groove')
      .rectangle('groove', '140 mm', '10 mm', [-70, 4], [140, 10])
      .step({ type: 'extrude', id: 'bar', sketch: 'groove', operation: 'start', extent: 'forward', body: 'tool' }, { depth: '40 mm' })
      .step({ type: 'place', id: 'turned', body: 'tool', about: 'z' }, { z: '6 mm', angle: 'turn' })
      .step({ type: 'combine', id: 'cut', operation: 'remove', tools: ['tool'], body: 'b' });
    return part;
  };

  test.each([10, 60, 0, -5, -90, 179])('at %s degrees the smaller one is measured', (degrees) => {
    const part = disc('10 deg');
    const c = Math.cos((10 * Math.PI) / 180);
    const s = Math.sin((10 * Math.PI) / 180);
    part.measure('area', 'cut', { of: 'geometry', what: 'area', body: 'b', on: [pick(part, 'face', [-30 * s, 30 * c, 10])] });
    part.set('turn', `${degrees} deg`);
    // A segment of the circle beyond 14 mm from its middle.
    const expected = 2500 * Math.acos(14 / 50) - 14 * Math.sqrt(2500 - 14 * 14);
    expect(build(kernel, part).values.sheet.readNumber('area') / 1e8).toBeCloseTo(expected, 3);
  });
});

describe('a chamfer with two distances', () => {
  const EDGE = (part: PartBuilder): string => pick(part, 'edge', [150, 100, 20]);
  const chamfered = (part: PartBuilder, edge: string): PartBuilder =>
    part.step({ type: 'chamfer', id: 'soft', edges: [edge], form: 'two-distances', body: 'b' }, { distance: '3 mm', second: '7 mm' });
  const centreOf = (part: PartBuilder): readonly number[] => build(kernel, part).body()?.properties?.centre ?? [];

  test.each([
    [
      'a pocket',
      (part: PartBuilder) =>
        place(part.sketch('pocket', { body: 'b', face: TOP }), 'pocket', '120 mm', '130 mm', '20 mm', '10 mm').step(
          { type: 'extrude', id: 'dip', sketch: 'pocket', operation: 'remove', extent: 'forward', isReversed: true, body: 'b' },
          { depth: '4 mm' },
        ),
    ],
    ['a fillet elsewhere', (part: PartBuilder) => fillet(part, pick(part, 'edge', [150, 160, 20]), 'back')],
    [
      'a boss',
      (part: PartBuilder) =>
        place(part.sketch('boss', { body: 'b', face: TOP }), 'boss', '120 mm', '130 mm', '20 mm', '10 mm').step(
          { type: 'extrude', id: 'stud', sketch: 'boss', operation: 'add', extent: 'forward', body: 'b' },
          { depth: '4 mm' },
        ),
    ],
  ] as const)('keeps its sides behind %s', (_, before) => {
    const plain = block();
    const alone = centreOf(plain);
    const cut = centreOf(chamfered(block(), EDGE(plain)));
    const other = before(block());
    const without = centreOf(other);
    const volume = build(kernel, other).volume;
    const both = centreOf(chamfered(before(block()), EDGE(other)));
    // The same wedge is taken away: what that does to the first moments is the same.
    const wedge = (3 * 7 * 100) / 2;
    const moment = (of: readonly number[], v: number, then: readonly number[], w: number): number[] => [1, 2].map((i) => (of[i] ?? 0) * v - (then[i] ?? 0) * w);
    const expected = moment(alone, BLOCK, cut, BLOCK - wedge);
    moment(without, volume, both, volume - wedge).forEach((value, i) => expect(value).toBeCloseTo(expected[i] ?? NaN, 1));
  });
});

describe('faces that became one answer to each of their names', () => {
  /** A boss beside the block, flush with its top and its south side. */
  const flush = (height = '20 mm'): PartBuilder => {
    const part = block();
    const name = pick(part, 'face', [150, 130, 20]);
    part.sketch('boss');
    place(part, 'boss', '200 mm', '100 mm', '30 mm', '60 mm', [200, 100, 30, 60]);
    return part
      .step({ type: 'extrude', id: 'wing', sketch: 'boss', operation: 'add', extent: 'forward', body: 'b' }, { depth: height })
      .measure('area', 'wing', { of: 'geometry', what: 'area', body: 'b', on: [name] });
  };
  const areaOf = (part: PartBuilder): number => build(kernel, part).values.sheet.readNumber('area') / 1e8;

  test('a boss that is flush, higher, lower, and flush again', () => {
    const part = flush();
    expect(areaOf(part)).toBeCloseTo(130 * 60, 6);
    for (const height of ['25 mm', '15 mm']) expect(areaOf(part.set('wing_depth', height))).toBeCloseTo(100 * 60, 6);
    expect(areaOf(part.set('wing_depth', '20 mm'))).toBeCloseTo(130 * 60, 6);
  });

  test('what was picked while they were one is both when they are two', () => {
    const part = flush();
    const name = pick(part, 'face', [215, 130, 20]);
    part.measure('both', 'wing', { of: 'geometry', what: 'area', body: 'b', on: [name] });
    const both = (): number => build(kernel, part).values.sheet.readNumber('both') / 1e8;
    expect(both()).toBeCloseTo(130 * 60, 6);
    part.set('wing_depth', '12 mm');
    expect(both()).toBeCloseTo(130 * 60, 6);
  });

  test('the edge of a flush side is rounded as far as it goes', () => {
    const part = flush();
    const edge = pick(block(), 'edge', [150, 100, 20]);
    const before = build(kernel, part).volume;
    expect(outcome(fillet(part, edge))).toBeCloseTo(before - rounded(130), 4);
    expect(outcome(part.set('wing_depth', '12 mm'))).toBeCloseTo(BLOCK + 30 * 60 * 12 - rounded(100), 4);
  });

  test('a mirror image that meets its original, and one that stands off', () => {
    const part = new PartBuilder().value('off', '0 mm', 'length').sketch('base');
    place(part, 'base', 'off', '0 mm', '40 mm', '30 mm', [0, 0, 40, 30]);
    part
      .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '20 mm' })
      .step({ type: 'mirror', id: 'twin', of: [], plane: 'side', body: 'b' })
      .measure('area', 'twin', { of: 'geometry', what: 'area', body: 'b', on: [TOP] })
      .measure('image', 'twin', { of: 'geometry', what: 'area', body: 'b', on: [`twin/1:${TOP}`] });
    const areas = (): number[] => ['area', 'image'].map((id) => build(kernel, part).values.sheet.readNumber(id) / 1e8);
    expect(areas()).toEqual([2400, 2400].map((area) => expect.closeTo(area, 6) as number));
    part.set('off', '5 mm');
    expect(areas()).toEqual([1200, 1200].map((area) => expect.closeTo(area, 6) as number));
  });
});

test('a cap is the same one, whatever its outline is called and whether there is another', () => {
  const part = block();
  for (const [id, on] of Object.entries({ plain: 'block/end', older: 'block/end(base-3)' })) {
    part.measure(id, 'block', { of: 'geometry', what: 'area', body: 'b', on: [on] });
  }
  const areas = (): number[] => ['plain', 'older'].map((id) => build(kernel, part).values.sheet.readNumber(id) / 1e8);
  expect(areas()).toEqual([6000, 6000].map((area) => expect.closeTo(area, 6) as number));
  part.circle('base', 'zero', '20 mm', [300, 130], 10);
  const both = 6000 + 100 * Math.PI;
  expect(areas()[0]).toBeCloseTo(both, 6);
  // Told by an outline that is not the first one, it is none of them.
  expect(areas()[1]).toBeNaN();
  part.do({ type: 'sketch.erase', sketch: 'base', ids: ['zero', 'zero-c'], readers: { mode: 'numbers', numbers: { zero_d: '20 mm' } } });
  expect(areas()).toEqual([6000, 6000].map((area) => expect.closeTo(area, 6) as number));
});

test('a face that was picked whole is measured whole, however the body is turned before it is cut', () => {
  const part = PartBuilder.block().value('turn', '0 deg', 'angle').step({ type: 'place', id: 'turned', body: 'b', about: 'z' }, { angle: 'turn' });
  const top = pick(part, 'face', [20, 15, 20]);
  part.sketch('groove', 'front');
  place(part, 'groove', '-20 mm', '15 mm', '10 mm', '30 mm', [-20, 15, 10, 30]);
  part.step({ type: 'extrude', id: 'cut', sketch: 'groove', operation: 'remove', extent: 'through', isReversed: true, body: 'b' });
  part.measure('area', 'cut', { of: 'geometry', what: 'area', body: 'b', on: [top] });
  const area = (angle: number): number => build(kernel, part.set('turn', `${angle} deg`)).values.sheet.readNumber('area') / 1e8;
  // By hand: at 90 degrees the block lies from -30 to 0, and the groove takes 10 of its 30.
  expect([0, 90, 180, 0].map(area)).toEqual([1200, 800, 900, 1200].map((value) => expect.closeTo(value, 6) as number));
});

describe('a wall beside a boss that is flush with the bottom', () => {
  test.each([
    [1, 98 * 58 * 19 + 20 * 18 * 8],
    [3, 94 * 54 * 17 + 20 * 14 * 4],
    [8, 84 * 44 * 12],
  ])('of %s mm', (wall, cavity) => {
    const part = block().sketch('boss');
    place(part, 'boss', '190 mm', '120 mm', '30 mm', '20 mm', [190, 120, 30, 20]);
    part.step({ type: 'extrude', id: 'boss_added', sketch: 'boss', operation: 'add', extent: 'forward', body: 'b' }, { depth: '10 mm' });
    part.step({ type: 'shell', id: 'soft', faces: [TOP], body: 'b' }, { wall: `${wall} mm` });
    expect(outcome(part)).toBeCloseTo(BLOCK + 20 * 20 * 10 - cavity, 4);
  });
});

test('an edge that older documents tell by the piece of its face is the one that is told by its ends now', () => {
  const name = pick(grooved(), 'edge', [180, 100, 20]);
  const wall = /\{([^}]*)\}$/.exec(name)?.[1] ?? '';
  const older = name.replace(`{${wall}}`, '').replace('block/end', `block/end{${wall}}`);
  expect(older).not.toBe(name);
  for (const gx of ['150 mm', '120 mm', '105 mm']) {
    const volumes = [name, older].map((edge) => outcome(fillet(grooved().set('gx', gx), edge)));
    expect(volumes[1]).toBe(volumes[0]);
  }
  expect(outcome(fillet(grooved().set('gx', '195 mm'), older))).toMatch('no longer there');
});
