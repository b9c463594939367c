/** Tolerances followed through built parts and mates, against closed forms. Sizes are invented; sums by hand. */
import { kindOfMeasure, type AssemblyMeasure, type Document, type Edit, type MateReference } from '@/core/document';
import { headsOf } from '@/core/instances';
import { evenNumbers, judgedDocument, needsGeometry, stackOf, type Stack } from '@/core/studies';
import type { RegenerationClient } from '@/workers/client';
import { buildDeviations } from '@/workers/stack-build';
import { clientFromSource } from '@/workers/start-thread';
import { component, driven, withComponents, withParameters } from '../support/assemblies';
import { edited } from '../support/demo';
import { PartBuilder } from '../support/part-builder';

let client: RegenerationClient;
beforeAll(() => {
  client = clientFromSource();
});
afterAll(() => client.close());

const MM = 10_000;
const tolerance = (id: string, by: string): Edit => ({ type: 'parameter.update', id, changes: { tolerance: { kind: 'symmetric', by: { text: by } } } });

async function stack(document: Document, id: string, others: readonly Document[] = []): Promise<Stack> {
  const source = headsOf(others);
  expect(needsGeometry(document, id, source, {})).toBe(true);
  const deviations = await buildDeviations(client, { document: judgedDocument(document, id), id, source });
  const found = stackOf(document, id, source, { random: evenNumbers(1), deviations });
  if (!found) throw new Error('no stack');
  return found;
}

const slopes = ({ contributors }: Stack, scale = 1): Record<string, number> =>
  Object.fromEntries(contributors.map(({ name, sensitivity }) => [name, Number((sensitivity * scale).toPrecision(6))]));
const millimetres = ({ lower, upper }: { readonly lower: number; readonly upper: number }) => [lower, upper].map((end) => Number((end / MM).toFixed(4)));

/** A block of 40 by 30 by 20 mm, its width and depth with tolerances, as a document of its own. */
function block(name: string, width = '0.1 mm', depth = '0.2 mm'): Document {
  const { document } = PartBuilder.block().do(tolerance('base_w', width), tolerance('base_h', depth));
  return { ...document, id: name, name };
}

test('a volume: width times depth times height, each with its slope', async () => {
  const { document } = PartBuilder.block().do(tolerance('base_w', '0.1 mm'), tolerance('base_h', '0.2 mm')).measure('filled', 'block', {
    of: 'body',
    what: 'volume',
    body: 'b',
  });
  const found = await stack(document, 'filled');
  // Square millimetres: 30 · 20 and 40 · 20.
  expect(slopes(found, MM ** -2)).toEqual({ base_w: 600, base_h: 800 });
  expect((found.worstCase.upper - found.nominal) / MM ** 3).toBeCloseTo(600 * 0.1 + 800 * 0.2, 4);
  expect((found.rootSumSquare.upper - found.nominal) / MM ** 3).toBeCloseTo(Math.hypot(600 * 0.1, 800 * 0.2), 4);
  expect(found.way).toBe('differences');
  // Two independent even draws: a variance of width² / 12 each.
  expect(found.drawn.deviation / MM ** 3 / Math.hypot(600 * 0.2, 800 * 0.4)).toBeCloseTo(Math.sqrt(1 / 12), 2);
});

test('a dimension that others hold already cannot be off by itself, and says so', async () => {
  const { document } = PartBuilder.block()
    .do({
      type: 'sketch.draw',
      sketch: 'base',
      entities: [],
      constraints: [],
      dimensions: [{ type: 'dimension', id: 'again', sketch: 'base', kind: 'length', on: ['base-2'], parameter: 'above', at: [0, 0] }],
      values: [{ type: 'parameter', id: 'above', owner: 'base', name: 'above', formula: { text: '40 mm' }, kind: 'length' }],
    })
    .do(tolerance('above', '0.1 mm'), tolerance('base_h', '0.2 mm'))
    .measure('filled', 'block', { of: 'body', what: 'volume', body: 'b' });
  const found = await stack(document, 'filled');
  expect(slopes(found, MM ** -2)).toEqual({ base_h: 800 });
  expect(found.stuck).toEqual([{ name: 'above', problem: expect.stringMatching(/cannot hold together: .*above = 39.9 mm/) as string }]);
});

