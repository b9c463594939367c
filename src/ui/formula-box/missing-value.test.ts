import { createDocument, DocumentValues, slotOf, tryFormula } from '@/core/document';
import { ANY_SLOT, type Slot } from '@/core/formula';
import { edited } from '../../../tests/support/demo';
import { missingValue, spacedName } from './missing-value';

const document = edited(createDocument('d', 'master', 'Sizes'), {
  type: 'parameter.add',
  parameter: { type: 'parameter', id: 'rail', name: 'rail', formula: { text: '24 mm' }, kind: 'length' },
});
const values = new DocumentValues(document);
const offered = (formula: string, slot: Slot = ANY_SLOT, forId?: string): string | undefined => {
  const missing = missingValue(document, formula, tryFormula(values, formula, slot, forId), slot, forId);
  return missing && `${missing.name} = ${missing.formula}`;
};

test('an unknown name can be made a value: with what stood there where it is all of the formula, else with something of its kind', () => {
  const length = slotOf({ kind: 'length', name: 'rail', owner: undefined });
  expect(offered('small_d', length, 'rail')).toBe('small_d = 24 mm');
  expect(offered('2 * small_d', length, 'rail')).toBe('small_d = 10 mm');
  expect(offered('lean', slotOf({ kind: 'angle', name: 'x', owner: 'step' }))).toBe('lean = 45 deg');
  expect(offered('holes', slotOf({ kind: 'count', name: 'x', owner: 'step' }))).toBe('holes = 1');
});

test('nothing is made of a formula that is right, has another fault, or names what is no value', () => {
  expect(offered('rail / 2')).toBeUndefined();
  expect(offered('rail + 2 kg')).toBeUndefined();
  expect(offered('sin')).toBeUndefined();
  expect(offered('(small_d')).toBeUndefined();
});

test('a name with spaces is told from a comparison and from a formula', () => {
  expect(spacedName('my width = 3 mm')).toEqual({ name: 'my width', from: 0 });
  expect(spacedName('  bore of rail =')).toEqual({ name: 'bore of rail', from: 2 });
  for (const text of ['my_width = 3 mm', 'a == b', 'a >= b', '2 mm + 3 mm = 4', 'rail / 2', '']) expect(spacedName(text)).toBeUndefined();
});
