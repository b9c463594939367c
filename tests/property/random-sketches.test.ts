import { solveSketch, type SketchSolution } from '@/core/sketch';
import { randomSketch, type RandomSketch } from '../support/random-sketch';

/** How far the solution is from the truth, in millimetres. */
function farthest(sketch: RandomSketch, solution: SketchSolution): number {
  let most = 0;
  for (const [id, [x, y]] of sketch.points) {
    const [u = NaN, v = NaN] = solution.points.get(id) ?? [];
    most = Math.max(most, Math.hypot(u - x, v - y));
  }
  for (const [id, radius] of sketch.radii) most = Math.max(most, Math.abs((solution.radii.get(id) ?? NaN) - radius));
  return most;
}

test.each([
  [4, 0.5],
  [8, 1],
  [15, 1],
  [30, 0.5],
])('sketches of %i pieces, shaken by %d mm, come back to the truth', (size, shake) => {
  const outcomes = { back: 0, elsewhere: 0, refused: 0 };
  for (let seed = 1; seed <= 100; seed++) {
    const sketch = randomSketch(seed * 7919 + size, size, shake);
    const solution = solveSketch(sketch.model);
    if (solution.status !== 'solved') outcomes.refused++;
    else if (farthest(sketch, solution) < 1e-5) outcomes.back++;
    else outcomes.elsewhere++;
    // What is called solved meets every dimension: failures are never silent.
    if (solution.status === 'solved') {
      for (const { id, value } of sketch.model.dimensions) expect(Math.abs((solution.measured.get(id) ?? NaN) - value)).toBeLessThan(1e-7);
      expect({ seed, freedom: solution.degreesOfFreedom, invalid: solution.invalid }).toEqual({ seed, freedom: 0, invalid: [] });
    }
  }
  expect({ size, ...outcomes }).toMatchObject({ size, refused: 0 });
  expect(outcomes.back).toBeGreaterThanOrEqual(98);
});
