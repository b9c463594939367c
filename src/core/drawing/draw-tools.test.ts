import { SketchBench } from '../../../tests/support/sketch-bench';
import { clickToDraw, DRAW_TOOLS, startDrawing, type DrawTool } from './draw-tools';
import { readShape, type Place } from './drawn-shape';
import { offerTyped } from './first-dimensions';
import type { Figure } from './figure';
import type { Snap } from './snapping';

const EMPTY = readShape(new SketchBench().document, 's', undefined);

function draw(tool: DrawTool, clicks: readonly Snap[]): Figure[] {
  let id = 0;
  let state = startDrawing(tool);
  const figures: Figure[] = [];
  for (const click of clicks) {
    const { next, figure } = clickToDraw(state, click, { sketch: 's', shape: EMPTY, newId: () => `n${++id}` });
    if (figure) figures.push(figure);
    state = next;
  }
  return figures;
}

const summary = (figure: Figure | undefined) => [
  figure?.entities.map((entity) => entity.type).join(' '),
  figure?.constraints.map((c) => `${c.kind}(${c.on.join()})`).join(' '),
];

test('a chain of lines shares its points, and level lines are said to be so', () => {
  const [first, second] = draw('line', [
    { at: [0, 0], on: { id: 'origin', kind: 'point' } },
    { at: [50, 0], direction: 'horizontal' },
    { at: [50, 30], direction: 'vertical' },
  ]);
  expect(summary(first)).toEqual(['point point line', 'coincident(n1,origin) horizontal(n4)']);
  expect(summary(second)).toEqual(['point line', 'vertical(n7)']);
  expect(second?.entities[1]).toMatchObject({ start: 'n3', end: 'n6' });
});

test('a chain that comes back to a point that is there ends in it', () => {
  const figures = draw('line', [{ at: [0, 0] }, { at: [5, 5], on: { id: 'there', kind: 'point' } }, { at: [9, 9] }]);
  expect(figures).toHaveLength(1);
  expect(figures[0]?.entities.at(-1)).toMatchObject({ type: 'line', end: 'there' });
});

test('a circle snapped to a middle and an arc through its third click', () => {
  expect(summary(draw('circle', [{ at: [5, 5], on: { id: 'l1', kind: 'midpoint' } }, { at: [8, 9] }])[0])).toEqual(['point circle', 'midpoint(n1,l1)']);
  const [arc] = draw('arc', [{ at: [0, 0] }, { at: [10, 0] }, { at: [0, 25] }]);
  expect(arc?.entities[2]).toMatchObject({ type: 'point', x: 0, y: 10 });
});

test.each(DRAW_TOOLS.filter((tool) => tool !== 'point'))('a %s without size makes nothing', (tool) => {
  expect(draw(tool, [{ at: [3, 3] }, { at: [3, 3] }, { at: [3, 3] }])).toEqual([]);
});

// What can still move once it is drawn: as many numbers as describe such a figure. Away from the origin and the axes.
test.each<[string, DrawTool, readonly Place[], string[], number]>([
  ['line', 'line', [[10, 10], [40, 25]], ['line'], 4],
  ['level line', 'line', [[10, 10], [40, 10.4]], ['line'], 3],
  ['rectangle from a corner', 'rectangle', [[10, 10], [40, 30]], ['line', 'line', 'line', 'line'], 4],
  ['rectangle from its centre', 'rectangle-centre', [[40, 30], [55, 40]], ['line', 'line', 'line', 'line'], 4],
  ['circle', 'circle', [[30, 30], [40, 30]], ['circle'], 3],
  ['circle on two points', 'circle-2', [[10, 10], [30, 20]], ['circle'], 4],
  ['circle through three points', 'circle-3', [[10, 10], [30, 10], [25, 25]], ['circle'], 6],
  ['arc from its centre', 'arc', [[30, 30], [40, 30], [30, 45]], ['arc'], 5],
  ['arc through three points', 'arc-3', [[10, 10], [30, 12], [22, 25]], ['arc'], 5],
  ['slot', 'slot', [[20, 20], [50, 26], [35, 30]], ['arc', 'arc', 'line', 'line'], 5],
  ['point', 'point', [[12, 17]], [], 2],
])('a %s has the degrees of freedom that describe it', (_, tool, clicks, curves, freedom) => {
  const bench = new SketchBench();
  bench.draw(tool, clicks);
  const solution = bench.solve();
  expect({ status: solution.status, curves: bench.curves(), freedom: solution.degreesOfFreedom, redundant: solution.redundant }).toEqual({
    status: 'solved',
    curves,
    freedom,
    redundant: [],
  });
}); // prettier-ignore

