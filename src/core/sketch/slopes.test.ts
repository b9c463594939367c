/** Slopes of readings against the solver moved by a hair, and against the calculus. */
import { randomSketch } from '../../../tests/support/random-sketch';
import { SketchBuilder } from '../../../tests/support/sketches';
import { readingSlopes, solveSketch, type SketchModel } from '.';

const HAIR = 1e-4;

/** Central differences of what the solver comes to. */
function moved(model: SketchModel, dimension: string, reading: string): number {
  const [up = NaN, down = NaN] = [HAIR, -HAIR].map((by) => {
    const dimensions = model.dimensions.map((one) => (one.id === dimension ? { ...one, value: one.value + by } : one));
    return solveSketch({ ...model, dimensions }).measured.get(reading);
  });
  return (up - down) / (2 * HAIR);
}

test('of 60 random sketches: the distance of two points by every dimension, as the solver moves it', () => {
  let compared = 0;
  for (let seed = 1; seed <= 60; seed++) {
    const { model: shaken } = randomSketch(seed, 8, 0);
    const points = shaken.entities.flatMap((entity) => (entity.type === 'point' ? [entity.id] : []));
    const on = [points[1 + (seed % 3)] ?? '', points.at(-1) ?? ''];
    const model: SketchModel = {
      ...shaken,
      dimensions: [...shaken.dimensions, { id: 'read', kind: 'length', on, value: 0, isReference: true }],
    };
    const slopes = readingSlopes(model, solveSketch(model), 'read');
    if (!slopes) continue;
    for (const { id, isReference } of model.dimensions) {
      if (isReference) continue;
      const [exact, seen] = [slopes.get(id) ?? NaN, moved(model, id, 'read')];
      expect([seed, id, Math.abs(exact - seen) < 1e-4 * Math.max(1, Math.abs(seen))]).toEqual([seed, id, true]);
      compared++;
    }
  }
  expect(compared).toBeGreaterThan(300);
});

test('the diagonal of a rectangle, by its sides; and half of what a corner leaves free', () => {
  const sketch = new SketchBuilder()
    .point('a', 0, 0)
    .point('b', 30, 0)
    .point('c', 30, 40)
    .line('ab', 'a', 'b')
    .line('bc', 'b', 'c')
    .line('diagonal', 'a', 'c')
    .relate('coincident', 'a', 'origin')
    .relate('horizontal', 'ab')
    .relate('vertical', 'bc')
    .measure('length', 30, 'ab')
    .measure('length', 40, 'bc')
    .read('length', 'diagonal');
  const { model } = sketch;
  const ids = model.dimensions.map(({ id }) => id);
  const slopes = readingSlopes(model, solveSketch(model), ids[2] ?? '');
  expect([slopes?.get(ids[0] ?? ''), slopes?.get(ids[1] ?? '')]).toEqual([expect.closeTo(0.6, 9), expect.closeTo(0.8, 9)]);
  // Without one side the diagonal is free; twice over nothing can be off by itself.
  const free = { ...model, dimensions: model.dimensions.filter(({ id }) => id !== ids[0]) };
  expect(readingSlopes(free, solveSketch(free), ids[2] ?? '')).toBeUndefined();
  const twice = sketch.measure('length', 30, 'a', 'b').model;
  expect(readingSlopes(twice, solveSketch(twice), ids[2] ?? '')).toBeUndefined();
});
