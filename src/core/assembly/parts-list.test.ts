import { component, driven, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { openValues } from '../instances';
import { listParts, partsTable } from './parts-list';

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
  expect(partsTable(rows).at(-1)).toEqual(['', '6', '', '', '', '', '', '3.9500']);
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
