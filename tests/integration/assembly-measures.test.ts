/** What is read off an assembly as it stands, against closed forms; and that a value which drives what it is measured on is told as a cycle. */
import { applyEdit, kindOfMeasure, type AssemblyMeasure, type Document, type DocumentValues } from '@/core/document';
import { headsOf } from '@/core/instances';
import type { RegenerationClient } from '@/workers/client';
import { buildWhole } from '@/workers/whole-assembly';
import { clientFromSource } from '@/workers/start-thread';
import { component, driven, withComponents, withParameters } from '../support/assemblies';
import { demoDocument, edited } from '../support/demo';
import { PartBuilder } from '../support/part-builder';

let client: RegenerationClient;
beforeAll(() => {
  client = clientFromSource();
});
afterAll(() => client.close());

/** The cross rail of the demo: a bar of 36 by 36 mm along x with a hole of 6.6 mm through it, 460 mm long, of beech. */
const LENGTH = 460;
const SECTION = 36 * 36 - Math.PI * 3.3 ** 2;

function measured(document: Document, measures: Readonly<Record<string, AssemblyMeasure>>): Document {
  return Object.entries(measures).reduce((before, [name, measure]) => {
    const parameter = { type: 'parameter' as const, id: name, name, formula: { text: '' }, kind: kindOfMeasure(measure), measure };
    const result = applyEdit(before, { type: 'measure.add', parameter });
    if (!result.ok) throw new Error(result.failure.message);
    return result.value.document;
  }, document);
}

async function read(document: Document, others: readonly Document[] = []): Promise<(name: string) => string> {
  const heads = headsOf([demoDocument('Cross rail'), demoDocument('Pawl'), ...others]);
  const whole = await buildWhole(client, document, heads.snapshot);
  if ('failure' in whole) throw new Error(`${whole.part}: ${whole.failure.kind}`);
  return (name) => wordsOf(whole.values, name);
}

function wordsOf(values: DocumentValues, name: string): string {
  // What is set from above is a node of its own.
  if (name.includes('.')) return values.showNode(`drive-${name.replaceAll('.', '-')}`);
  const node = values.sheet.findByName(name) ?? '';
  const [problem] = values.sheet.read(node)?.diagnostics ?? [];
  return problem?.message ?? values.show(node)?.shown ?? '?';
}

const at = (x: number, y: number, z: number) => ({
  at: { origin: [x, y, z] as [number, number, number], turn: [1, 0, 0, 0] as [number, number, number, number] },
});
const pair = (what: Extract<AssemblyMeasure, { readonly of: 'components' }>['what'], first: string, second: string): AssemblyMeasure => ({
  of: 'components',
  what,
  on: [{ path: [first] }, { path: [second] }],
});

const rails = (...places: readonly [x: number, y: number, z: number][]): Document =>
  withComponents(withParameters('assembly', 'Rack', {}), ...places.map((place, i) => component(`rail_${i}`, 'cross-rail', at(...place))));

test('clearance, interference, mass, centre and size of bars', async () => {
  const rack = measured(rails([0, 0, 0], [0, 136, 0], [450, 0, 0]), {
    side_gap: pair('clearance', 'rail_0', 'rail_1'),
    corner_gap: pair('clearance', 'rail_1', 'rail_2'),
    none: pair('clearance', 'rail_0', 'rail_2'),
    common: { of: 'assembly', what: 'interference' },
    all: { of: 'assembly', what: 'volume' },
    weight: { of: 'assembly', what: 'mass' },
    middle: { of: 'assembly', what: 'centre-x' },
    long: { of: 'assembly', what: 'size-x' },
  });
  const value = await read(rack);
  expect(value('side_gap')).toBe('100 mm');
  // They pass one another by 10 mm along x.
  expect(value('corner_gap')).toBe('100 mm');
  expect(value('none')).toBe('0 mm');
  expect(Number.parseFloat(value('common'))).toBeCloseTo(SECTION * 10, 2);
  expect(Number.parseFloat(value('all'))).toBeCloseTo(3 * SECTION * LENGTH, 0);
  // Beech of 720 kg/m³, as the demo has it.
  expect(Number.parseFloat(value('weight'))).toBeCloseTo(3 * SECTION * LENGTH * 720e-9, 3);
  expect(Number.parseFloat(value('middle'))).toBeCloseTo((3 * 230 + 450) / 3, 2);
  expect(value('long')).toBe('910 mm');
});

