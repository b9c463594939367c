/** Documents at their limits, against limits and sums that are made by hand. */
import { component, driven, linked, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { makeRandom } from '../../../tests/support/random';
import { applyEdit, findRecord, planRestore, type Document, type Tolerance } from '../document';
import { openValues, type InstanceSource } from '../instances';
import { builtAt, listToleranced, stackOf, BUILT_AT } from '.';

const NOBODY = sourceOf([]);
const MM = 10_000;
const symmetric = (by: string): Tolerance => ({ kind: 'symmetric', by: { text: by } });
const deviations = (upper: string, lower: string): Tolerance => ({ kind: 'deviations', upper: { text: upper }, lower: { text: lower } });

function toleranced(document: Document, tolerances: Readonly<Record<string, Tolerance>>): Document {
  return Object.entries(tolerances).reduce(
    (before, [name, tolerance]) => edited(before, { type: 'parameter.update', id: `${document.id}-${name}`, changes: { tolerance } }),
    document,
  );
}

/** In millimetres, to a nanometre. */
const read = (document: Document, id: string, source: InstanceSource = NOBODY): number =>
  Number((openValues(document, source).sheet.readNumber(id) / MM).toFixed(6));

const beam = toleranced(withParameters('part', 'p', { dia: '45 mm', play: '0.4 mm', bore: 'dia + play', wall: '(80 mm - bore) / 2', hub: 'dia * 2' }), {
  dia: symmetric('0.1 mm'),
  bore: { kind: 'fit', fit: 'H7' },
});

test.each([
  // ISO 286-2: H7 from 30 to 50 mm is +0.025/0. The bore stands for itself: its nominal is 45.4 mm whatever the beam is.
  ['upper', { dia: 45.1, bore: 45.425, wall: 17.2875, hub: 90.2 }],
  ['middle', { dia: 45, bore: 45.4125, wall: 17.29375, hub: 90 }],
  ['lower', { dia: 44.9, bore: 45.4, wall: 17.3, hub: 89.8 }],
] as const)('every value at its %s limit, what is made of them by its formula', (at, expected) => {
  const { document } = builtAt(beam, NOBODY, at);
  expect(Object.fromEntries(Object.keys(expected).map((name) => [name, read(document, `p-${name}`)]))).toEqual(expected);
});

test('values that stay at their nominal are not counted, and nothing to move leaves the very document', () => {
  expect(BUILT_AT.map((at) => builtAt(beam, NOBODY, at).count)).toEqual([2, 1, 1]);
  const plain = withParameters('part', 'q', { a: '1 mm' });
  expect(builtAt(plain, NOBODY, 'upper')).toEqual({ document: plain, count: 0, left: [] });
});

test('each value is at a limit of its own; what is not chosen keeps its nominal, whatever it is computed from', () => {
  const { document, count, left } = builtAt(beam, NOBODY, new Map([['p-dia', 'upper']]));
  expect(['dia', 'bore', 'wall', 'hub'].map((name) => read(document, `p-${name}`))).toEqual([45.1, 45.4, 17.3, 90.2]);
  expect([count, left]).toEqual([1, []]);
  const both = builtAt(beam, NOBODY, new Map([['p-dia', 'lower'] as const, ['p-bore', 'upper'] as const])).document;
  expect(['dia', 'bore'].map((name) => read(both, `p-${name}`))).toEqual([44.9, 45.425]);
  expect(builtAt(beam, NOBODY, new Map())).toMatchObject({ document: beam, count: 0 });
});

test('a piece may be off the choices and the limits that its nominal has', () => {
  const board = edited(toleranced(withParameters('part', 'p', { board: '18 mm' }), { board: symmetric('0.2 mm') }), {
    type: 'parameter.update',
    id: 'p-board',
    changes: { choices: ['12 mm', '18 mm'], most: { text: '18 mm' } },
  });
  const { document } = builtAt(board, NOBODY, 'upper');
  expect(openValues(document, NOBODY).show('p-board')).toMatchObject({ shown: '18.2 mm', diagnostics: [] });
});

test('typed lengths are at the limits of the general tolerance where the document has one', () => {
  const general = edited(withParameters('part', 'p', { length: '100 mm', count: '4', half: 'length / 2' }), { type: 'document.setGeneral', general: 'm' });
  const { document, count } = builtAt(general, NOBODY, 'lower');
  expect([count, read(document, 'p-length'), read(document, 'p-half')]).toEqual([1, 99.7, 49.85]);
});

test('a linked value is at the limits that it brings along', () => {
  const part = linked(withParameters('part', 'p', { own: '1 mm' }), 'm', { width: 200 });
  const take = findRecord(part, 'p-takes-width', 'take');
  if (take?.value.kind !== 'quantity') throw new Error('no length');
  const wide = { ...part, records: { ...part.records, [take.id]: { ...take, value: { ...take.value, tolerance: { upper: 0.5 * MM, lower: -0.2 * MM } } } } };
  expect(BUILT_AT.map((at) => read(builtAt(wide, NOBODY, at).document, take.id))).toEqual([200.5, 200.15, 199.8]);
});

test('all that adds up is at the worst case of its stack', () => {
  const plates = toleranced(withParameters('part', 'p', { a: '10 mm', b: '20 mm', c: '30 mm', height: 'a + 2 * b + c' }), {
    a: symmetric('0.1 mm'),
    b: deviations('0.3 mm', '-0.05 mm'),
    c: { kind: 'limits', upper: { text: '30.2 mm' }, lower: { text: '29.7 mm' } },
  });
  const stack = stackOf(plates, 'p-height', NOBODY, { random: makeRandom(1) });
  const at = (which: 'upper' | 'lower'): number => openValues(builtAt(plates, NOBODY, which).document, NOBODY).sheet.readNumber('p-height');
  expect(at('upper')).toBeCloseTo(stack?.worstCase.upper ?? NaN, 6);
  expect(at('lower')).toBeCloseTo(stack?.worstCase.lower ?? NaN, 6);
});

describe('in an assembly', () => {
  const rail = toleranced(withParameters('part', 'rail', { length: '300 mm', tenon: '20 mm', board: '18 mm', whole: 'length + 2 * tenon' }), {
    length: symmetric('0.5 mm'),
    tenon: symmetric('0.2 mm'),
    board: symmetric('0.1 mm'),
  });
  const chosen = edited(rail, { type: 'parameter.update', id: 'rail-board', changes: { choices: ['15 mm', '18 mm'] } });
  const unit = withComponents(withParameters('assembly', 'unit', {}), component('one', 'rail'));
  const source = sourceOf([chosen, unit]);
  const loom = withComponents(
    toleranced(withParameters('assembly', 'loom', { width: '500 mm', total: 'front.whole + inner.one.whole' }), { width: symmetric('1 mm') }),
    component('front', 'rail'),
    component('inner', 'unit'),
  );

  test('components are at their limits too, also inside others, from the nominal that they are set to here', () => {
    const set = driven(loom, 'front.length', 'width - 100 mm');
    const { document, count, left } = builtAt(set, source, 'upper');
    // The length is set to 400 mm here, and is off by its own tolerance: that of the width does not count beside it.
    expect(read(document, 'loom-total', source)).toBeCloseTo(400.5 + 2 * 20.2 + 300.5 + 2 * 20.2, 6);
    const tenon = listToleranced(set, source).find(({ name }) => name === 'front.tenon');
    const one = builtAt(set, source, new Map([[tenon?.path ?? '', 'lower']]));
    expect(read(one.document, 'loom-total', source)).toBeCloseTo(400 + 2 * 19.8 + 300 + 2 * 20, 6);
    expect([one.count, one.left]).toEqual([1, []]);
    // Width, and length and tenon of both rails.
    expect(count).toBe(5);
    expect(left.toSorted()).toEqual(['front.board', 'inner.one.board']);
    // As a page shows it: one edit that can be taken back.
    const shown = applyEdit(set, planRestore(set, document));
    if (!shown.ok) throw new Error(shown.failure.message);
    expect(read(shown.value.document, 'loom-total', source)).toBe(read(document, 'loom-total', source));
    const back = applyEdit(shown.value.document, shown.value.inverse);
    expect(back.ok && back.value.document).toEqual(set);
  });
});
