/**
 * A stack through a sketch: the one-way clutch that K. W. Chase uses as an example (Tolerance Analysis of 2-D and 3-D Assemblies, ADCATS report 99-4, Brigham
 * Young University), drawn instead of computed. Sizes and angle are from memory of the report; the slopes by the calculus, here.
 */
import { DocumentValues, type Tolerance } from '@/core/document';
import { slopesOfReading } from '@/core/steps';
import { evenNumbers, needsGeometry, stackOf } from '@/core/studies';
import { sourceOf } from '../support/assemblies';
import { PartBuilder } from '../support/part-builder';

const symmetric = (by: string): Tolerance => ({ kind: 'symmetric', by: { text: by } });
const [A, C, E] = [27.645, 11.43, 50.8];
const PHI = Math.acos((A + C) / (E - C));

/** A hub with a flat, a roller on it and a ring around both; the angle between the upright and the line from the middle to that of the roller. */
const CLUTCH = new PartBuilder()
  .value('hub', `${A} mm`, 'length')
  .value('roller', `${C} mm`, 'length')
  .value('ring', `${E} mm`, 'length')
  .sketch('front')
  .do({
    type: 'sketch.draw',
    sketch: 'front',
    entities: [
      { type: 'point', id: 'o', sketch: 'front', x: 0, y: 0 },
      { type: 'point', id: 'top', sketch: 'front', x: 0, y: 20 },
      { type: 'point', id: 'p', sketch: 'front', x: (E - C) * Math.sin(PHI), y: A + C },
      { type: 'point', id: 'left', sketch: 'front', x: -20, y: A },
      { type: 'point', id: 'right', sketch: 'front', x: 20, y: A },
      { type: 'line', id: 'upright', sketch: 'front', start: 'o', end: 'top' },
      { type: 'line', id: 'way', sketch: 'front', start: 'o', end: 'p' },
      { type: 'line', id: 'flat', sketch: 'front', start: 'left', end: 'right' },
      { type: 'circle', id: 'round', sketch: 'front', centre: 'p', radius: C },
      { type: 'circle', id: 'outer', sketch: 'front', centre: 'o', radius: E },
    ],
    constraints: [
      { type: 'constraint', id: 'c1', sketch: 'front', kind: 'fixed', on: ['o'] },
      { type: 'constraint', id: 'c2', sketch: 'front', kind: 'vertical', on: ['upright'] },
      { type: 'constraint', id: 'c3', sketch: 'front', kind: 'horizontal', on: ['flat'] },
      { type: 'constraint', id: 'c4', sketch: 'front', kind: 'tangent', on: ['flat', 'round'] },
      { type: 'constraint', id: 'c5', sketch: 'front', kind: 'tangent', on: ['round', 'outer'] },
    ],
    dimensions: [
      { type: 'dimension', id: 'd1', sketch: 'front', kind: 'vertical', on: ['o', 'left'], parameter: 'flat_height', at: [0, 0] },
      { type: 'dimension', id: 'd2', sketch: 'front', kind: 'radius', on: ['round'], parameter: 'roller_radius', at: [0, 0] },
      { type: 'dimension', id: 'd3', sketch: 'front', kind: 'radius', on: ['outer'], parameter: 'ring_radius', at: [0, 0] },
      { type: 'dimension', id: 'd4', sketch: 'front', kind: 'angle', on: ['upright', 'way'], parameter: 'phi', at: [0, 0], isReference: true },
    ],
    values: (
      [
        ['flat_height', 'hub', 'length'],
        ['roller_radius', 'roller', 'length'],
        ['ring_radius', 'ring', 'length'],
        ['phi', '', 'angle'],
      ] as const
    ).map(([id, text, kind]) => ({ type: 'parameter', id, owner: 'front', name: id, formula: { text }, kind })),
  })
  .value('twice', '2 * phi', 'angle')
  .do(
    { type: 'parameter.update', id: 'hub', changes: { tolerance: symmetric('0.0125 mm') } },
    { type: 'parameter.update', id: 'roller', changes: { tolerance: symmetric('0.01 mm') } },
    { type: 'parameter.update', id: 'ring', changes: { tolerance: symmetric('0.0125 mm') } },
  ).document;

const MM = 10_000;
const DEGREES = 180 / Math.PI;

test.each([
  ['phi', 1],
  ['twice', 2],
] as const)('%s: exact slopes through the sketch, worst case and root sum square by them', (id, times) => {
  // The report has 7.0184 degrees.
  expect(PHI * DEGREES).toBeCloseTo(7.0184, 4);
  const measured = { phi: { value: PHI * DEGREES } };
  const options = { measured, slopesOfReading };
  expect(needsGeometry(CLUTCH, id, sourceOf([]), options)).toBe(false);
  const found = stackOf(CLUTCH, id, sourceOf([]), { random: evenNumbers(1), ...options });
  if (!found) throw new Error('no stack');
  expect(found.way).toBe('slopes');
  expect(found.nominal).toBeCloseTo(times * PHI * DEGREES, 9);
  const steep = Math.sin(PHI) * (E - C);
  const slopes = { hub: -1 / steep, roller: -(1 + Math.cos(PHI)) / steep, ring: Math.cos(PHI) / steep };
  expect(found.contributors.map(({ name }) => name).sort()).toEqual(['hub', 'ring', 'roller']);
  for (const one of found.contributors) expect((one.sensitivity * MM) / DEGREES / times / slopes[one.name as keyof typeof slopes]).toBeCloseTo(1, 7);
  const parts = [0.0125 * slopes.hub, 0.01 * slopes.roller, 0.0125 * slopes.ring].map((part) => part * DEGREES * times);
  expect(found.rootSumSquare.upper - found.nominal).toBeCloseTo(Math.hypot(...parts), 6);
  expect(found.worstCase.upper - found.nominal).toBeCloseTo(
    parts.reduce((sum, part) => sum + Math.abs(part), 0),
    6,
  );
});

test('what is no reference dimension has no such slopes', () => {
  const values = new DocumentValues(CLUTCH);
  expect(['hub', 'twice', 'flat_height', 'nothing'].map((id) => slopesOfReading(values, id))).toEqual([undefined, undefined, undefined, undefined]);
});
