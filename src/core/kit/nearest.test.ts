import fc from 'fast-check';
import { findNearest, nameNearest } from './nearest';

/** Optimal string alignment as textbooks have it: the whole table, from the definition. */
function tableDistance(a: string, b: string): number {
  const table = Array.from({ length: a.length + 1 }, (_, i) => Array.from({ length: b.length + 1 }, (_, j) => (i === 0 ? j : j === 0 ? i : 0)));
  const at = (i: number, j: number): number => table[i]?.[j] ?? Infinity;
  for (let i = 1; i <= a.length; i++) {
    for (let j = 1; j <= b.length; j++) {
      const swapped = i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1] ? at(i - 2, j - 2) + 1 : Infinity;
      (table[i] ?? [])[j] = Math.min(at(i - 1, j) + 1, at(i, j - 1) + 1, at(i - 1, j - 1) + (a[i - 1] === b[j - 1] ? 0 : 1), swapped);
    }
  }
  return at(a.length, b.length);
}

const name = fc.string({ unit: fc.constantFrom('a', 'b', 'c', '_', 'A', '1', 'ä', '直'), maxLength: 12 });

test('what is near is what the whole table of distances says, in its order', () => {
  fc.assert(
    fc.property(name, fc.uniqueArray(name, { maxLength: 8 }), (input, names) => {
      const expected = names
        .map((whole) => {
          const [typed, other] = [input.toLowerCase(), whole.toLowerCase()];
          const longer = Math.max(input.length, whole.length);
          const isBegun = typed.length > 1 && other.startsWith(typed);
          return { whole, distance: isBegun ? 0.5 : tableDistance(typed, other), allowed: Math.min(Math.floor(0.4 * longer) + 1, 0.6 * longer) };
        })
        .filter(({ distance, allowed }) => distance <= allowed)
        .sort((one, other) => one.distance - other.distance || (one.whole < other.whole ? -1 : 1))
        .map(({ whole }) => whole);
      expect(findNearest(input, names, names.length)).toEqual(expected);
    }),
  );
});

test.each([
  ['beam_dai', ['beam_dia', 'beam_length', 'teeth'], ' Did you mean beam_dia?'],
  ['WIDTH', ['width', 'rail'], ' Did you mean width?'],
  ['rai', ['rail', 'reel'], ' Did you mean rail?'],
  ['rael', ['rail', 'reel'], ' Did you mean rail or reel?'],
  ['teeth', ['rail', 'beam_dia'], ''],
])('%s', (typed, names, words) => {
  expect(nameNearest(typed, names)).toBe(words);
});
