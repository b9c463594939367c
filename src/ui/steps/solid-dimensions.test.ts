import { DocumentValues, findStep, listIds } from '@/core/document';
import type { Point3 } from '@/core/geometry';
import type { Regenerated, SolvedSketch } from '@/core/steps';
import { demoDocument } from '../../../tests/support/demo';
import { dimensionsOnSolid, stepOfSelection } from './solid-dimensions';
import { MILLIMETRE } from '@/core/units';

const FRONT = { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 0, 1], normal: [0, -1, 0] } as const;

const side = demoDocument('Side frame');
const values = new DocumentValues(side);
const outline = findStep(side, 'outline') ?? findStep(side, listIds(side, 'steps')[0] ?? '');
if (outline?.type !== 'sketch') throw new Error('no outline');
const board = listIds(side, 'steps')
  .map((id) => findStep(side, id))
  .find((step) => step?.type === 'extrude' && step.sketch === outline.id);
if (board?.type !== 'extrude') throw new Error('no board');

/** The places where the drawing stands, as if they were solved, in the front plane. */
function built(): Regenerated {
  const points = Object.fromEntries(
    Object.values(side.records).flatMap((record) => (record.type === 'point' ? [[record.id, [record.x, record.y] as const]] : [])),
  );
  const nothing = { free: [], redundant: [], conflicting: [], radii: {}, measured: {}, regions: [] };
  const sketch: SolvedSketch = { status: 'solved', frame: FRONT, points, degreesOfFreedom: 0, ...nothing };
  return { steps: [{ id: outline?.id ?? '', status: 'done', sketch, isFromCache: false }], bodies: [], measured: {}, rebuilt: 0 };
}

const facts = {
  middleOf: (): Point3 => [1, 2, 3],
  lengthOf: (id: string): number => values.sheet.readNumber(id) / MILLIMETRE,
};

test('a depth is drawn beside its profile, from the plane of the sketch as far as it reaches', () => {
  const depth = dimensionsOnSolid(side, built(), board.id, facts).find(({ along }) => along);
  const [start = [0, 0, 0], end = [0, 0, 0]] = depth?.figure?.line ?? [];
  const length = facts.lengthOf(depth?.id ?? '');
  expect(length).toBe(18);
  expect(Math.hypot(end[0] - start[0], end[1] - start[1], end[2] - start[2])).toBeCloseTo(length, 9);
  expect([start[1], end[1]].map(Math.abs).sort((a, b) => a - b)).toEqual([0, length]);
  // Right of everything that is drawn.
  expect(start[0]).toBeGreaterThan(360);
  expect(depth?.figure?.witness).toHaveLength(2);
});

test('the dimensions of a sketch are drawn in its plane', () => {
  const drawn = dimensionsOnSolid(side, built(), outline.id, facts);
  expect(drawn.length).toBeGreaterThan(1);
  for (const { figure } of drawn) for (const place of figure?.line ?? []) expect(place[1]).toBeCloseTo(0, 12);
});

test('what is selected belongs to a step: itself, or that which owns the value', () => {
  expect(stepOfSelection(side, board.id)).toBe(board.id);
  expect(stepOfSelection(side, board.values['depth'])).toBe(board.id);
  expect(stepOfSelection(side, undefined)).toBeUndefined();
});
