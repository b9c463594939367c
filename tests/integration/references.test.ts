/**
 * References survive: a name given to a face or edge once means the same one after values change, sketch lines come
 * and go, patterns grow and shrink, steps are added, suppressed, moved. Each edit says what the reference must measure then.
 */
import type { Edit } from '@/core/document';
import type { KernelPort } from '@/core/kernel-port';
import { Regenerator } from '@/core/steps';
import { createKernel } from '@/kernel/create-kernel';
import { build, PartBuilder } from '../support/part-builder';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

type What = 'length' | 'radius' | 'area';
type Change = readonly [name: string, change: (part: PartBuilder) => unknown, expected: number | 'lost'];
interface Case {
  readonly part: () => PartBuilder;
  /** The step after which it is measured, and what the reference is. */
  readonly after: string;
  readonly what: What;
  readonly on: string;
  readonly before: number;
  readonly edits: readonly Change[];
}

const TOP = 'block/end(base-0)';
const EAST = 'block/side(base-1)';
const edge = (...faces: readonly string[]): string => `edge[${[...faces].sort().join(' | ')}]`;

/** Cuts something out of the block from its top plane. */
const cut = (part: PartBuilder, id: string, place: readonly [number, number], size: readonly [number, number], depth?: string): PartBuilder =>
  part
    .sketch(id, { body: 'b', face: TOP })
    .rectangle(id, `${size[0]} mm`, `${size[1]} mm`, place, size)
    .step(
      { type: 'extrude', id: `${id}_cut`, sketch: id, operation: 'remove', extent: depth === undefined ? 'through' : 'forward', isReversed: true, body: 'b' },
      depth === undefined ? {} : { depth },
    );

const suppress = (part: PartBuilder, id: string): PartBuilder => {
  const step = part.document.records[id];
  if (step?.type !== 'extrude') throw new Error(`no extrusion ${id}`);
  return part.do({ type: 'step.update', step: { ...step, suppressed: { text: 'yes' } }, values: [] });
};

const circle = (sketch: string, id: string, x: number, y: number, radius: number): Edit => ({
  type: 'sketch.draw',
  sketch,
  entities: [
    { type: 'point', id: `${id}-c`, sketch, x, y },
    { type: 'circle', id, sketch, centre: `${id}-c`, radius },
  ],
  constraints: [],
  dimensions: [],
  values: [],
});

const row = (count: string): PartBuilder =>
  cut(PartBuilder.block('200 mm', '30 mm', '5 mm'), 'slot', [10, 5], [4, 20]).step(
    { type: 'pattern', id: 'row', form: 'linear', of: ['slot_cut'], along: 'x', spread: 'spacing', body: 'b' },
    { count, span: '10 mm' },
  );

const ring = (): PartBuilder =>
  new PartBuilder()
    .sketch('base')
    .circle('base', 'disc', '100 mm', [0, 0], 50)
    .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '10 mm' })
    .sketch('mark')
    .circle('mark', 'bore', '8 mm', [35, 0], 4)
    .step({ type: 'extrude', id: 'bore_cut', sketch: 'mark', operation: 'remove', extent: 'through', body: 'b' })
    .step(
      { type: 'pattern', id: 'ring', form: 'circular', of: ['bore_cut'], along: 'z', spread: 'spacing', body: 'b' },
      { count: '6', span: '360 deg / ring_count' },
    );

const drilled = (): PartBuilder =>
  PartBuilder.block()
    .sketch('marks', { body: 'b', face: TOP })
    .points('marks', [10, 10], [30, 20])
    .step({ type: 'hole', id: 'holes', sketch: 'marks', form: 'counterbore', extent: 'through', body: 'b' }, { diameter: '5 mm', head: '9 mm', seat: '4 mm' });

