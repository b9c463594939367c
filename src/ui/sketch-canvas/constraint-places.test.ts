import fc from 'fast-check';
import { readShape, type DrawnShape } from '@/core/drawing';
import { listRecords, type SketchConstraint } from '@/core/document';
import { demoDocuments } from '../../../tests/support/demo';
import { crosses, placeLabels, type Pixel, type WishedLabel } from '../design/place-labels';
import { markBoxes, placeConstraints } from './constraint-places';
import { screenLines } from './screen-lines';
import { fitView, STRIP_HEIGHT, toScreen, type SketchView } from './sketch-view';

/** The canvas of a window of 1280 by 800 pixels. */
const [WIDTH, HEIGHT] = [740, 700];
const ROOM = { left: 4, top: STRIP_HEIGHT, right: WIDTH - 4, bottom: HEIGHT - 4 };

interface Judged {
  readonly labels: number;
  /** Labels over labels or marks, and labels over curves. */
  readonly covered: number;
  readonly onCurves: number;
}

function judge(shape: DrawnShape, view: SketchView, constraints: readonly SketchConstraint[], wishes: readonly WishedLabel[]): Judged {
  const boxes = markBoxes(placeConstraints(constraints, shape, view));
  const lines = screenLines(shape, view);
  const at = placeLabels(wishes, ROOM, { boxes, lines });
  const placed = wishes.map((wish, i) => ({ ...wish, at: at[i] ?? wish.at }));
  const isOver = (a: WishedLabel, b: WishedLabel): boolean =>
    Math.abs(a.at[0] - b.at[0]) < (a.width + b.width) / 2 && Math.abs(a.at[1] - b.at[1]) < (a.height + b.height) / 2;
  return {
    labels: placed.length,
    covered: placed.filter((label, i) => [...boxes, ...placed.slice(i + 1)].some((other) => isOver(label, other))).length,
    onCurves: placed.filter((label) => lines.some(([a, b]) => crosses(label, label.at, a, b))).length,
  };
}

test('in the sketches of the demo, no dimension lies over another or over a mark, and few over a curve', () => {
  const judged = demoDocuments().flatMap((document) =>
    listRecords(document, 'steps', 'sketch').map(({ id }) => {
      const shape = readShape(document, id, undefined);
      const dimensions = listRecords(document, `${id}/constraints`, 'dimension');
      const view = fitView(
        shape,
        dimensions.map(({ at }) => [at[0], at[1]]),
        WIDTH,
        HEIGHT,
      );
      const wishes = dimensions.map(({ at }) => ({ at: toScreen(view, [at[0], at[1]]), width: 68, height: 22 }));
      return judge(shape, view, listRecords(document, `${id}/constraints`, 'constraint'), wishes);
    }),
  );
  const sum = (part: keyof Judged): number => judged.reduce((total, one) => total + one[part], 0);
  expect(sum('labels')).toBeGreaterThan(30);
  expect(sum('covered')).toBe(0);
  expect(sum('onCurves')).toBeLessThanOrEqual(0.1 * sum('labels'));
});

test('in random sketches, no dimension lies over another or over a mark, and at most a tenth over a curve', () => {
  const place = fc.tuple(fc.integer({ min: -100, max: 100 }), fc.integer({ min: -100, max: 100 }));
  const sketch = fc.array(fc.record({ from: place, to: place, text: fc.integer({ min: 2, max: 12 }) }), { minLength: 1, maxLength: 14 });
  const total = { labels: 0, onCurves: 0 };
  fc.assert(
    fc.property(sketch, (drawn) => {
      const points = new Map<string, readonly [number, number]>(drawn.flatMap(({ from, to }, i) => [[`p${i}`, from] as const, [`q${i}`, to] as const]));
      const entities = drawn.flatMap((_, i) => [
        { type: 'point', id: `p${i}`, sketch: 's', x: 0, y: 0 } as const,
        { type: 'point', id: `q${i}`, sketch: 's', x: 0, y: 0 } as const,
        { type: 'line', id: `l${i}`, sketch: 's', start: `p${i}`, end: `q${i}` } as const,
      ]);
      const shape: DrawnShape = { entities, point: (id) => points.get(id) ?? [0, 0], radius: () => 0 };
      const view: SketchView = { centre: [0, 0], scale: 2.6, widthPx: WIDTH, heightPx: HEIGHT };
      const constraints = drawn.map((_, i): SketchConstraint => ({ type: 'constraint', id: `c${i}`, sketch: 's', kind: 'horizontal', on: [`l${i}`] }));
      const middle = ({ from, to }: (typeof drawn)[number]): Pixel => toScreen(view, [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2 - 8]);
      const judged = judge(
        shape,
        view,
        constraints,
        drawn.map((line) => ({ at: middle(line), width: 7.3 * line.text + 10, height: 22 })),
      );
      expect(judged.covered).toBe(0);
      total.labels += judged.labels;
      total.onCurves += judged.onCurves;
    }),
    { numRuns: 200, seed: 20_261_128 },
  );
  expect(total.onCurves).toBeLessThanOrEqual(0.1 * total.labels);
});

test('marks of one line stand in a row beside it, on the inner side', () => {
  const points = new Map<string, readonly [number, number]>(Object.entries({ a: [0, 0], b: [40, 0], c: [40, 30] }));
  const entities = [
    ...[...points.keys()].map((id) => ({ type: 'point', id, sketch: 's', x: 0, y: 0 }) as const),
    { type: 'line', id: 'ab', sketch: 's', start: 'a', end: 'b' } as const,
  ];
  const shape: DrawnShape = { entities, point: (id) => points.get(id) ?? [0, 0], radius: () => 0 };
  const view: SketchView = { centre: [20, 15], scale: 10, widthPx: WIDTH, heightPx: HEIGHT };
  const constraint = (id: string): SketchConstraint => ({ type: 'constraint', id, sketch: 's', kind: 'equal', on: ['ab'] });
  const [first, second] = placeConstraints([constraint('one'), constraint('two')], shape, view);
  const [, y] = toScreen(view, [0, 0]);
  // The third corner lies above: so do the marks. Screens count y downwards.
  expect([first?.at[1], second?.at[1]]).toEqual([y - 15, y - 15]);
  expect((second?.at[0] ?? 0) - (first?.at[0] ?? 0)).toBe(21);
});
