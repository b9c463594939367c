import fc from 'fast-check';
import { solveSketch, type SketchEntity, type SketchModel, type SketchSolution } from '@/core/sketch';
import { rectangle, SketchBuilder } from '../support/sketches';

/** A row of triangles, each on a side of the one before, fully constrained by its lengths. */
function triangles(sizes: readonly number[], noise: readonly number[]): SketchBuilder {
  const sketch = new SketchBuilder().point('p0', 0, 0).point('p1', 40 + (noise[0] ?? 0), noise[1] ?? 0);
  sketch.relate('coincident', 'p0', 'origin').relate('horizontal', 'p0', 'p1').measure('length', 40, 'p0', 'p1');
  sizes.forEach((size, i) => {
    const [a, b, c] = [`p${i}`, `p${i + 1}`, `p${i + 2}`];
    const shift = noise[(i * 2) % Math.max(1, noise.length)] ?? 0;
    sketch.point(c, 20 * (i + 1) + shift, (i % 2 === 0 ? 30 : -5) + shift);
    sketch.measure('length', size, a, c).measure('length', size * 0.9 + 6, b, c);
  });
  return sketch;
}

const sizes = fc.array(fc.double({ min: 30, max: 44, noNaN: true }), { minLength: 1, maxLength: 8 });
const noise = fc.array(fc.double({ min: -4, max: 4, noNaN: true }), { minLength: 2, maxLength: 12 });

/** The largest error of a driving dimension on the solved shape. */
function worstError(model: SketchModel, solution: SketchSolution): number {
  return Math.max(...model.dimensions.map(({ id, value }) => Math.abs((solution.measured.get(id) ?? NaN) - value)));
}

const withShape = (model: SketchModel, solution: SketchSolution): SketchModel => ({
  ...model,
  entities: model.entities.map((entity): SketchEntity => {
    const [x, y] = solution.points.get(entity.id) ?? [0, 0];
    return entity.type === 'point' ? { ...entity, x, y } : entity;
  }),
});

test('a solved sketch meets every dimension, and solved again it does not move', () => {
  let solved = 0;
  let tried = 0;
  fc.assert(
    fc.property(sizes, noise, (lengths, wobble) => {
      const { model } = triangles(lengths, wobble);
      const solution = solveSketch(model);
      tried++;
      if (solution.status !== 'solved') return;
      solved++;
      expect(worstError(model, solution)).toBeLessThan(1e-8);
      const again = solveSketch(withShape(model, solution));
      for (const [id, [x, y]] of solution.points) {
        const [u = NaN, v = NaN] = again.points.get(id) ?? [];
        expect(Math.hypot(u - x, v - y)).toBeLessThan(1e-7);
      }
    }),
    { numRuns: 200, seed: 42 },
  );
  // Failures are never silent: what is not solved says so. Nearly all of these are.
  expect(solved / tried).toBeGreaterThan(0.95);
});

test('the order of constraints changes neither the shape nor the freedom', () => {
  let solved = 0;
  fc.assert(
    fc.property(sizes, noise, fc.infiniteStream(fc.double({ min: 0, max: 1, noNaN: true })), (lengths, wobble, random) => {
      const { model } = triangles(lengths, wobble);
      const shuffle = <T>(list: readonly T[]): T[] =>
        list
          .map((item) => ({ item, key: random.next().value as number }))
          .sort((a, b) => a.key - b.key)
          .map(({ item }) => item);
      const [a, b] = [solveSketch(model), solveSketch({ ...model, constraints: shuffle(model.constraints), dimensions: shuffle(model.dimensions) })];
      expect(b.status).toBe(a.status);
      expect(b.degreesOfFreedom).toBe(a.degreesOfFreedom);
      if (a.status === 'solved') solved++;
      if (a.status === 'solved')
        for (const [id, [x, y]] of a.points) expect(Math.hypot((b.points.get(id)?.[0] ?? NaN) - x, (b.points.get(id)?.[1] ?? NaN) - y)).toBeLessThan(1e-6);
    }),
    { numRuns: 60, seed: 7 },
  );
  expect(solved).toBeGreaterThan(55);
});