test.each([3, 5, 6, 8, 12])('a polygon of %i sides is regular, whatever its size', (sides) => {
  const bench = new SketchBench();
  const [circle = ''] = bench.draw('polygon', [[30, 30], [44, 33]], { sides }); // prettier-ignore
  expect(bench.solve()).toMatchObject({ status: 'solved', degreesOfFreedom: 4, redundant: [] });
  bench.dimension('diameter', [circle], '50 mm');
  // Area of a regular polygon of n sides in a circle of radius r: n r^2 sin(2 pi / n) / 2.
  expect(bench.area()).toBeCloseTo((sides * 25 ** 2 * Math.sin((2 * Math.PI) / sides)) / 2, 6);
});

test('a slot keeps its form when its length and radius are set', () => {
  const bench = new SketchBench();
  const [head = '', tail = ''] = bench.draw('slot', [[20, 20], [50, 26], [35, 30]]); // prettier-ignore
  const [a, b] = [bench.entity(head), bench.entity(tail)].map((arc) => (arc?.type === 'arc' ? arc.centre : ''));
  bench.dimension('length', [a ?? '', b ?? ''], '80 mm').dimension('radius', [head], '6 mm');
  expect(bench.area()).toBeCloseTo(80 * 12 + Math.PI * 36, 6);
});

test('an arc goes on from a line without a corner, either way round', () => {
  for (const to of [
    [60, 25],
    [60, -25],
  ] as const) {
    const bench = new SketchBench();
    bench.draw('line', [[10, 0.2], [40, 0.1]]); // prettier-ignore
    const [arc = ''] = bench.draw('arc-tangent', [[40, 0], to]); // prettier-ignore
    const solution = bench.solve();
    const entity = bench.entity(arc);
    if (entity?.type !== 'arc') throw new Error('no arc');
    const [centre] = [solution.points.get(entity.centre)];
    expect([solution.status, solution.redundant]).toEqual(['solved', []]);
    expect(centre?.[0]).toBeCloseTo(40, 9);
  }
});

test('square to a line and touching a circle are snapped to and kept', () => {
  const bench = new SketchBench();
  bench.draw('line', [[5, 5], [35, 15], [31.6, 25.2]]); // prettier-ignore
  const kinds = Object.values(bench.document.records).flatMap((record) => (record.type === 'constraint' ? record.kind : []));
  expect(kinds).toContain('perpendicular');

  const other = new SketchBench();
  other.draw('circle', [[50, 50], [60, 50]]); // prettier-ignore
  other.draw('line', [[20, 30], [42.6, 56.9]]); // prettier-ignore
  expect(Object.values(other.document.records).flatMap((record) => (record.type === 'constraint' ? record.kind : []))).toEqual(['coincident', 'tangent']);
  expect(other.solve().status).toBe('solved');
});

test('a line that is typed over asks for its length, beside it', () => {
  const typed = (to: Place) => {
    const [figure] = draw('line', [{ at: [10, 0] }, { at: to }]);
    if (!figure) throw new Error('no line');
    const records = Object.fromEntries(figure.entities.map((entity) => [entity.id, entity]));
    const shape = readShape({ records, lists: { 's/entities': figure.entities.map(({ id }) => id) } }, 's', undefined);
    return offerTyped('line', figure, shape, 2);
  };
  expect(typed([10, 30])).toEqual([{ plan: { kind: 'length', on: ['n3'], reads: 30 }, at: [12, 15] }]);
});
