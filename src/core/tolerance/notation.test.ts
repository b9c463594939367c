import { readTolerance, writeTolerance } from './notation';

test.each([
  ['±0.1', { kind: 'symmetric', by: '0.1' }, '±0.1'],
  ['+-0.1 mm', { kind: 'symmetric', by: '0.1 mm' }, '±0.1 mm'],
  ['+/- play / 2', { kind: 'symmetric', by: 'play / 2' }, '±play / 2'],
  ['+0.2/-0.1', { kind: 'deviations', upper: '0.2', lower: '-0.1' }, '+0.2/-0.1'],
  ['0/-0.05 mm', { kind: 'deviations', upper: '0', lower: '-0.05 mm' }, '0/-0.05 mm'],
  ['-0.1 / -0.3', { kind: 'deviations', upper: '-0.1', lower: '-0.3' }, '-0.1/-0.3'],
  ['44.9..45.1', { kind: 'limits', lower: '44.9', upper: '45.1' }, '44.9..45.1'],
  ['44.9 mm to 45.1 mm', { kind: 'limits', lower: '44.9 mm', upper: '45.1 mm' }, '44.9 mm..45.1 mm'],
  ['H7', { kind: 'fit', fit: 'H7' }, 'H7'],
  ['js9', { kind: 'fit', fit: 'js9' }, 'js9'],
])('%s is read, and written back', (text, tolerance, written) => {
  const read = readTolerance(text);
  expect(read).toEqual(tolerance);
  expect(read && writeTolerance(read)).toBe(written);
  expect(readTolerance(written)).toEqual(tolerance);
});

test.each(['', '0.1', 'H99', 'q6', '+0.1', 'about 3'])('%s is no tolerance', (text) => {
  expect(readTolerance(text)).toBeUndefined();
});
