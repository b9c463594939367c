import { planThreads, type RowPlaces } from './threads';

const rows: Readonly<Record<string, number>> = { a: 10, b: 40, c: 70, d: 500, e: 600, above: -50 };
const places: RowPlaces = { middleOf: (id) => rows[id], top: 0, bottom: 300 };

test('threads run to what is in sight', () => {
  expect(planThreads('b', ['a'], ['c'], places)).toEqual({
    y: 40,
    threads: [
      { id: 'a', kind: 'reads', y: 10 },
      { id: 'c', kind: 'drives', y: 70 },
    ],
    bundles: [],
  });
});

test('what is out of sight ends in a count that leads to the nearest', () => {
  expect(planThreads('a', ['above'], ['c', 'e', 'd'], places)?.bundles).toEqual([
    { kind: 'reads', edge: 'top', count: 1, nearest: 'above' },
    { kind: 'drives', edge: 'bottom', count: 2, nearest: 'd' },
  ]);
});

test('a value met twice is one thread; one without a row is none', () => {
  expect(planThreads('a', [], ['b', 'b', 'nowhere'], places)?.threads).toEqual([{ id: 'b', kind: 'drives', y: 40 }]);
});

test('a value that has no row has no threads', () => {
  expect(planThreads('nowhere', ['a'], [], places)).toBeUndefined();
});
