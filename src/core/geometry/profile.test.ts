import { findProfiles, profileArea, type Curve, type Point2 } from '.';

const line = (id: string, start: Point2, end: Point2): Curve => ({ kind: 'line', id, start, end });
const square = (prefix: string, x: number, y: number, size: number): Curve[] => [
  line(`${prefix}1`, [x, y], [x + size, y]),
  line(`${prefix}2`, [x + size, y + size], [x + size, y]),
  line(`${prefix}3`, [x + size, y + size], [x, y + size]),
  line(`${prefix}4`, [x, y], [x, y + size]),
];
const circle = (id: string, x: number, y: number, radius: number): Curve => ({ kind: 'circle', id, centre: [x, y], radius });

test('lines drawn in any direction close into one profile', () => {
  const { profiles, problems } = findProfiles(square('a', 0, 0, 10));
  expect(problems).toEqual([]);
  expect(profiles.map(profileArea)).toEqual([100]);
});

test('a hole, an island in it, and a profile beside', () => {
  const { profiles } = findProfiles([...square('a', 0, 0, 40), circle('hole', 20, 20, 15), ...square('island', 15, 15, 10), circle('beside', 100, 0, 5)]);
  const areas = profiles.map(profileArea).sort((x, y) => x - y);
  expect(areas).toHaveLength(3);
  [25 * Math.PI, 100, 1600 - 225 * Math.PI].sort((x, y) => x - y).forEach((area, i) => expect(areas[i]).toBeCloseTo(area, 9));
});

test('an arc that is more than half a turn counts with all its area', () => {
  const arc: Curve = { kind: 'arc', id: 'arc', start: [3, -4], end: [3, 4], centre: [0, 0], radius: 5 };
  const big: Curve = { kind: 'arc', id: 'big', start: [3, 4], end: [3, -4], centre: [0, 0], radius: 5 };
  const half = Math.atan2(4, 3);
  expect(profileArea(findProfiles([big, line('chord', [3, -4], [3, 4])]).profiles[0] ?? never())).toBeCloseTo(25 * (Math.PI - half) + 12, 9);
  expect(profileArea(findProfiles([arc, line('chord', [3, 4], [3, -4])]).profiles[0] ?? never())).toBeCloseTo(25 * half - 12, 9);
});

test.each<[string, Curve[], string, string[]]>([
  ['nothing', [], 'no-curves', []],
  ['an open end', square('a', 0, 0, 10).slice(0, 3), 'open', ['a1']],
  ['a branch', [...square('a', 0, 0, 10), line('x', [0, 0], [5, 5]), line('y', [5, 5], [0, 10])], 'branching', ['a1', 'a4', 'x']],
  ['a crossing', [line('a', [0, 0], [10, 10]), line('b', [10, 10], [10, 0]), line('c', [10, 0], [0, 10]), line('d', [0, 10], [0, 0])], 'crossing', ['a', 'c']],
  ['a line without length', [line('dot', [1, 1], [1, 1]), ...square('a', 0, 0, 10)], 'zero-size', ['dot']],
  ['a hole across the edge', [...square('a', 0, 0, 10), circle('o', 10, 5, 2)], 'crossing', ['a2', 'o']],
])('%s is reported by curve', (_, curves, code, about) => {
  const { profiles, problems } = findProfiles(curves);
  expect(profiles).toEqual([]);
  expect(problems[0]).toMatchObject({ code, curves: about });
});

function never(): never {
  throw new Error('no profile');
}
