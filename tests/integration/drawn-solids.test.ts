/** Sweeps, lofts, splits, patterns along paths and bodies from files, document to solid, against closed forms. */
import { gzipSync } from 'fflate';
import type { KernelPort } from '@/core/kernel-port';
import { createKernel } from '@/kernel/create-kernel';
import { relative, prism, rectangle } from '../support/kernel-shapes';
import { build, PartBuilder } from '../support/part-builder';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

function built(part: PartBuilder) {
  const result = build(kernel, part);
  expect(result.steps.flatMap(({ problem }) => problem?.message ?? [])).toEqual([]);
  return result;
}

/** A square of 8 mm about the origin of the top plane, and a path that goes up from there in the front plane. */
function rod(...path: readonly (readonly [number, number])[]): PartBuilder {
  return new PartBuilder()
    .sketch('square')
    .rectangle('square', '8 mm', '8 mm', [-4, -4], [8, 8])
    .sketch('path', 'front')
    .chain('path', ...path)
    .step({ type: 'sweep', id: 'rod', sketch: 'square', path: 'path', operation: 'start', body: 'b' });
}

describe('sweep', () => {
  test('along a straight path is a prism', () => {
    expect(relative(built(rod([0, 0], [0, 50])).volume, 64 * 50)).toBeLessThan(1e-9);
  });

  test('is mitred at corners: area times the length of the middle line', () => {
    const part = rod([0, 0], [0, 50], [40, 50], [40, 20]);
    const { volume, body } = built(part);
    expect(relative(volume, 64 * 120)).toBeLessThan(1e-9);
    expect(body()?.properties?.faces).toBe(14);
    // Its sides are told by the line of the profile and that of the path: 40 less 4 and 4 at the mitres, 30 up.
    const pad = part.sketch('mark', { body: 'b', face: 'rod/side(square-2.path-1)' });
    expect(built(pad).step('mark')?.sketch?.frame.normal.map(Math.abs)).toEqual([0, 1, 0].map((n) => expect.closeTo(n, 9) as number));
  });

  test('round an arc obeys the second theorem of Pappus', () => {
    const part = rod([0, 0], [0, 50]).do({
      type: 'sketch.draw',
      sketch: 'path',
      entities: [
        { type: 'point', id: 'centre', sketch: 'path', x: 20, y: 50 },
        { type: 'point', id: 'far', sketch: 'path', x: 20, y: 70 },
        { type: 'arc', id: 'bend', sketch: 'path', centre: 'centre', start: 'far', end: 'path-p1' },
      ],
      constraints: [{ type: 'constraint', id: 'held', sketch: 'path', kind: 'fixed', on: ['centre'] }],
      dimensions: [],
      values: [],
    });
    expect(relative(built(part).volume, 64 * (50 + (Math.PI / 2) * 20))).toBeLessThan(1e-9);
  });

  test('of a profile with a hole is a tube', () => {
    const part = rod([0, 0], [0, 50], [40, 50]).circle('square', 'bore', '4 mm', [0, 0], 2);
    expect(relative(built(part).volume, (64 - 4 * Math.PI) * 90)).toBeLessThan(1e-9);
  });

  test('cuts as well, and follows the body', () => {
    const part = PartBuilder.block()
      .sketch('groove', 'front')
      .rectangle('groove', '6 mm', '4 mm', [10, 18], [6, 4])
      .sketch('way')
      .chain('way', [13, -1], [13, 31])
      .step({ type: 'sweep', id: 'cut', sketch: 'groove', path: 'way', operation: 'remove', body: 'b' });
    // The profile lies in the front plane and starts there; 2 of its 4 mm are in the block, over 30 mm.
    expect(relative(built(part).volume, 40 * 30 * 20 - 6 * 2 * 30)).toBeLessThan(1e-9);
  });

  test('a bend that is too tight for its profile is told, with what to look at', () => {
    const part = rod([0, 0], [0, 3], [30, 3]);
    expect(build(kernel, part).step('rod')?.problem?.message).toMatch(/bends be wider than the profile\.$/);
  });

  test('a path that branches, is apart or empty is told, with the curve', () => {
    const broken = rod([0, 0], [0, 50]).chain('path');
    broken.do({
      type: 'sketch.draw',
      sketch: 'path',
      entities: [
        { type: 'point', id: 'q', sketch: 'path', x: 30, y: 5 },
        { type: 'point', id: 'r', sketch: 'path', x: 30, y: 9 },
        { type: 'line', id: 'stray', sketch: 'path', start: 'q', end: 'r' },
      ],
      constraints: [],
      dimensions: [],
      values: [],
    });
    expect(build(kernel, broken).step('rod')?.problem).toEqual({
      message: 'rod: path: the curves do not join to one chain; close the gap, or make what does not belong to the path construction.',
      about: ['stray'],
    });
  });
});

