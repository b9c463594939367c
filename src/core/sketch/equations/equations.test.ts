/** Every derivative of every kind of constraint and dimension, against central differences. */
import { SketchBuilder } from '../../../../tests/support/sketches';
import { buildEquations } from '../build-equations';

const sketch = new SketchBuilder()
  .point('a', 1, 2)
  .point('b', 31, -4)
  .point('c', 27, 22)
  .point('d', -3, 17)
  .point('m', 12, -9)
  .point('e', 44, 6)
  .line('ab', 'a', 'b')
  .line('bc', 'b', 'c')
  .line('cd', 'c', 'd')
  .circle('o', 'm', 7)
  .circle('p', 'd', 5)
  .circle('inner', 'm', 3)
  .arc('arc', 'e', 'b', 'c')
  .relate('coincident', 'a', 'd')
  .relate('coincident', 'm', 'ab')
  .relate('coincident', 'c', 'o')
  .relate('horizontal', 'ab')
  .relate('vertical', 'a', 'd')
  .relate('parallel', 'ab', 'cd')
  .relate('perpendicular', 'ab', 'bc')
  .relate('equal', 'ab', 'cd')
  .relate('equal', 'o', 'p')
  .relate('concentric', 'o', 'p')
  .relate('tangent', 'cd', 'o')
  .relate('tangent', 'ab', 'arc')
  .relate('tangent', 'o', 'p')
  .relate('tangent', 'o', 'inner')
  .relate('fixed', 'd')
  .relate('midpoint', 'm', 'cd')
  .relate('symmetric', 'a', 'e', 'bc')
  .relate('symmetric', 'a', 'm', 'x-axis')
  .relate('symmetric', 'o', 'p', 'cd')
  .measure('length', 20, 'ab')
  .measure('length', 8, 'm', 'cd')
  .measure('horizontal', 12, 'a', 'm')
  .measure('vertical', 9, 'origin', 'b')
  .measure('radius', 6, 'o')
  .measure('diameter', 12, 'p')
  .measure('angle', 1.1, 'ab', 'bc')
  .measure('arc-length', 15, 'arc');

test('derivatives are those of the measure', () => {
  const { equations, variables, invalid } = buildEquations(sketch.model);
  expect(invalid).toEqual([]);
  const x = variables.start.slice();
  // Off the special places where the sketch was drawn.
  for (let i = 0; i < variables.count; i++) x[i] = (x[i] ?? 0) + Math.sin(i * 12.9898) * 0.7;
  const step = 1e-5;
  for (const equation of equations) {
    const written = new Float64Array(equation.variables.length);
    equation.differentiate(x, written, 0);
    equation.variables.forEach((index, k) => {
      const probe = (by: number): number => {
        const moved = x.slice();
        moved[index] = (moved[index] ?? 0) + by;
        return equation.measure(moved);
      };
      const difference = (probe(step) - probe(-step)) / (2 * step);
      expect({ source: equation.source, k, error: Math.abs(difference - (written[k] ?? 0)) < 1e-6 }).toEqual({ source: equation.source, k, error: true });
    });
  }
});
