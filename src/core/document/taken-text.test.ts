import { findUnit, readInUnit } from '../units';
import { tryFormula, DocumentValues, showTaken, type TakenValue } from '.';
import { demoDocument } from '../../../tests/support/demo';
import { kindOfTaken, writeTaken } from './taken-text';

const MM = 10_000;
const celsius = findUnit('°C');
if (!celsius) throw new Error('no °C');
const values = new DocumentValues(demoDocument('Loom sizes'));

test.each<[TakenValue, string, string, string]>([
  [{ kind: 'quantity', dimension: 'length=1', value: 45.4 * MM, unit: 'mm' }, '45.4 mm', '45.4 mm', 'length'],
  [{ kind: 'quantity', dimension: 'length=1', value: 412_750, unit: 'in' }, '1.625 in', '1.625 in', 'length'],
  [{ kind: 'quantity', dimension: 'angle=1', value: 15, unit: 'deg' }, '15 deg', '15°', 'angle'],
  [{ kind: 'quantity', dimension: 'length=-1', value: 4 / 100_000, unit: '/cm' }, '4/cm', '4/cm', 'any'],
  [{ kind: 'quantity', dimension: '', value: 24, unit: '', isCount: true }, '24', '24', 'count'],
  [{ kind: 'quantity', dimension: '', value: 1 / 3, unit: '' }, '0.3333333333333333', '0.333', 'number'],
  [{ kind: 'quantity', dimension: 'length=1', value: 10_000, unit: 'no such unit' }, '1 mm', '1 mm', 'length'],
  [{ kind: 'temperature', value: readInUnit('20', celsius), unit: '°C' }, '20 °C', '20 °C', 'any'],
  [{ kind: 'yes-no', value: 1 }, 'yes', 'yes', 'yes-no'],
  [{ kind: 'text', value: 'M5' }, '"M5"', 'M5', 'text'],
])('%j is written as %s, shown as %s, kept as %s', (value, written, shown, kind) => {
  expect([writeTaken(value), showTaken(value), kindOfTaken(value)]).toEqual([written, shown, kind]);
  expect(tryFormula(values, written).diagnostics).toEqual([]);
});

test('a refused value has no formula', () => {
  const refused: TakenValue = { kind: 'refused', problem: 'gone' };
  expect([writeTaken(refused), showTaken(refused)]).toEqual([undefined, 'error']);
});
