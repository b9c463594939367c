import fc from 'fast-check';
import { ByValue } from './by-value';

const numbers = fc.array(fc.integer({ min: -20, max: 20 }), { maxLength: 25 });
const numbered = (list: readonly number[]) => list.map((value, id) => ({ id, value }));

function pairsOf(list: readonly number[], partner: (value: number) => number): string[] {
  const found: string[] = [];
  new ByValue(numbered(list)).visitPairs(partner, (first, second) => found.push(`${first.id} ${second.id}`) > 0);
  return found.sort();
}

function allPairs(list: readonly number[], partner: (value: number) => number): string[] {
  return list.flatMap((first, i) => list.flatMap((second, k) => (i !== k && second === partner(first) ? [`${i} ${k}`] : []))).sort();
}

test('what is equal to a number is found, as often as it stands there', () => {
  fc.assert(
    fc.property(numbers, fc.integer({ min: -20, max: 20 }), (list, wanted) => {
      const found = new ByValue(numbered(list)).equalTo(wanted).map(({ id }) => id);
      expect(found.sort((a, b) => a - b)).toEqual(list.flatMap((value, i) => (value === wanted ? [i] : [])));
    }),
  );
});

test('sums and differences are found as by looking at all pairs', () => {
  fc.assert(
    fc.property(numbers, fc.integer({ min: -20, max: 20 }), (list, wanted) => {
      for (const partner of [(value: number) => wanted - value, (value: number) => value - wanted]) {
        expect(pairsOf(list, partner)).toEqual(allPairs(list, partner));
      }
    }),
  );
});

test('rounding keeps nothing apart, and the visit ends when it is told to', () => {
  expect(new ByValue([{ value: 0.1 + 0.2 }]).equalTo(0.3)).toHaveLength(1);
  let visits = 0;
  new ByValue(numbered([1, 2, 3, 4])).visitPairs(
    (value) => 5 - value,
    () => {
      visits++;
      return false;
    },
  );
  expect(visits).toBe(1);
});