describe('loft', () => {
  const frustum = (isRuled: boolean): PartBuilder =>
    new PartBuilder()
      .sketch('low')
      .rectangle('low', '20 mm', '20 mm', [-10, -10], [20, 20])
      .step({ type: 'datum', id: 'above', from: 'top', turn: 'none' }, { offset: '30 mm' })
      .sketch('high', { datum: 'above' })
      .rectangle('high', '10 mm', '10 mm', [-5, -5], [10, 10])
      .step({ type: 'loft', id: 'funnel', sketches: ['low', 'high'], isRuled, operation: 'start', body: 'b' });

  test('through two squares is the frustum of a pyramid', () => {
    const part = frustum(true);
    for (const height of [30, 45]) {
      part.set('above_offset', `${height} mm`);
      expect(relative(built(part).volume, (height * (400 + 100 + 200)) / 3)).toBeLessThan(1e-9);
    }
  });

  test('through two circles is the frustum of a cone', () => {
    const part = new PartBuilder()
      .sketch('low')
      .circle('low', 'wide', '20 mm', [0, 0], 10)
      .step({ type: 'datum', id: 'above', from: 'top', turn: 'none' }, { offset: '30 mm' })
      .sketch('high', { datum: 'above' })
      .circle('high', 'narrow', '10 mm', [0, 0], 5)
      .step({ type: 'loft', id: 'funnel', sketches: ['low', 'high'], isRuled: true, operation: 'start', body: 'b' });
    expect(relative(built(part).volume, (Math.PI * 30 * (100 + 25 + 50)) / 3)).toBeLessThan(1e-9);
  });

  test('names its sides after the first outline, so that a fillet on one stays there', () => {
    const part = frustum(true).step({ type: 'fillet', id: 'soft', edges: ['edge[funnel/side(low-0) | funnel/side(low-1)]'], body: 'b' }, { radius: '1 mm' });
    const before = built(part).volume;
    part.set('low_w', '24 mm');
    expect(built(part).volume).toBeGreaterThan(before);
  });

  test('an outline with a hole, or none, is told', () => {
    const part = frustum(true).circle('high', 'bore', '3 mm', [0, 0], 1.5);
    expect(build(kernel, part).step('funnel')?.problem?.message).toBe('funnel: high: a loft needs one closed outline without holes; there is one with 1 hole.');
  });
});

describe('split', () => {
  const halves = (keep: 'both' | 'front' | 'back'): PartBuilder =>
    PartBuilder.block()
      .step({ type: 'datum', id: 'cut', from: 'side', turn: 'none' }, { offset: '15 mm' })
      .step({ type: 'split', id: 'halves', plane: { datum: 'cut' }, keep, body: 'b', ...(keep === 'both' ? { other: 'rest' } : {}) });

  test('makes two bodies that together are the first, and follows its plane', () => {
    const part = halves('both');
    for (const offset of [15, 28]) {
      part.set('cut_offset', `${offset} mm`);
      const { body } = built(part);
      expect(relative(body('b')?.properties?.volume ?? 0, (40 - offset) * 600)).toBeLessThan(1e-9);
      expect(relative(body('rest')?.properties?.volume ?? 0, offset * 600)).toBeLessThan(1e-9);
    }
  });

  test.each([
    ['front', 25 * 600],
    ['back', 15 * 600],
  ] as const)('keeps what lies in %s', (keep, volume) => {
    expect(relative(built(halves(keep)).volume, volume)).toBeLessThan(1e-9);
  });

  test('names the cut face, which a sketch can lie on', () => {
    const part = halves('back')
      .sketch('pad', { body: 'b', face: 'halves/start(cut)' })
      .rectangle('pad', '5 mm', '5 mm', [5, 5], [5, 5])
      .step({ type: 'extrude', id: 'boss', sketch: 'pad', operation: 'add', extent: 'forward', body: 'b' }, { depth: '8 mm' });
    expect(relative(built(part).volume, 15 * 600 + 200)).toBeLessThan(1e-9);
  });

  test('a plane beside the body is told, and both parts wait', () => {
    const part = halves('both').set('cut_offset', '60 mm');
    const { step, body } = build(kernel, part);
    expect(step('halves')?.problem?.message).toBe('halves: the plane does not go through the body.');
    expect(body('rest')?.key).toBeUndefined();
  });

  test('with one part kept after all, the other body goes', () => {
    const part = halves('both');
    part.do({
      type: 'step.update',
      step: { type: 'split', id: 'halves', name: 'halves', plane: { datum: 'cut' }, keep: 'front', body: 'b', values: {} },
      values: [],
    });
    expect(part.document.lists['bodies']).toEqual(['b']);
  });
});

