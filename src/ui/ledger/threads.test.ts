import { cutThreads, findThreads } from './threads';

const rows: Readonly<Record<string, number>> = { a: 10, b: 40, c: 70, d: 500, e: 600, above: -50 };
const planThreads = (value: string, reads: readonly string[], drives: readonly string[]) => {
  const all = findThreads(value, reads, drives, (id) => rows[id]);
  return all && cutThreads(all, { top: 0, bottom: 300 });
};

test('threads run to what is in sight', () => {
  expect(planThreads('b', ['a'], ['c'])).toEqual({
    y: 40,
    threads: [
      { id: 'a', kind: 'reads', y: 10 },
      { id: 'c', kind: 'drives', y: 70 },
    ],
    bundles: [],
  });
});

test('what is out of sight ends in a count that leads to the nearest', () => {
  expect(planThreads('a', ['above'], ['c', 'e', 'd'])?.bundles).toEqual([
    { kind: 'reads', edge: 'top', count: 1, nearest: 'above' },
    { kind: 'drives', edge: 'bottom', count: 2, nearest: 'd' },
  ]);
});

test('a value met twice is one thread; one without a row is none', () => {
  expect(planThreads('a', [], ['b', 'b', 'nowhere'])?.threads).toEqual([{ id: 'b', kind: 'drives', y: 40 }]);
});

test('a value that has no row has no threads', () => {
  expect(planThreads('nowhere', ['a'], [])).toBeUndefined();
});