const face = (path: string, name: string) => ({ path: [path], body: 'b', name: `block/${name}` });

function mated(
  document: Document,
  ...mates: readonly { readonly id: string; readonly first: MateReference; readonly second: MateReference; readonly offset?: string }[]
): Document {
  return edited(
    document,
    ...mates.map(({ id, first, second, offset = '0 mm' }): Edit => ({
      type: 'mate.put',
      mate: { type: 'mate', id, name: id, kind: 'coplanar', sense: 1, values: { offset: `${id}-by` }, first, second },
      values: [{ type: 'parameter', id: `${id}-by`, owner: id, name: `${id}_by`, formula: { text: offset }, kind: 'length' }],
    })),
  );
}

function measured(document: Document, name: string, measure: AssemblyMeasure): Document {
  return edited(document, {
    type: 'measure.add',
    parameter: { type: 'parameter', id: name, name, formula: { text: '' }, kind: kindOfMeasure(measure), measure },
  });
}

const clearance = (first: string, second: string): AssemblyMeasure => ({ of: 'components', what: 'clearance', on: [{ path: [first] }, { path: [second] }] });
const plane = (path: string, name: 'top' | 'front' | 'side') => ({ path: [path], plane: name });

/** Two blocks along x, the second held off the first by its side plane. */
function pair(mates: readonly ('top' | 'front')[] = ['top', 'front'], offset = '100 mm'): Document {
  const host = withComponents(
    withParameters('assembly', 'pair', {}),
    component('left', 'left', { isAnchored: true }),
    component('right', 'right', { at: { origin: [90, 0, 0], turn: [1, 0, 0, 0] } }),
  );
  const held = mates.map((name) => ({ id: `on_${name}`, first: plane('left', name), second: plane('right', name) }));
  return measured(
    mated(host, { id: 'apart', first: plane('left', 'side'), second: plane('right', 'side'), offset }, ...held),
    'gap',
    clearance('left', 'right'),
  );
}

test('a clearance between two parts: the offset of their mate, and the size of the one that stands between', async () => {
  const parts = [block('left'), block('right', '0.3 mm')];
  const host = edited(pair(), tolerance('apart-by', '0.5 mm'));
  const found = await stack(host, 'gap', parts);
  // From the left side plane to the right one, less the width of the left block.
  expect(found.nominal / MM).toBeCloseTo(60, 6);
  expect(slopes(found)).toEqual({ apart_by: 1, 'left.base_w': -1 });
  expect(millimetres(found.worstCase)).toEqual([59.4, 60.6]);
  expect(millimetres(found.rootSumSquare).map((end) => Math.abs(end - 60))).toEqual([
    expect.closeTo(Math.hypot(0.5, 0.1), 4),
    expect.closeTo(Math.hypot(0.5, 0.1), 4),
  ]);
  expect([found.stuck, found.misfits, found.free]).toEqual([[], [], []]);
  // A formula of what is measured goes the same way.
  const twice = edited(host, {
    type: 'parameter.add',
    parameter: { type: 'parameter', id: 'twice', name: 'twice', kind: 'any', formula: { text: '2 * gap' } },
  });
  expect(slopes(await stack(twice, 'twice', parts))).toEqual({ apart_by: 2, 'left.base_w': -2 });
  // What is set from above has the tolerance that it has at home; what it is set by counts at its nominal.
  const above = edited(driven(edited(host, ...withWidth('42 mm')), 'left.base_w', 'width', ['base_w']), tolerance('width', '1 mm'));
  const set = await stack(above, 'gap', parts);
  expect([set.nominal / MM, slopes(set)]).toEqual([expect.closeTo(58, 6), { apart_by: 1, 'left.base_w': -1 }]);
});

const withWidth = (text: string): Edit[] => [
  { type: 'parameter.add', parameter: { type: 'parameter', id: 'width', name: 'width', kind: 'length', formula: { text } } },
];

