/** Which holes and shafts are offered together. */
import type { PlacedCylinder } from '../state/assembly-geometry';
import { fittingPairs } from './fitting-pairs';

const cylinder = (component: string, name: string, radius: number): PlacedCylinder => ({
  path: [component],
  body: 'b',
  name,
  shape: { kind: 'round', area: 1, radius, axis: { origin: [0, 0, 0], direction: [0, 0, 1] } },
  at: { origin: [0, 0, 0], turn: [1, 0, 0, 0] },
});
const told = (all: readonly PlacedCylinder[], isMated: (first: string, second: string) => boolean = () => false) =>
  fittingPairs(all, 'shaft', isMated).map(({ first, second }) => `${second.name} in ${first.path[0] ?? ''}.${first.name}`);

test('what is as large, the nearest first; a hole with play too, and no other', () => {
  const all = [
    cylinder('shaft', 'journal', 10),
    cylinder('shaft', 'body', 25),
    cylinder('plate', 'bore', 10),
    cylinder('plate', 'screw', 3.3),
    cylinder('wheel', 'hub', 10.2),
  ];
  expect(told(all)).toEqual(['journal in plate.bore', 'journal in wheel.hub']);
});

test('equal holes of one component are one offer; what is mated already is none', () => {
  const all = [cylinder('shaft', 'journal', 10), cylinder('plate', 'left', 10), cylinder('plate', 'right', 10), cylinder('wheel', 'hub', 10)];
  expect(told(all)).toEqual(['journal in plate.left', 'journal in wheel.hub']);
  expect(told(all, (_, second) => second === 'plate')).toEqual(['journal in wheel.hub']);
  expect(told([cylinder('shaft', 'a', 5), cylinder('shaft', 'b', 5)])).toEqual([]);
});
