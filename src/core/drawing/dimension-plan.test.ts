import { SketchBuilder } from '../../../tests/support/sketches';
import { solveSketch, type SketchModel } from '../sketch';
import { planDimension } from './dimension-plan';
import type { DrawnShape, Place } from './drawn-shape';

const DRAWN = new SketchBuilder()
  .point('a', 3, 4)
  .point('b', 40, 4)
  .point('c', 51, 30)
  .point('m', -12, 17)
  .point('n', -12, 44)
  .line('level', 'a', 'b')
  .line('sloping', 'b', 'c')
  .line('upright', 'm', 'n')
  .circle('round', 'c', 6);

function shapeOf({ entities }: SketchModel): DrawnShape {
  const point = (id: string): Place => {
    const found = entities.find((entity) => entity.id === id);
    return found?.type === 'point' ? [found.x, found.y] : [0, 0];
  };
  return { entities: entities.map((entity) => ({ ...entity, sketch: 's' })), point, radius: () => 6 };
}

test('whatever is picked, what a dimension is said to read is what the solver measures', () => {
  const shape = shapeOf(DRAWN.model);
  const things = ['a', 'c', 'm', 'level', 'sloping', 'upright', 'round', 'origin', 'x-axis', 'y-axis'];
  const labels: readonly Place[] = [
    [20, -8],
    [-30, 20],
    [70, 60],
  ];
  let planned = 0;
  for (const first of things) {
    for (const second of [undefined, ...things]) {
      for (const label of labels) {
        const picked = second === undefined ? [first] : [first, second];
        const plan = first === second ? undefined : planDimension(shape, picked, label);
        if (!plan) continue;
        planned++;
        const dimension = { id: 'd', kind: plan.kind, on: plan.on, value: NaN, isReference: true };
        const { measured, invalid } = solveSketch({ entities: DRAWN.model.entities, constraints: [], dimensions: [dimension] });
        expect([picked, plan.kind, invalid]).toEqual([picked, plan.kind, []]);
        const read = Math.abs(measured.get('d') ?? NaN) * (plan.kind === 'angle' ? 180 / Math.PI : 1);
        expect([picked, plan.kind, read.toFixed(9)]).toEqual([picked, plan.kind, plan.reads.toFixed(9)]);
      }
    }
  }
  expect(planned).toBeGreaterThan(200);
});

test('the distance to an axis is one across it, wherever its text stands', () => {
  const shape = shapeOf(DRAWN.model);
  for (const label of [
    [20, 2],
    [-30, 2],
    [3, 90],
  ] as const) {
    expect(planDimension(shape, ['a', 'x-axis'], label)).toEqual({ kind: 'length', on: ['a', 'x-axis'], reads: 4 });
    expect(planDimension(shape, ['y-axis', 'a'], label)).toEqual({ kind: 'length', on: ['a', 'y-axis'], reads: 3 });
  }
  expect(planDimension(shape, ['x-axis', 'level'], [0, 0])).toEqual({ kind: 'length', on: ['a', 'x-axis'], reads: 4 });
  expect(planDimension(shape, ['x-axis', 'y-axis'], [0, 0])?.kind).toBe('angle');
  expect(planDimension(shape, ['x-axis'], [0, 0])).toBeUndefined();
});
