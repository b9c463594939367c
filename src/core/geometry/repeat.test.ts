import { findProfiles, profileArea, repeatCurves, type Curve } from '.';

const bar: Curve[] = [
  { kind: 'line', id: 'a', start: [10, -1], end: [20, -1] },
  { kind: 'line', id: 'b', start: [20, -1], end: [20, 1] },
  { kind: 'line', id: 'c', start: [20, 1], end: [10, 1] },
  { kind: 'line', id: 'd', start: [10, 1], end: [10, -1] },
];

test('a row: copies lie one pitch apart, and the original is not repeated', () => {
  const copies = repeatCurves(bar, { form: 'linear', direction: [0, 1], pitch: 5, count: 4 });
  expect(copies).toHaveLength(12);
  expect(copies[0]).toEqual({ kind: 'line', id: 'a~1', start: [10, 4], end: [20, 4] });
  expect(findProfiles([...bar, ...copies]).profiles).toHaveLength(4);
});

test('a ring: every copy is congruent, arcs keep their sense', () => {
  const sector: Curve[] = [
    { kind: 'arc', id: 'rim', start: [20, 0], end: [0, 20], centre: [0, 0], radius: 20 },
    { kind: 'line', id: 'in', start: [0, 20], end: [0, 15] },
    { kind: 'arc', id: 'bore', start: [15, 0], end: [0, 15], centre: [0, 0], radius: 15 },
    { kind: 'line', id: 'out', start: [15, 0], end: [20, 0] },
  ];
  const { profiles, problems } = findProfiles(repeatCurves(sector, { form: 'circular', centre: [100, 0], pitch: Math.PI / 3, count: 6 }));
  expect(problems).toEqual([]);
  expect(profiles).toHaveLength(5);
  for (const profile of profiles) expect(profileArea(profile)).toBeCloseTo(((400 - 225) * Math.PI) / 4, 9);
});

test.each([0, 1])('a count of %d adds nothing', (count) => {
  expect(repeatCurves(bar, { form: 'linear', direction: [1, 0], pitch: 30, count })).toEqual([]);
});
