import { component, driven, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { openValues } from '../instances';
import { listParts, listPartsByLevel, partsTable } from './parts-list';

const rail = edited(withParameters('part', 'Rail', { length: '400 mm' }), {
  type: 'body.put',
  body: { type: 'body', id: 'b', name: 'Bar', material: 'Beech' },
});
const pin = withParameters('part', 'Pin', { dia: '6 mm' });
const unit = withComponents(withParameters('assembly', 'Unit', {}), component('low', 'Rail'), component('pin', 'Pin'));
const loom = driven(
  withComponents(
    withParameters('assembly', 'Loom', {}),
    component('front_rail', 'Rail'),
    component('short', 'Rail'),
    component('near', 'Unit'),
    component('far', 'Unit'),
    component('off', 'Pin', { suppressed: { text: 'yes' } }),
  ),
  'short.length',
  '300 mm',
);

const weighing = (kilograms: (key: string) => number | undefined) =>
  sourceOf([rail, pin, unit], (key) => {
    const mass = kilograms(key);
    return mass === undefined ? undefined : { measured: {}, mass: { value: mass * 1e8 }, volume: { value: 0 } };
  });

test('each make once, with how many, what is set in it and what it weighs; through sub-assemblies, without what is suppressed', () => {
  const source = weighing((key) => (key.startsWith('Pin') ? 0.1 : key.includes('?') ? 0.75 : 1));
  const rows = listParts(openValues(loom, source), source);
  expect(rows.map(({ item, quantity, document, set, materials }) => [item, quantity, document, set, materials])).toEqual([
    [1, 3, 'Rail', '', 'Beech'],
    [2, 1, 'Rail', 'length 300 mm', 'Beech'],
    [3, 2, 'Pin', '', ''],
  ]);
  expect(partsTable(rows).at(-1)).toEqual(['', '6', '', '', '', '', '', '', '', '3.9500']);
});

test('by level each assembly is followed by what it is made of, and weighs as much as that', () => {
  const source = weighing((key) => (key.startsWith('Pin') ? 0.1 : key.includes('?') ? 0.75 : 1));
  const rows = listPartsByLevel(openValues(loom, source), source);
  expect(rows.map(({ item, quantity, document, mass }) => [item, quantity, document, mass])).toEqual([
    ['1', 1, 'Rail', 1],
    ['2', 1, 'Rail', 0.75],
    ['3', 2, 'Unit', 1.1],
    ['3.1', 1, 'Rail', 1],
    ['3.2', 1, 'Pin', 0.1],
  ]);
  expect(partsTable(rows).at(-1)).toEqual(['', '4', '', '', '', '', '', '', '', '3.9500']);
});

test('what texts of a part call it stands in columns of its own, as it is in its size or as the assembly sets it', () => {
  const named = withParameters(
    'part',
    'Rail',
    { part_number: '"R-40"', description: '"Cross rail"', length: '400 mm' },
    { part_number: 'text', description: 'text' },
  );
  const host = driven(
    withComponents(withParameters('assembly', 'Loom', {}), component('one', 'Rail'), component('other', 'Rail')),
    'other.part_number',
    '"R-30"',
  );
  const source = sourceOf([named]);
  expect(listParts(openValues(host, source), source).map(({ number, description, set }) => [number, description, set])).toEqual([
    ['R-40', 'Cross rail', ''],
    ['R-30', 'Cross rail', ''],
  ]);
});

test('what is not built has no mass, and then there is no sum', () => {
  const source = weighing((key) => (key.startsWith('Pin') ? undefined : 1));
  const table = partsTable(listParts(openValues(loom, source), source));
  expect(table[3]?.slice(-2)).toEqual(['', '']);
  expect(table.at(-1)?.at(-1)).toBe('');
});

test('an empty assembly has a heading and nothing in it', () => {
  const source = weighing(() => undefined);
  expect(partsTable(listParts(openValues(withParameters('assembly', 'Empty', {}), source), source))).toHaveLength(2);
});