test('the shortest way between two bars along x, y and z, however they are turned', async () => {
  const ways = { apart: 'clearance', x: 'distance-x', y: 'distance-y', z: 'distance-z' } as const;
  const measures = Object.fromEntries(Object.entries(ways).map(([name, what]) => [name, pair(what, 'rail_0', 'rail_1')]));
  const level = await read(measured(rails([0, 0, 0], [500, 136, 60]), measures));
  expect(['x', 'y', 'z', 'apart'].map(level)).toEqual(['40 mm', '100 mm', '24 mm', `${Number(Math.hypot(40, 100, 24).toFixed(3))} mm`]);
  // Both turned a quarter about z: what ran along x runs along y.
  const half = Math.SQRT1_2;
  const turned = (origin: [number, number, number]) => ({ at: { origin, turn: [half, 0, 0, half] as [number, number, number, number] } });
  const rack = withComponents(
    withParameters('assembly', 'Rack', {}),
    component('rail_0', 'cross-rail', turned([0, 0, 0])),
    component('rail_1', 'cross-rail', turned([-136, 500, 60])),
  );
  const quarter = await read(measured(rack, measures));
  expect(['x', 'y', 'z'].map(quarter)).toEqual(['100 mm', '40 mm', '24 mm']);
});

test('two holes from axis to axis: side by side, and askew', async () => {
  const plate: Document = {
    ...PartBuilder.block()
      .sketch('bore')
      .circle('bore', 'a', '6 mm', [10, 8], 3)
      .step({ type: 'extrude', id: 'cut', sketch: 'bore', operation: 'remove', extent: 'through', body: 'b' }, {}).document,
    id: 'plate',
    name: 'Plate',
  };
  const hole = (path: string, name = 'cut/side(a)') => ({ path: [path], body: 'b', name });
  const between = (second: string, name?: string): AssemblyMeasure => ({ of: 'components', what: 'axis-distance', on: [hole('one'), hole(second, name)] });
  const upright = [Math.SQRT1_2, Math.SQRT1_2, 0, 0] as [number, number, number, number];
  const rack = withComponents(
    withParameters('assembly', 'Rack', {}),
    component('one', 'plate', at(0, 0, 0)),
    component('beside', 'plate', at(100, 30, 7)),
    // A quarter about x: its hole lies along y.
    component('askew', 'plate', { at: { origin: [100, 30, 0], turn: upright } }),
  );
  const value = await read(measured(rack, { level: between('beside'), across: between('askew'), flat: between('askew', 'block/side(base-0)') }), [plate]);
  expect(value('level')).toBe(`${Number(Math.hypot(100, 30).toFixed(3))} mm`);
  expect(value('across')).toBe('100 mm');
  expect(value('flat')).toBe('Only round faces and edges have an axis.');
});

test('a measured value drives another part; one that drives what it is measured on is a cycle with its path', async () => {
  let rack = measured(rails([0, 0, 0], [0, 136, 0]), { gap: pair('clearance', 'rail_0', 'rail_1') });
  rack = withComponents(rack, component('spacer', 'cross-rail', at(0, 0, 500)));
  rack = driven(rack, 'spacer.rail_length', '3 * gap', ['rail-length']);
  const value = await read(rack);
  expect(value('spacer.rail_length')).toBe('300 mm');
  expect(value('gap')).toBe('100 mm');
  const around = driven(rack, 'rail_1.rail_length', '2 * gap', ['rail-length']);
  const told = await read(around);
  expect(told('gap')).toMatch(/gap/);
  expect(told('gap')).toMatch(/rail_1\.rail_length/);
});

test('a value that is measured inside a sub-assembly is read from above', async () => {
  const unit = measured({ ...rails([0, 0, 0], [0, 136, 0]), id: 'unit', name: 'Unit' }, { gap: pair('clearance', 'rail_0', 'rail_1') });
  const loom = withComponents(withParameters('assembly', 'Loom', { twice: '2 * unit.gap' }), component('unit', 'unit', at(0, 0, 0)));
  const value = await read(loom, [unit]);
  expect(value('twice')).toBe('200 mm');
});