test('a part that can still move and takes the value with it is named; one that moves along has a stack', async () => {
  const parts = [block('left'), block('right')];
  // Free along y: past the other block it would be farther off, but here it slides along.
  const sliding = edited(pair(['top']), tolerance('apart-by', '0.5 mm'));
  expect(await stack(sliding, 'gap', parts)).toMatchObject({ free: [], contributors: [{ name: 'apart_by' }, { name: 'left.base_w' }] });
  const loose = measured(pair(['top']), 'shift', { of: 'components', what: 'distance-y', on: [face('left', 'side(base-0)'), face('right', 'side(base-2)')] });
  const told = await stack(edited(loose, tolerance('apart-by', '0.5 mm')), 'shift', parts);
  expect([told.free, told.contributors]).toEqual([['right'], []]);
  // What a formula makes of it changes little, and counts no less.
  const share = edited(loose, {
    type: 'parameter.add',
    parameter: { type: 'parameter', id: 'share', name: 'share', kind: 'any', formula: { text: 'shift / 1 m' } },
  });
  expect((await stack(share, 'share', parts)).free).toEqual(['right']);
});

test('a value that cannot be built says why', async () => {
  const { document } = PartBuilder.block()
    .do(tolerance('base_w', '0.1 mm'))
    .measure('filled', 'block', { of: 'body', what: 'volume', body: 'b' })
    .set('block_depth', '0 mm');
  const source = headsOf([]);
  const deviations = await buildDeviations(client, { document: judgedDocument(document, 'filled'), id: 'filled', source });
  expect([deviations?.nominal, deviations?.problem]).toEqual([NaN, expect.stringMatching(/^block: /) as string]);
  expect(stackOf(document, 'filled', source, { random: evenNumbers(1), deviations })).toBeUndefined();
});

/** The one block on the other, held at both of its sides: once too often. */
function nestOf(): Document {
  const host = withComponents(withParameters('assembly', 'nest', {}), component('left', 'left', { isAnchored: true }), component('right', 'right'));
  return mated(
    host,
    { id: 'on_top', first: plane('left', 'top'), second: plane('right', 'top') },
    { id: 'on_front', first: plane('left', 'front'), second: plane('right', 'front') },
    { id: 'near', first: face('left', 'side(base-3)'), second: face('right', 'side(base-3)') },
    { id: 'far', first: face('left', 'side(base-1)'), second: face('right', 'side(base-1)') },
  );
}

test('mates that hold twice give way in their order: the later one is off, by as much as the sizes are', async () => {
  const parts = [block('left', '0.2 mm'), block('right', '0.1 mm')];
  const across: AssemblyMeasure = { of: 'components', what: 'distance-x', on: [face('left', 'side(base-3)'), face('right', 'side(base-1)')] };
  const found = await stack(measured(nestOf(), 'across', across), 'across', parts);
  expect(slopes(found)).toEqual({ 'right.base_w': 1 });
  expect(millimetres(found.worstCase)).toEqual([39.9, 40.1]);
  expect(found.misfits.map(({ mate, amount, isLength }) => [mate, Number((amount / MM).toFixed(6)), isLength])).toEqual([['far', 0.3, true]]);
});

test('in a rigid sub-assembly too', async () => {
  const parts = [block('left', '0.2 mm'), block('right', '0.1 mm'), nestOf()];
  const host = withComponents(withParameters('assembly', 'host', {}), component('unit', 'nest', { isAnchored: true }));
  const [first, second] = [face('left', 'side(base-3)'), face('right', 'side(base-1)')].map((one) => ({ ...one, path: ['unit', ...one.path] }));
  if (!first || !second) throw new Error('no faces');
  const found = await stack(measured(host, 'across', { of: 'components', what: 'distance-x', on: [first, second] }), 'across', parts);
  expect(slopes(found)).toEqual({ 'unit.right.base_w': 1 });
  expect([found.stuck, found.misfits.map(({ amount }) => Number((amount / MM).toFixed(6)))]).toEqual([[], [0.3]]);
});

test('at a corner each side counts for what it is: what touches comes no nearer', async () => {
  const parts = [block('left'), block('right')];
  const found = await stack(edited(pair(['top', 'front'], '40 mm'), tolerance('apart-by', '0.5 mm')), 'gap', parts);
  expect(found.contributors.map(({ name, isCorner }) => [name, isCorner])).toEqual([
    ['apart_by', true],
    ['left.base_w', true],
  ]);
  expect(millimetres(found.worstCase)).toEqual([0, 0.6]);
});

