import { sourceOf, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { makeRandom } from '../../../tests/support/random';
import { openValues } from '../instances';
import { fitOf, stackOf } from '.';

const NOBODY = sourceOf([]);
const MICROMETRE = 10;

/** A bore and a shaft of one nominal, each with a class. */
function fit(hole: string, shaft: string, nominal = '45 mm', play = 'bore - journal') {
  const plain = withParameters('part', 'p', { bore: nominal, journal: nominal, play });
  const document = [hole, shaft].reduce(
    (before, text, i) => edited(before, { type: 'parameter.update', id: i === 0 ? 'p-bore' : 'p-journal', changes: { tolerance: { kind: 'fit', fit: text } } }),
    plain,
  );
  const stack = stackOf(document, 'p-play', NOBODY, { random: makeRandom(1) });
  const found = stack && fitOf(openValues(document, NOBODY), 'p-play', stack);
  return found && { ...found, least: Math.round(found.least / MICROMETRE), most: Math.round(found.most / MICROMETRE) };
}

// Limits of ISO 286-2 for 45 mm, from memory of the standard: H7 +25/0, g6 -9/-25, k6 +18/+2, p6 +42/+26, s6 +59/+43, h6 0/-16.
test.each([
  ['H7', 'g6', 'clearance', 9, 50],
  ['H7', 'h6', 'clearance', 0, 41],
  ['H7', 'k6', 'transition', -18, 23],
  ['H7', 'p6', 'interference', -42, -1],
  ['H7', 's6', 'interference', -59, -18],
])('%s/%s on 45 mm', (hole, shaft, kind, least, most) => {
  expect(fit(hole, shaft)).toEqual({ kind, least, most, hole: 'bore', shaft: 'journal', classes: `${hole}/${shaft}` });
});

test('only a length less another is a fit', () => {
  expect(fit('H7', 'g6', '45 mm', 'bore + journal')).toBeUndefined();
  expect(fit('H7', 'g6', '45 mm', 'bore - 2 * journal')).toBeUndefined();
  expect(fit('H7', 'g6', '45 mm', '(bore - journal) / 1 mm')).toBeUndefined();
});
