import { sourceOf, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { makeRandom } from '../../../tests/support/random';
import { openValues } from '../instances';
import { chainOf, stackOf } from '.';

const NOBODY = sourceOf([]);
const MM = 10_000;

function chain(formulas: Readonly<Record<string, string>>, of: string, ...toleranced: readonly string[]) {
  const document = edited(
    withParameters('part', 'p', formulas),
    ...toleranced.map(
      (name) => ({ type: 'parameter.update', id: `p-${name}`, changes: { tolerance: { kind: 'symmetric', by: { text: '0.1 mm' } } } }) as const,
    ),
  );
  const stack = stackOf(document, `p-${of}`, NOBODY, { random: makeRandom(1) });
  return stack && chainOf(openValues(document, NOBODY), `p-${of}`, stack)?.map(({ name, from, to }) => [name, Math.round(from / MM), Math.round(to / MM)]);
}

test('what adds goes on, what takes away comes back, and the chain ends at the value', () => {
  expect(chain({ bore: '50 mm', shaft: '41 mm', washer: '3 mm', gap: 'bore - shaft - 2 * washer' }, 'gap', 'bore', 'shaft', 'washer')).toEqual([
    ['bore', 0, 50],
    // Twice three: it counts for most of what may be off.
    ['washer', 50, 44],
    ['shaft', 44, 3],
  ]);
});

test('what has no tolerance closes it', () => {
  expect(chain({ bore: '50 mm', shaft: '41 mm', gap: 'bore - shaft - 6 mm' }, 'gap', 'bore', 'shaft')).toEqual([
    ['bore', 0, 50],
    ['shaft', 50, 9],
    ['without a tolerance', 9, 3],
  ]);
});

test('no chain where a contributor is of another kind, bends just there, or there is none', () => {
  expect(chain({ a: '3 mm', b: '4 mm', area: 'a * b' }, 'area', 'a', 'b')).toBeUndefined();
  expect(chain({ a: '3 mm', b: '3 mm', most: 'max(a, b)' }, 'most', 'a', 'b')).toBeUndefined();
  expect(chain({ a: '3 mm', b: 'a + 1 mm' }, 'b')).toBeUndefined();
});
