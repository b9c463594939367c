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
  ['an end that hangs inside', [...square('a', 0, 0, 10), line('x', [0, 5], [5, 5])], 'open', ['x']],
  ['a line between two outlines', [...square('a', 0, 0, 10), ...square('b', 20, 0, 10), line('x', [10, 5], [20, 5])], 'open', ['x']],
  ['two outlines that meet in a corner', [...square('a', 0, 0, 10), ...square('b', 10, 10, 10)], 'touching', ['a3', 'a2', 'b1', 'b4']],
  ['a line without length', [line('dot', [1, 1], [1, 1]), ...square('a', 0, 0, 10)], 'zero-size', ['dot']],
])('%s is reported by curve', (_, curves, code, about) => {
  const { profiles, problems } = findProfiles(curves);
  expect(profiles).toEqual([]);
  expect(problems[0]?.code).toBe(code);
  expect([...(problems[0]?.curves ?? [])].sort()).toEqual([...about].sort());
});

test('a line across divides the region and changes nothing of its outline', () => {
  const { profiles, problems } = findProfiles([...square('a', 0, 0, 10), line('x', [0, 5], [10, 5]), line('y', [5, 0], [5, 10])]);
  expect(problems).toEqual([]);
  expect(profiles).toHaveLength(1);
  expect(profiles[0]?.outer.curves.map(({ curve }) => curve.id).sort()).toEqual(['a1', 'a2', 'a3', 'a4']);
  expect(profiles.map(profileArea)).toEqual([100]);
});

test('shapes that overlap are one region', () => {
  const lens = findProfiles([circle('a', 0, 0, 5), circle('b', 6, 0, 5)]);
  // Two circles of radius 5 with centres 6 apart: each loses a segment with the half angle acos(3/5).
  const half = Math.acos(3 / 5);
  const segment = 25 * (half - Math.sin(half) * Math.cos(half));
  expect(lens.profiles.map(profileArea)[0]).toBeCloseTo(2 * (25 * Math.PI - segment), 9);
  const ell = findProfiles([...square('a', 0, 0, 10), ...square('b', 5, 5, 10)]);
  expect(ell.profiles.map(profileArea)).toEqual([175]);
});

test('a bar laid twice over the same edge counts once', () => {
  const { profiles, problems } = findProfiles([...square('a', 0, 0, 10), ...square('b', 10, 2, 5)]);
  expect(problems).toEqual([]);
  expect(profiles.map(profileArea)).toEqual([125]);
});

test('a circle that touches the edge from inside is a division, not a hole', () => {
  const { profiles, problems } = findProfiles([...square('a', 0, 0, 10), circle('o', 5, 2, 2)]);
  expect(problems).toEqual([]);
  expect(profiles.map(profileArea)).toEqual([100]);
});

test('arcs that run on tangentially close a slot', () => {
  const slot: Curve[] = [
    line('top', [10, 2], [0, 2]),
    { kind: 'arc', id: 'left', start: [0, 2], end: [0, -2], centre: [0, 0], radius: 2 },
    line('bottom', [0, -2], [10, -2]),
    { kind: 'arc', id: 'right', start: [10, -2], end: [10, 2], centre: [10, 0], radius: 2 },
  ];
  expect(findProfiles(slot).profiles.map(profileArea)[0]).toBeCloseTo(40 + 4 * Math.PI, 9);
});

function never(): never {
  throw new Error('no profile');
}
