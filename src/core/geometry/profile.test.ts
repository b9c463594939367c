import fc from 'fast-check';
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

test.each([
  ['the edge from inside', [...square('a', 0, 0, 10), circle('o', 5, 2, 2)], ['a1', 'o'], [5, 0]],
  ['the edge from inside, but for less than a rounding', [...square('a', 0, 0, 10), circle('o', 5, 2.0000001, 2)], ['a1', 'o'], [5, 0]],
  ['the inner wall of a ring', [circle('rim', 0, 0, 50), circle('bore', 0, 0, 30), circle('o', 25, 0, 5)], ['bore', 'o'], [30, 0]],
  ['another one beside it', [...square('a', 0, 0, 10), circle('o', 3, 5, 2), circle('p', 7, 5, 2)], ['o', 'p'], [5, 5]],
])('a circle that touches %s is told, not filled', (_, curves, about, at) => {
  const { profiles, problems } = findProfiles(curves);
  expect(profiles).toEqual([]);
  expect(problems.map(({ code, curves: ids }) => [code, [...ids].sort()])).toEqual([['touching', about]]);
  expect(Math.hypot((problems[0]?.at?.[0] ?? NaN) - (at[0] ?? NaN), (problems[0]?.at?.[1] ?? NaN) - (at[1] ?? NaN))).toBeLessThan(1e-6);
});

test('circles on a grid: nested and apart they bound by turns, touching they are told', () => {
  const places = fc.record({ x: fc.integer({ min: -6, max: 6 }), y: fc.integer({ min: -6, max: 6 }), r: fc.integer({ min: 1, max: 6 }) });
  let sound = 0;
  let touching = 0;
  fc.assert(
    fc.property(fc.uniqueArray(places, { minLength: 2, maxLength: 5, selector: ({ x, y, r }) => `${x} ${y} ${r}` }), (discs) => {
      const pairs = discs.flatMap((a, i) => discs.slice(i + 1).map((b) => [a, b] as const));
      const gap = ({ x, y }: (typeof discs)[number], other: (typeof discs)[number]): number => Math.hypot(x - other.x, y - other.y);
      if (pairs.some(([a, b]) => gap(a, b) < a.r + b.r && gap(a, b) > Math.abs(a.r - b.r))) return;
      const { profiles, problems } = findProfiles(discs.map(({ x, y, r }, i) => circle(`c${i}`, x, y, r)));
      if (pairs.some(([a, b]) => gap(a, b) === a.r + b.r || gap(a, b) === Math.abs(a.r - b.r))) {
        touching++;
        expect(problems.map(({ code }) => code)).toContain('touching');
        return;
      }
      sound++;
      const depth = (disc: (typeof discs)[number]): number => discs.filter((other) => other.r > disc.r && gap(other, disc) < other.r).length;
      const area = discs.reduce((sum, disc) => sum + (depth(disc) % 2 === 0 ? 1 : -1) * Math.PI * disc.r ** 2, 0);
      expect(problems).toEqual([]);
      expect(profiles.reduce((sum, profile) => sum + profileArea(profile), 0)).toBeCloseTo(area, 9);
    }),
    { numRuns: 5000 },
  );
  expect(Math.min(sound, touching)).toBeGreaterThan(50);
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
