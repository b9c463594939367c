import { findPath, placeAlong, type Curve, type PlanePath } from './index';

const line = (id: string, start: readonly [number, number], end: readonly [number, number]): Curve => ({ kind: 'line', id, start, end });
const QUARTER: Curve = { kind: 'arc', id: 'bend', start: [10, 0], end: [15, 5], centre: [10, 5], radius: 5 };

function path(curves: readonly Curve[]): PlanePath {
  const found = findPath(curves);
  if (!found.ok) throw new Error(found.failure.kind);
  return found.value;
}

test('a chain is found whatever way its curves were drawn, and starts at the free end of the first', () => {
  const chain = path([line('a', [0, 0], [10, 0]), line('c', [15, 20], [15, 5]), QUARTER]);
  expect(chain.curves.map(({ curve, isReversed }) => [curve.id, isReversed])).toEqual([
    ['a', false],
    ['bend', false],
    ['c', true],
  ]);
  expect(chain.isClosed).toBe(false);
  expect(chain.length).toBeCloseTo(25 + (5 * Math.PI) / 2, 12);
});

test('a place along a chain lies on the curve that the distance falls on, with its direction', () => {
  const chain = path([line('a', [0, 0], [10, 0]), QUARTER, line('c', [15, 20], [15, 5])]);
  expect(placeAlong(chain, 4)).toEqual({ at: [4, 0], heading: 0 });
  const bent = placeAlong(chain, 10 + (5 * Math.PI) / 4);
  expect(bent.at[0]).toBeCloseTo(10 + 5 * Math.SQRT1_2, 12);
  expect(bent.at[1]).toBeCloseTo(5 - 5 * Math.SQRT1_2, 12);
  expect(bent.heading).toBeCloseTo(Math.PI / 4, 12);
  const last = placeAlong(chain, chain.length - 3);
  expect(last.at[1]).toBeCloseTo(17, 12);
  expect(Math.sin(last.heading)).toBeCloseTo(1, 12);
});

test('past its end an open path goes on straight, and a closed one round again', () => {
  const open = path([line('a', [0, 0], [10, 0]), QUARTER]);
  const beyond = placeAlong(open, open.length + 2);
  expect(beyond.at[0]).toBeCloseTo(15, 12);
  expect(beyond.at[1]).toBeCloseTo(7, 12);
  const ring = path([{ kind: 'circle', id: 'r', centre: [0, 0], radius: 2 }]);
  expect(placeAlong(ring, ring.length * 1.25).at[1]).toBeCloseTo(2, 12);
  const square = path([line('1', [0, 0], [4, 0]), line('2', [4, 0], [4, 4]), line('3', [4, 4], [0, 4]), line('4', [0, 4], [0, 0])]);
  expect(square.isClosed).toBe(true);
  expect(placeAlong(square, 18).at).toEqual([2, 0]);
});

test('curves that form no one chain are told with the curve where that is seen', () => {
  expect(findPath([])).toMatchObject({ failure: { kind: 'empty' } });
  expect(findPath([line('a', [0, 0], [10, 0]), line('b', [20, 0], [30, 0])])).toMatchObject({ failure: { kind: 'apart', curve: 'b' } });
  expect(findPath([line('a', [0, 0], [10, 0]), line('b', [10, 0], [20, 0]), line('c', [10, 0], [10, 9])])).toMatchObject({
    failure: { kind: 'branching', curve: 'c' },
  });
});

test('an open path begins at the end that was drawn first, whichever way its curves are kept', () => {
  const found = findPath([QUARTER, line('c', [15, 20], [15, 5])], ([, y]) => -y);
  expect(found.ok && found.value.curves.map(({ curve, isReversed }) => [curve.id, isReversed])).toEqual([
    ['c', false],
    ['bend', true],
  ]);
  // An arc that is drawn clockwise is kept the other way round.
  const arc = findPath([QUARTER], ([x]) => -x);
  expect(arc.ok && placeAlong(arc.value, 0).at).toEqual([15, 5]);
});