test('a sub-assembly is measured where its own mates put its parts, wherever it stands itself', async () => {
  const mate = { type: 'mate' as const, id: 'apart', name: 'apart', kind: 'coplanar' as const, sense: 1 as const, values: { offset: 'apart-by' } };
  const apart = { type: 'parameter' as const, id: 'apart-by', owner: 'apart', name: 'apart_by', formula: { text: '236 mm' }, kind: 'length' };
  const held = component('rail_0', 'cross-rail', { ...at(0, 0, 0), isAnchored: true });
  const rack = edited(withComponents(withParameters('assembly', 'unit', {}), held, component('rail_1', 'cross-rail', at(0, 50, 0))), {
    type: 'mate.put',
    mate: { ...mate, first: { path: ['rail_0'], plane: 'front' }, second: { path: ['rail_1'], plane: 'front' } },
    values: [apart],
  });
  const unit = measured(rack, { gap: pair('clearance', 'rail_0', 'rail_1'), common: { of: 'assembly', what: 'interference' } });
  // A second rail of the host stands in the first of the unit: what the unit has in common is its own.
  const put = withComponents(
    withParameters('assembly', 'Loom', { seen: 'unit.gap', own: 'unit.common' }),
    component('unit', 'unit', { ...at(1000, 0, 0), isAnchored: true }),
    component('other', 'cross-rail', at(1000, 0, 0)),
    component('third', 'cross-rail', at(1000, 0, 0)),
  );
  const lifted = edited(put, {
    type: 'mate.put',
    mate: { ...mate, first: { path: ['unit'], plane: 'top' }, second: { path: ['third'], plane: 'top' } },
    values: [{ ...apart, formula: { text: '536 mm' } }],
  });
  const loom = measured(lifted, { height: pair('clearance', 'unit', 'third') });
  const value = await read(loom, [unit]);
  expect(value('height')).toBe('500 mm');
  expect(value('seen')).toBe('200 mm');
  expect(Number.parseFloat(value('own'))).toBe(0);
});

test('the size of what is turned is that of the turned body, not of its turned box', async () => {
  const [turn, half] = [Math.PI / 6, Math.PI / 12];
  const turned = { origin: [0, 0, 0] as [number, number, number], turn: [Math.cos(half), 0, 0, Math.sin(half)] as [number, number, number, number] };
  const rack = measured(withComponents(withParameters('assembly', 'Rack', {}), component('rail', 'cross-rail', { at: turned })), {
    long: { of: 'assembly', what: 'size-x' },
    wide: { of: 'assembly', what: 'size-y' },
  });
  const value = await read(rack);
  // A rectangle of 460 by 36 mm, turned by 30 degrees.
  expect(Number.parseFloat(value('long'))).toBeCloseTo(LENGTH * Math.cos(turn) + 36 * Math.sin(turn), 2);
  expect(Number.parseFloat(value('wide'))).toBeCloseTo(LENGTH * Math.sin(turn) + 36 * Math.cos(turn), 2);
  const wheel = measured(
    withComponents(withParameters('assembly', 'Rack', {}), component('beam', 'warp-beam', { at: { ...turned, turn: [Math.cos(half), Math.sin(half), 0, 0] } })),
    {
      high: { of: 'assembly', what: 'size-z' },
      flat: { of: 'assembly', what: 'size-y' },
    },
  );
  const round = await read(wheel, [demoDocument('Warp beam')]);
  // Its ends are round: turned about itself it is as high as it is wide.
  expect(round('high')).toBe(round('flat'));
});

test('what is gone or suppressed is said', async () => {
  const rack = measured(rails([0, 0, 0], [0, 136, 0]), {
    gap: pair('clearance', 'rail_0', 'rail_1'),
    lost: { of: 'components', what: 'clearance', on: [{ path: ['rail_0'], body: 'rail', name: 'nothing/top' }, { path: ['rail_1'] }] },
  });
  const value = await read(rack);
  expect(value('lost')).toMatch(/not there|no longer there/);
  const removed = applyEdit(rack, { type: 'component.remove', id: 'rail_1' });
  if (!removed.ok) throw new Error(removed.failure.message);
  expect((await read(removed.value.document))('gap')).toMatch(/not there now/);
});
