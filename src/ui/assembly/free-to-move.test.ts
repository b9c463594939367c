/** What can still move, in words. */
import type { FreeMotion } from '@/core/assembly';
import { openValues } from '@/core/instances';
import { component, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { freeWords, motionWords, pullOf } from './free-to-move';

const turn = (x: number, y: number, z: number): FreeMotion => ({ shift: [0, -30, 0], turn: [x, y, z] });
const slide = (x: number, y: number, z: number): FreeMotion => ({ shift: [x, y, z], turn: [0, 0, 0] });

test.each([
  [[turn(1, 0, 0)], 'turns about x'],
  [[turn(0, 0, -1), slide(0, 0, 1)], 'turns about z and slides along z'],
  [[slide(1, 0, 0), slide(0, 1, 0)], 'slides along x and y'],
  [[turn(0.6, 0.8, 0)], 'turns about a slanted line'],
  [[turn(1, 0, 0), turn(0, 1, 0), turn(0, 0, 1), slide(1, 0, 0), slide(0, 1, 0), slide(0, 0, 1)], 'turns in any direction and slides in any direction'],
] as const)('%j', (motions, words) => {
  expect(motionWords(motions)).toBe(words);
});

test('what slides is pulled along, what turns by a point beside its axis, which stays as far from it', () => {
  const at = { origin: [5, 6, 7], turn: [1, 0, 0, 0] } as const;
  expect(pullOf(slide(0, 1, 0), at, 1, 100)).toEqual({ point: [0, 0, 0], to: [5, 12, 7] });
  const { point, to } = pullOf({ shift: [0, 0, 0], turn: [0, 0, 1] }, at, 1, 100);
  expect(Math.hypot(...point)).toBeCloseTo(25, 9);
  expect(Math.hypot(to[0] - 5, to[1] - 6)).toBeCloseTo(25, 9);
  expect([point[2], to[2]]).toEqual([0, 7]);
});

test('of several, the first are named and the others counted; those in sub-assemblies by their paths', () => {
  const unit = withComponents(withParameters('assembly', 'unit', {}), component('arm', 'lever'));
  const names = ['a', 'b', 'c', 'd', 'e'];
  const host = withComponents(
    withParameters('assembly', 'host', {}),
    component('unit', 'unit', { isFlexible: true }),
    ...names.map((name) => component(`part_${name}`, 'lever')),
  );
  const values = openValues(host, sourceOf([unit, withParameters('part', 'lever', {})]));
  expect(freeWords(values, new Map([['unit arm', [turn(1, 0, 0)]]]))).toBe('unit.arm turns about x');
  expect(freeWords(values, new Map(names.map((name) => [`part_${name}`, [slide(0, 0, 1)]])))).toBe(
    'part_a slides along z; part_b slides along z; part_c slides along z; part_d slides along z; 1 more can move',
  );
});
