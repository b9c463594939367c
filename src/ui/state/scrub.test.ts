import { addToNumber, canStep, stepNumber } from './scrub';

test.each([
  ['18 mm', 3, '21 mm'],
  ['18mm', -20, '-2mm'],
  ['0.4 mm', 1, '0.5 mm'],
  ['45.40 mm', -45, '44.95 mm'],
  ['24', 1, '25'],
  ['1200 mm', 2, '1220 mm'],
  ['-1 deg', 1, '0 deg'],
  ['4/cm', 1, undefined],
  ['2 * rise', 1, undefined],
  ['weave', 1, undefined],
  ['1 mm + 2 mm', 1, undefined],
  ['7.85 g/cm^3', 1, undefined],
  ['12 mm^2', 1, '13 mm^2'],
  ['90°', -5, '85°'],
])('%s by %d steps is %s', (text, steps, expected) => {
  expect(stepNumber(text, steps)).toBe(expected);
  expect(canStep(text)).toBe(expected !== undefined);
});

test('a dragged length keeps its unit and is rounded', () => {
  expect(addToNumber('18 mm', 2.4567, 1)).toBe('20.5 mm');
  expect(addToNumber('2 in', -0.254, 2)).toBe('1.75 in');
  expect(addToNumber('rise', 1, 1)).toBeUndefined();
});
