/** Sketch solutions against constructions of plane geometry with known answers (Euclid; Descartes' circle theorem). */
import { solveSketch } from '@/core/sketch';
import { SketchBuilder } from '../support/sketches';

const at = (solution: ReturnType<typeof solveSketch>, id: string): readonly [number, number] => solution.points.get(id) ?? [NaN, NaN];

test.each([
  [3, 4, 5],
  [5, 12, 13],
  [7, 8, 9],
])('a triangle of sides %d, %d, %d has the angles of the law of cosines', (a, b, c) => {
  const solution = solveSketch(
    new SketchBuilder()
      .point('A', 0, 0)
      .point('B', c + 0.4, 0.3)
      .point('C', c * 0.4, b * 0.9)
      .line('AB', 'A', 'B')
      .line('AC', 'A', 'C')
      .relate('coincident', 'A', 'origin')
      .relate('horizontal', 'AB')
      .measure('length', c, 'AB')
      .measure('length', b, 'AC')
      .measure('length', a, 'B', 'C')
      .read('angle', 'AB', 'AC').model,
  );
  expect(solution.degreesOfFreedom).toBe(0);
  expect(solution.measured.get('(AB AC)')).toBeCloseTo(Math.acos((b * b + c * c - a * a) / (2 * b * c)), 9);
});

test('three equal circles that touch each other, and the one in the middle (Descartes)', () => {
  const sketch = new SketchBuilder();
  const [r, rough] = [10, 9];
  sketch
    .point('a', 0, 0)
    .point('b', 2 * rough, 0.4)
    .point('c', rough, 1.7 * rough)
    .point('m', rough + 0.3, 0.6 * rough);
  for (const id of ['a', 'b', 'c']) sketch.circle(`o${id}`, id, rough).measure('radius', r, `o${id}`);
  sketch.circle('small', 'm', 1.2);
  sketch.relate('coincident', 'a', 'origin').relate('horizontal', 'a', 'b');
  sketch.relate('tangent', 'oa', 'ob').relate('tangent', 'ob', 'oc').relate('tangent', 'oa', 'oc');
  for (const id of ['oa', 'ob', 'oc']) sketch.relate('tangent', 'small', id);
  const solution = solveSketch(sketch.model);
  expect(solution.status).toBe('solved');
  expect(solution.radii.get('small')).toBeCloseTo(r * (2 / Math.sqrt(3) - 1), 9);
});

test('a crank and rocker keeps the positions of its closed form over a full turn', () => {
  const [ground, crank, coupler, rocker] = [100, 30, 80, 70];
  let rough: readonly [number, number] = [70, 63];
  for (let degrees = 5; degrees <= 365; degrees += 10) {
    const angle = (degrees * Math.PI) / 180;
    const [bx, by] = [crank * Math.cos(angle), crank * Math.sin(angle)];
    const solution = solveSketch(
      new SketchBuilder()
        .point('A', 0, 0)
        .point('D', ground, 0)
        .point('B', bx, by)
        .point('C', ...rough)
        .relate('fixed', 'A')
        .relate('fixed', 'D')
        .relate('fixed', 'B')
        .measure('length', coupler, 'B', 'C')
        .measure('length', rocker, 'C', 'D').model,
    );
    const diagonal = Math.hypot(ground - bx, by);
    const along = (coupler ** 2 - rocker ** 2 + diagonal ** 2) / (2 * diagonal);
    const off = Math.sqrt(coupler ** 2 - along ** 2);
    const [ux, uy] = [(ground - bx) / diagonal, -by / diagonal];
    const expected = [bx + along * ux - off * uy, by + along * uy + off * ux] as const;
    expect(solution.status).toBe('solved');
    expect(Math.hypot(at(solution, 'C')[0] - expected[0], at(solution, 'C')[1] - expected[1])).toBeLessThan(1e-7);
    rough = expected;
  }
});

test.each([5, 6, 8])('a regular polygon of %d equal sides and angles has the chord of its circle', (n) => {
  const sketch = new SketchBuilder().point('m', 0, 0).circle('round', 'm', 45).relate('coincident', 'm', 'origin').measure('diameter', 100, 'round');
  for (let i = 0; i < n; i++) {
    const angle = (2 * Math.PI * i) / n + Math.sin(i * 7) * 0.05;
    sketch.point(`p${i}`, 47 * Math.cos(angle), 47 * Math.sin(angle)).relate('coincident', `p${i}`, 'round');
  }
  for (let i = 0; i < n; i++) sketch.line(`l${i}`, `p${i}`, `p${(i + 1) % n}`);
  for (let i = 1; i < n; i++) sketch.relate('equal', 'l0', `l${i}`);
  sketch.relate('coincident', 'p0', 'x-axis').read('length', 'l0');
  const solution = solveSketch(sketch.model);
  expect(solution.status).toBe('solved');
  expect(solution.measured.get('(l0)')).toBeCloseTo(100 * Math.sin(Math.PI / n), 8);
});

test('a slot of two arcs and two tangent lines follows its centre distance', () => {
  const slot = (length: number) =>
    solveSketch(
      new SketchBuilder()
        .point('c1', 0, 0)
        .point('c2', 30, 0)
        .point('a', 0, -8)
        .point('b', 30, -8)
        .point('c', 30, 8)
        .point('d', 0, 8)
        .line('low', 'a', 'b')
        .line('high', 'c', 'd')
        .arc('right', 'c2', 'b', 'c')
        .arc('left', 'c1', 'd', 'a')
        .relate('coincident', 'c1', 'origin')
        .relate('horizontal', 'c1', 'c2')
        .relate('tangent', 'low', 'left')
        .relate('tangent', 'low', 'right')
        .relate('tangent', 'high', 'left')
        .relate('tangent', 'high', 'right')
        .relate('equal', 'left', 'right')
        .measure('horizontal', length, 'c1', 'c2')
        .measure('radius', 8, 'left').model,
    );
  for (const length of [5, 30, 240]) {
    const solution = slot(length);
    expect([solution.status, solution.degreesOfFreedom]).toEqual(['solved', 0]);
    expect(at(solution, 'c')[0]).toBeCloseTo(length, 7);
    expect(at(solution, 'c')[1]).toBeCloseTo(8, 7);
  }
});
