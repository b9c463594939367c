import { rectangle, SketchBuilder } from '../../../tests/support/sketches';
import { SketchDragger, solveSketch, type MeasureKind, type SketchModel, type SketchSolution } from '.';

const place = (solution: SketchSolution, id: string) => (solution.points.get(id) ?? []).map((v) => Number(v.toFixed(9)) + 0);

test('a roughly drawn rectangle takes its dimensions and has nothing left to move', () => {
  const solution = solveSketch(rectangle(80, 40).model);
  expect(solution).toMatchObject({ status: 'solved', degreesOfFreedom: 0, redundant: [], conflicting: [] });
  expect(place(solution, 'c')).toEqual([80, 40]);
});

test('what can still move is counted and named', () => {
  const model = rectangle(80, 40).model;
  const solution = solveSketch({ ...model, dimensions: model.dimensions.slice(0, 1) });
  expect(solution.degreesOfFreedom).toBe(1);
  expect([...solution.free].sort()).toEqual(['bc', 'c', 'cd', 'd', 'da'].sort());
});

test('a constraint that says nothing new is named as redundant', () => {
  const solution = solveSketch(rectangle(80, 40).relate('parallel', 'ab', 'cd').model);
  expect(solution).toMatchObject({ status: 'solved', redundant: ['parallel ab cd'] });
});

test('a conflict names a smallest set, not the whole sketch', () => {
  const solution = solveSketch(rectangle(80, 40).measure('length', 90, 'cd').model);
  expect(solution.status).toBe('conflicting');
  expect(solution.conflicting).toEqual(['horizontal cd', 'vertical bc', 'vertical da', 'ab = 80', 'cd = 90']);
});

test('a line tangent to an arc at their common end', () => {
  const slot = new SketchBuilder()
    .point('c', 0, 0)
    .point('p', 10, 1)
    .point('q', -9, 0)
    .point('e', 11, -30)
    .arc('arc', 'c', 'p', 'q')
    .line('side', 'p', 'e')
    .relate('coincident', 'c', 'origin')
    .relate('horizontal', 'p', 'c')
    .relate('tangent', 'side', 'arc')
    .measure('radius', 12, 'arc')
    .measure('length', 25, 'side');
  const solution = solveSketch(slot.model);
  expect(solution).toMatchObject({ status: 'solved', degreesOfFreedom: 1 });
  expect(place(solution, 'e')).toEqual([12, -25]);
});

test('a dimension changed tenfold stays on its side', () => {
  const triangle = new SketchBuilder()
    .point('a', 0, 0)
    .point('b', 30, 0)
    .point('c', 0, 40)
    .line('ab', 'a', 'b')
    .line('bc', 'b', 'c')
    .line('ca', 'c', 'a')
    .relate('coincident', 'a', 'origin')
    .relate('horizontal', 'ab')
    .measure('length', 300, 'ab')
    .measure('length', 500, 'bc')
    .measure('length', 400, 'ca');
  const solution = solveSketch(triangle.model);
  expect(place(solution, 'c')).toEqual([0, 400]);
});

test('dragging moves what is free and holds the constraints', () => {
  const model = rectangle(80, 40).model;
  const free = { ...model, dimensions: model.dimensions.slice(0, 1) };
  const solved = solveSketch(free);
  const dragger = new SketchDragger({
    ...free,
    entities: free.entities.map((e) => (e.type === 'point' ? { ...e, x: solved.points.get(e.id)?.[0] ?? 0, y: solved.points.get(e.id)?.[1] ?? 0 } : e)),
  });
  for (const goal of [70, 25, 110]) {
    const [x = 0, y = 0] = place(dragger.move([{ point: 'c', x: 200, y: goal }]), 'c');
    expect(x).toBeCloseTo(80, 6);
    expect(y).toBeCloseTo(goal, 0);
  }
});

test('a reference dimension reads the shape', () => {
  const solution = solveSketch(rectangle(30, 40).line('diagonal', 'a', 'c').read('length', 'diagonal').model);
  expect(solution.measured.get('(diagonal)')).toBeCloseTo(50, 9);
});

test('ends that are placed one by one pass each other without turning the line between them over', () => {
  // Two points on the x axis, 47 and 56 from the origin, are wanted at 31 and 37: neither may be judged before both have moved.
  const model: SketchModel = {
    entities: [
      { type: 'point', id: 'root', x: 47, y: 0 },
      { type: 'point', id: 'tip', x: 56, y: 0 },
      { type: 'line', id: 'edge', start: 'root', end: 'tip' },
    ],
    constraints: [
      { id: 'on', kind: 'coincident', on: ['root', 'x-axis'] },
      { id: 'level', kind: 'horizontal', on: ['edge'] },
    ],
    dimensions: [
      { id: 'a', kind: 'horizontal', on: ['origin', 'root'], value: 31, isReference: false },
      { id: 'b', kind: 'horizontal', on: ['origin', 'tip'], value: 37, isReference: false },
    ],
  };
  const { status, points } = solveSketch(model);
  expect(status).toBe('solved');
  expect([points.get('root')?.[0], points.get('tip')?.[0]].map((v) => Number((v ?? NaN).toFixed(9)))).toEqual([31, 37]);
});

test('what is not dimensioned yet shrinks with the rest, where it would be passed by it', () => {
  // Half the outline of a shaft, drawn too large: with its step where it was drawn, a height of 10 would turn the step over.
  const outline = new SketchBuilder();
  const corners = [
    ['a', 0, 0],
    ['b', 100, 0],
    ['c', 100, 17.7],
    ['d', 80, 17.7],
    ['e', 80, 26.5],
    ['f', 0, 26.5],
  ] as const;
  for (const [name, x, y] of corners) outline.point(name, x, y);
  corners.forEach(([from], i) => {
    const to = corners[(i + 1) % corners.length]?.[0] ?? '';
    outline.line(`${from}${to}`, from, to).relate(i % 2 === 0 ? 'horizontal' : 'vertical', `${from}${to}`);
  });
  outline.relate('coincident', 'a', 'origin');
  // Across and up are components of their own in the second one.
  for (const kinds of [
    ['length', 'length'],
    ['horizontal', 'vertical'],
  ] as const) {
    const { entities, constraints } = outline.model;
    const measure = (id: string, kind: MeasureKind, value: number) => ({ id, kind, on: [id], value, isReference: false });
    const dimensions = [measure('ab', kinds[0], 100), measure('cd', kinds[0], 20), measure('fa', kinds[1], 10)];
    const solution = solveSketch({ entities, constraints, dimensions });
    expect(solution).toMatchObject({ status: 'solved', degreesOfFreedom: 1 });
    const [x, y] = place(solution, 'e');
    expect(x).toBeCloseTo(80, 7);
    expect(y).toBeCloseTo(10, 7);
    const [, step = NaN] = place(solution, 'd');
    expect(step).toBeCloseTo((17.7 * 10) / 26.5, 6);
  }
});