/** A bar with a bore of 6 mm at either end, 24 mm apart. */
const bored: Document = {
  ...PartBuilder.block('40 mm', '16 mm', '10 mm')
    .sketch('bore')
    .circle('bore', 'near', '6 mm', [8, 8], 3)
    .circle('bore', 'far', '6 mm', [32, 8], 3)
    .step({ type: 'extrude', id: 'cut', sketch: 'bore', operation: 'remove', extent: 'through', body: 'b' }, {}).document,
  id: 'arm',
  name: 'arm',
};
const bore = (path: string, name: string) => ({ path: [path], body: 'b', name: `cut/side(${name})` });

test('the distance of two axes by an angle and an offset: exact through the mates, by building through the part', async () => {
  // An arm that turns about the left side of the block, with a bore at its far end.
  const host = withComponents(withParameters('assembly', 'pivot', {}), component('base', 'arm', { isAnchored: true }), component('arm', 'arm'));
  const value = (id: string, owner: string, text: string, kind: string) => ({ type: 'parameter' as const, id, owner, name: id, formula: { text }, kind });
  const turned = edited(
    host,
    {
      type: 'mate.put',
      mate: { type: 'mate', id: 'pin', name: 'pin', kind: 'coaxial', sense: 1, values: {}, first: bore('base', 'near'), second: bore('arm', 'near') },
      values: [],
    },
    {
      type: 'mate.put',
      mate: {
        type: 'mate',
        id: 'on',
        name: 'on',
        kind: 'coplanar',
        sense: 1,
        values: { offset: 'lift' },
        first: plane('base', 'top'),
        second: plane('arm', 'top'),
      },
      values: [value('lift', 'on', '10 mm', 'length')],
    },
    {
      type: 'mate.put',
      mate: {
        type: 'mate',
        id: 'swing',
        name: 'swing',
        kind: 'angle',
        sense: 1,
        values: { angle: 'swung' },
        about: [0, 0, 1],
        first: plane('base', 'front'),
        second: plane('arm', 'front'),
      },
      values: [value('swung', 'swing', '50 deg', 'angle')],
    },
    { type: 'parameter.update', id: 'swung', changes: { tolerance: { kind: 'symmetric', by: { text: '0.5 deg' } } } },
    tolerance('lift', '1 mm'),
  );
  const apart = measured(turned, 'apart', { of: 'components', what: 'axis-distance', on: [bore('base', 'far'), bore('arm', 'far')] });
  const found = await stack(apart, 'apart', [bored]);
  // A chord of a circle of 24 mm: 2 · 24 · sin(angle / 2), 24 · cos(angle / 2) for a radian more; what lifts it does not count.
  expect(found.nominal / MM).toBeCloseTo(48 * Math.sin((25 * Math.PI) / 180), 6);
  expect(found.contributors.map(({ name }) => name)).toEqual(['swung']);
  expect((found.contributors[0]?.sensitivity ?? NaN) / MM).toBeCloseTo((24 * Math.cos((25 * Math.PI) / 180) * Math.PI) / 180, 6);
});

test('the spacing of copies counts where a mate holds one of them', async () => {
  const value = (id: string, text: string, kind: string) => ({ type: 'parameter' as const, id, owner: 'row', name: id, formula: { text }, kind });
  const held = edited(
    withComponents(withParameters('assembly', 'rack', {}), component('base', 'arm', { isAnchored: true }), component('row', 'arm')),
    {
      type: 'component.repeat',
      id: 'row',
      pattern: { form: 'linear', along: { axis: 'y' }, values: { count: 'many', span: 'spaced' } },
      values: [value('many', '3', 'count'), value('spaced', '30 mm', 'length')],
    },
    ...(['near', 'far'] as const).map((end): Edit => ({
      type: 'mate.put',
      mate: {
        type: 'mate',
        id: `pin-${end}`,
        name: `pin_${end}`,
        kind: 'coaxial',
        sense: 1,
        values: {},
        first: bore('base', end),
        second: { ...bore('row', end), path: ['row#3'] },
      },
      values: [],
    })),
    tolerance('spaced', '0.2 mm'),
  );
  const found = await stack(measured(held, 'apart', { of: 'components', what: 'axis-distance', on: [bore('base', 'near'), bore('row', 'near')] }), 'apart', [
    bored,
  ]);
  // The third stands on the base: the first is two spacings away.
  expect(found.nominal / MM).toBeCloseTo(60, 6);
  expect(slopes(found)).toEqual({ spaced: 2 });
});