const CASES: Readonly<Record<string, Case>> = {
  'an edge of a block': {
    part: () => PartBuilder.block(),
    after: 'block',
    what: 'length',
    on: edge(TOP, EAST),
    before: 30,
    edits: [
      ['the block gets wider', (p) => p.set('base_w', '90 mm'), 30],
      ['and deeper', (p) => p.set('base_h', '45 mm'), 45],
      ['and lower', (p) => p.set('block_depth', '3 mm'), 30],
      ['its step is renamed', (p) => p.do({ type: 'step.rename', id: 'block', name: 'Board' }), 30],
      ['a hole is drawn into its sketch', (p) => p.do(circle('base', 'o', 20, 15, 4)), 30],
      [
        'its sketch line is deleted',
        (p) => p.do({ type: 'sketch.erase', sketch: 'base', ids: ['base-1'], readers: { mode: 'numbers', numbers: { base_h: '30 mm' } } }),
        'lost',
      ],
    ],
  },
  'the top of a block': {
    part: () => PartBuilder.block(),
    after: 'block',
    what: 'area',
    on: TOP,
    before: 1200,
    edits: [
      ['the block grows', (p) => p.set('base_w', '50 mm'), 1500],
      ['a hole is drawn into its sketch', (p) => p.do(circle('base', 'o', 20, 15, 4)), 1200 - 16 * Math.PI],
      [
        'a line is drawn across its sketch',
        (p) =>
          p.do({
            type: 'sketch.draw',
            sketch: 'base',
            entities: [{ type: 'line', id: 'x', sketch: 'base', start: 'base-p0', end: 'base-p2' }],
            constraints: [],
            dimensions: [],
            values: [],
          }),
        1200,
      ],
    ],
  },
  'an edge along a face that a groove cuts in two, picked whole': {
    part: () => cut(PartBuilder.block(), 'groove', [15, -5], [10, 40], '6 mm'),
    after: 'groove_cut',
    what: 'length',
    on: edge(TOP, 'block/side(base-0)'),
    before: 30,
    edits: [
      ['the groove gets wider', (p) => p.set('groove_w', '14 mm'), 26],
      ['the block gets wider', (p) => p.set('base_w', '80 mm'), 70],
      ['the groove is left out: the pieces are whole again', (p) => suppress(p, 'groove_cut'), 40],
      ['the groove goes through', (p) => p.set('groove_cut_depth', '20 mm'), 30],
    ],
  },
  'a wall of the third slot of a row': {
    part: () => row('6'),
    after: 'row',
    what: 'area',
    on: 'row/3:slot_cut/side(slot-1)',
    before: 100,
    edits: [
      ['more slots', (p) => p.set('row_count', '12'), 100],
      ['fewer, but still that many', (p) => p.set('row_count', '4'), 100],
      ['too few', (p) => p.set('row_count', '3'), 'lost'],
      ['closer together', (p) => p.set('row_span', '6 mm'), 100],
      ['longer slots', (p) => p.set('slot_h', '24 mm'), 120],
      ['a thicker plate', (p) => p.set('block_depth', '7 mm'), 140],
    ],
  },
  'the second bore of a ring': {
    part: ring,
    after: 'ring',
    what: 'radius',
    on: 'ring/1:bore_cut/side(bore)',
    before: 4,
    edits: [
      ['another size', (p) => p.set('bore_d', '6 mm'), 3],
      ['more of them', (p) => p.set('ring_count', '11'), 4],
      ['two of them', (p) => p.set('ring_count', '2'), 4],
      ['only one', (p) => p.set('ring_count', '1'), 'lost'],
      ['a thicker disc', (p) => p.set('block_depth', '25 mm'), 4],
    ],
  },
  'the wall of the second of two holes': {
    part: drilled,
    after: 'holes',
    what: 'radius',
    on: 'holes/marks-at1:holes/side(wall)',
    before: 2.5,
    edits: [
      ['another diameter', (p) => p.set('holes_diameter', '6 mm'), 3],
      [
        'a third point',
        (p) =>
          p.do({
            type: 'sketch.draw',
            sketch: 'marks',
            entities: [{ type: 'point', id: 'more', sketch: 'marks', x: 20, y: 8 }],
            constraints: [],
            dimensions: [],
            values: [],
          }),
        2.5,
      ],
      ['the first point goes', (p) => p.do({ type: 'sketch.erase', sketch: 'marks', ids: ['marks-at0'], readers: { mode: 'refuse' } }), 2.5],
      ['its own point goes', (p) => p.do({ type: 'sketch.erase', sketch: 'marks', ids: ['marks-at1'], readers: { mode: 'refuse' } }), 'lost'],
      ['a higher block', (p) => p.set('block_depth', '40 mm'), 2.5],
    ],
  },
  'the counterbore of a hole': {
    part: drilled,
    after: 'holes',
    what: 'radius',
    on: 'holes/marks-at0:holes/side(head)',
    before: 4.5,
    edits: [
      ['a larger head', (p) => p.set('holes_head', '11 mm'), 5.5],
      ['a deeper seat', (p) => p.set('holes_seat', '7 mm'), 4.5],
    ],
  },
  'a side of the mirror image of a block': {
    part: () => PartBuilder.block().step({ type: 'mirror', id: 'twin', of: [], plane: 'side', body: 'b' }),
    after: 'twin',
    what: 'area',
    on: 'twin/1:block/side(base-1)',
    before: 600,
    edits: [
      ['a deeper block', (p) => p.set('base_h', '50 mm'), 1000],
      ['a higher one', (p) => p.set('block_depth', '30 mm'), 900],
    ],
  },
  'the top of a copy that was joined to its original': {
    part: () =>
      PartBuilder.block()
        .step({ type: 'place', id: 'copy', from: 'b', body: 'b2' }, { x: '60 mm' })
        .sketch('bridge')
        .rectangle('bridge', '40 mm', '10 mm', [30, 10], [40, 10])
        .step({ type: 'extrude', id: 'bridge_bar', sketch: 'bridge', operation: 'add', extent: 'forward', body: 'b' }, { depth: '5 mm' })
        .step({ type: 'combine', id: 'join', operation: 'add', tools: ['b2'], body: 'b' }),
    after: 'join',
    what: 'area',
    on: `copy:${TOP}`,
    before: 1200,
    edits: [
      ['both grow', (p) => p.set('base_h', '33 mm'), 1320],
      ['it stands further off', (p) => p.set('copy_x', '64 mm'), 1200],
      ['a thicker bridge', (p) => p.set('bridge_bar_depth', '9 mm'), 1200],
    ],
  },
  'an edge of a revolved ring': {
    part: () =>
      new PartBuilder()
        .sketch('base', 'front')
        .rectangle('base', '6 mm', '10 mm', [20, 0], [6, 10])
        .step({ type: 'revolve', id: 'ring', sketch: 'base', axis: 'y-axis', operation: 'start', extent: 'full', body: 'b' }),
    after: 'ring',
    what: 'radius',
    on: edge('ring/side(base-1)', 'ring/side(base-2)'),
    before: 26,
    edits: [
      ['a broader section', (p) => p.set('base_w', '9 mm'), 29],
      ['a higher one', (p) => p.set('base_h', '4 mm'), 26],
    ],
  },
  'an edge beside a fillet': {
    part: () => PartBuilder.block().step({ type: 'fillet', id: 'round', edges: [edge(TOP, EAST)], body: 'b' }, { radius: '4 mm' }),
    after: 'round',
    what: 'length',
    on: edge(TOP, 'block/side(base-0)'),
    before: 36,
    edits: [
      ['a larger radius', (p) => p.set('round_radius', '7 mm'), 33],
      ['a wider block', (p) => p.set('base_w', '100 mm'), 96],
      ['a pocket is cut into the top afterwards', (p) => cut(p, 'pocket', [5, 8], [6, 6], '3 mm'), 36],
    ],
  },
  'the outside of a hollowed block': {
    part: () => PartBuilder.block().step({ type: 'shell', id: 'hollow', faces: [TOP], body: 'b' }, { wall: '2 mm' }),
    after: 'hollow',
    what: 'area',
    on: EAST,
    before: 600,
    edits: [
      ['a thicker wall', (p) => p.set('hollow_wall', '3 mm'), 600],
      ['a higher block', (p) => p.set('block_depth', '25 mm'), 750],
    ],
  },
};

const ALL = Object.entries(CASES).flatMap(([name, one]) => one.edits.map((edit) => [name, edit[0], one, edit] as const));

test('the suite is as large as it says', () => {
  expect(Object.keys(CASES).length).toBeGreaterThanOrEqual(10);
  expect(ALL.length).toBeGreaterThanOrEqual(40);
});

test.each(ALL)('%s: %s', (_, __, { part, after, what, on, before }, [, change, expected]) => {
  const regenerator = new Regenerator(kernel);
  const scale = what === 'area' ? 1e8 : 1e4;
  const builder = part().measure('probe', after, { of: 'geometry', what, body: 'b', on: [on] });
  const read = (): number => build(kernel, builder, regenerator).values.sheet.readNumber('probe') / scale;
  expect(read()).toBeCloseTo(before, 6);
  change(builder);
  const found = read();
  if (expected === 'lost') expect(found).toBeNaN();
  else expect(found).toBeCloseTo(expected, 6);
});