describe('pattern along a path', () => {
  const pegs = (path: readonly (readonly [number, number])[], isTurning: boolean): PartBuilder =>
    PartBuilder.block('100 mm', '100 mm', '5 mm')
      .sketch('peg', { body: 'b', face: 'block/end(base-0)' })
      .rectangle('peg', '4 mm', '2 mm', [10, 10], [4, 2])
      .step({ type: 'extrude', id: 'post', sketch: 'peg', operation: 'add', extent: 'forward', body: 'b' }, { depth: '3 mm' })
      .sketch('way')
      .chain('way', ...path)
      .step(
        { type: 'pattern', id: 'row', form: 'path', of: ['post'], along: { path: 'way' }, spread: 'spacing', isTurning, body: 'b' },
        { count: '5', span: '20 mm' },
      );

  test('sets copies at equal lengths along lines and round corners', () => {
    const part = pegs(
      [
        [12, 11],
        [62, 11],
        [62, 81],
      ],
      false,
    );
    expect(relative(built(part).volume, 50_000 + 5 * 24)).toBeLessThan(1e-9);
    // 80 mm on: 50 along the first line, 30 up the second.
    expect(built(part).body()?.properties?.box.max[2]).toBeCloseTo(8, 6);
  });

  test('turns copies with the path when asked to', () => {
    const centre = (isTurning: boolean): readonly number[] =>
      built(
        pegs(
          [
            [10, 10],
            [50, 10],
            [50, 90],
          ],
          isTurning,
        )
          .set('row_count', '2')
          .set('row_span', '60 mm'),
      ).body()?.properties?.centre ?? [];
    // The copy hangs at 20 mm up the second line: as it is, it reaches 4 mm to the right; turned, 2 mm to the left.
    const [plain = 0, turned = 0] = [centre(false)[0], centre(true)[0]];
    const total = 50_000 + 48;
    expect(plain * total).toBeCloseTo(50_000 * 50 + 24 * 12 + 24 * 52, 4);
    expect(turned * total).toBeCloseTo(50_000 * 50 + 24 * 12 + 24 * 49, 4);
  });

  test('is refused beyond the end of its path, with the length that it needs', () => {
    const part = pegs(
      [
        [10, 10],
        [60, 10],
      ],
      false,
    );
    expect(build(kernel, part).step('row')?.problem?.message).toBe('row: row_span = 20 mm with a count of 5 needs 80 mm of path, which is 50 mm long.');
  });
});

describe('a body from a file', () => {
  const packed = (bytes: Uint8Array): string => Buffer.from(gzipSync(bytes)).toString('base64');

  test('is read, and worked on like any other', () => {
    const handle = prism(kernel, rectangle(30, 20), 10);
    const file = packed(kernel.exportFile([{ body: handle, name: 'Block' }], 'step'));
    const part = new PartBuilder()
      .step({ type: 'import', id: 'bought', file: 'f', body: 'b' }, {}, file)
      .sketch('bore')
      .circle('bore', 'hole', '6 mm', [10, 10], 3)
      .step({ type: 'extrude', id: 'drill', sketch: 'bore', operation: 'remove', extent: 'through', body: 'b' });
    expect(relative(built(part).volume, 6000 - 90 * Math.PI)).toBeLessThan(1e-9);
    // Deleted with its body once nothing works on it.
    part.do(
      { type: 'step.remove', id: 'drill', readers: { mode: 'refuse' }, sketches: true },
      { type: 'step.remove', id: 'bought', readers: { mode: 'refuse' } },
    );
    expect(Object.keys(part.document.records)).toEqual([]);
  });

  test.each([
    ['text that is no STEP', Buffer.from('solid nothing\nendsolid'), 'bought: The file is not STEP, or is damaged.'],
    [
      'a STEP file without a solid',
      Buffer.from(
        "ISO-10303-21;HEADER;FILE_DESCRIPTION((''),'2;1');FILE_NAME('','',(''),(''),'','','');FILE_SCHEMA(('AUTOMOTIVE_DESIGN'));ENDSEC;DATA;ENDSEC;END-ISO-10303-21;",
      ),
      'bought: The file holds no solid; surfaces and curves alone make no body.',
    ],
  ])('%s is refused with words', (_, bytes, message) => {
    const part = new PartBuilder().step({ type: 'import', id: 'bought', file: 'f', body: 'b' }, {}, packed(bytes));
    expect(build(kernel, part).step('bought')?.problem?.message).toBe(message);
  });

  test('content that was damaged in the document is told', () => {
    const part = new PartBuilder().step({ type: 'import', id: 'bought', file: 'f', body: 'b' }, {}, 'bm90IGd6aXA=');
    expect(build(kernel, part).step('bought')?.problem?.message).toBe('bought: The stored file is damaged; import it again.');
  });
});