test('scaling a sketch and its dimensions scales the shape', () => {
  for (const factor of [0.01, 0.5, 20, 1000]) {
    const { model } = rectangle(80, 40);
    const scaled: SketchModel = {
      ...model,
      entities: model.entities.map((entity) => (entity.type === 'point' ? { ...entity, x: entity.x * factor, y: entity.y * factor } : entity)),
      dimensions: model.dimensions.map((dimension) => ({ ...dimension, value: dimension.value * factor })),
    };
    const [x = 0, y = 0] = solveSketch(scaled).points.get('c') ?? [];
    expect([x / factor, y / factor].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([80, 40]);
  }
});

test('removing independent constraints frees one degree each; adding one that holds frees none and is named', () => {
  const { model } = triangles([36, 38, 40], [1, -1]);
  const full = solveSketch(model);
  expect(full.degreesOfFreedom).toBe(0);
  for (let dropped = 1; dropped <= 3; dropped++) {
    expect(solveSketch({ ...model, dimensions: model.dimensions.slice(0, model.dimensions.length - dropped) }).degreesOfFreedom).toBe(dropped);
  }
  const solvedModel = withShape(model, full);
  const [p, q] = [full.points.get('p0') ?? [0, 0], full.points.get('p3') ?? [0, 0]];
  const extra = { id: 'extra', kind: 'length' as const, on: ['p0', 'p3'], value: Math.hypot(q[0] - p[0], q[1] - p[1]), isReference: false };
  expect(solveSketch({ ...solvedModel, dimensions: [...model.dimensions, extra] })).toMatchObject({ degreesOfFreedom: 0, redundant: ['extra'] });
});

test('a contradiction is named, and without any one of those named the rest contradicts no more', () => {
  const { model } = rectangle(80, 40).measure('length', 95, 'cd');
  const { conflicting, status } = solveSketch(model);
  expect(status).toBe('conflicting');
  for (const id of conflicting) {
    const rest = { ...model, constraints: model.constraints.filter((c) => c.id !== id), dimensions: model.dimensions.filter((d) => d.id !== id) };
    expect(solveSketch(rest).status).not.toBe('conflicting');
  }
});

/** Distances between all pairs of points of a solution: what a shape is, wherever it lies. */
function shapeOf({ points }: SketchSolution): number[] {
  const places = [...points.values()];
  return places.flatMap(([x, y], i) => places.slice(i + 1).map(([u, v]) => Math.hypot(u - x, v - y)));
}

test('turning and moving a sketch that nothing holds changes neither its shape nor its freedom', () => {
  let solved = 0;
  fc.assert(
    fc.property(
      sizes,
      noise,
      fc.double({ min: -Math.PI, max: Math.PI, noNaN: true }),
      fc.tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: -500, max: 500 })),
      (lengths, wobble, angle, [dx, dy]) => {
        const { model } = triangles(lengths, wobble);
        // Only lengths: the chain may lie anywhere.
        const free: SketchModel = { ...model, constraints: [] };
        const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
        const moved: SketchModel = {
          ...free,
          entities: free.entities.map((entity): SketchEntity =>
            entity.type === 'point' ? { ...entity, x: entity.x * cos - entity.y * sin + dx, y: entity.x * sin + entity.y * cos + dy } : entity,
          ),
        };
        const [a, b] = [solveSketch(free), solveSketch(moved)];
        expect(b.status).toBe(a.status);
        expect(b.degreesOfFreedom).toBe(a.degreesOfFreedom);
        if (a.status !== 'solved') return;
        solved++;
        const [before, after] = [shapeOf(a), shapeOf(b)];
        before.forEach((distance, i) => expect(Math.abs((after[i] ?? NaN) - distance)).toBeLessThan(1e-5));
      },
    ),
    { numRuns: 60, seed: 11 },
  );
  expect(solved).toBeGreaterThan(55);
});
