import { clickToDraw, startDrawing, type DrawTool, type Figure } from './draw-tools';
import type { Snap } from './snapping';

function draw(tool: DrawTool, clicks: readonly Snap[]): Figure[] {
  let id = 0;
  let state = startDrawing(tool);
  const figures: Figure[] = [];
  for (const click of clicks) {
    const { next, figure } = clickToDraw(state, click, 's', () => `n${++id}`);
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

test('a rectangle has four shared corners and four constraints', () => {
  const [figure] = draw('rectangle', [{ at: [10, 10] }, { at: [40, 30] }]);
  expect(summary(figure)[0]).toBe('point point point point line line line line');
  expect(figure?.constraints.map((c) => c.kind)).toEqual(['horizontal', 'vertical', 'horizontal', 'vertical']);
});

test('a circle snapped to a middle and an arc through its third click', () => {
  expect(summary(draw('circle', [{ at: [5, 5], on: { id: 'l1', kind: 'midpoint' } }, { at: [8, 9] }])[0])).toEqual(['point circle', 'midpoint(n1,l1)']);
  const [arc] = draw('arc', [{ at: [0, 0] }, { at: [10, 0] }, { at: [0, 25] }]);
  expect(arc?.entities[2]).toMatchObject({ type: 'point', x: 0, y: 10 });
});

test.each<DrawTool>(['line', 'rectangle', 'circle', 'arc'])('a %s without size makes nothing', (tool) => {
  expect(draw(tool, [{ at: [3, 3] }, { at: [3, 3] }, { at: [3, 3] }])).toEqual([]);
});
