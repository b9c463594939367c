import { SketchDragger, solveSketch, type SketchModel } from '../src/core/sketch';
import { randomSketch } from '../tests/support/random-sketch';
import { ladder } from './sketch';
import { measure, microseconds, type Row } from './support';

const CASES = 3_000;
/** Nearer than this to where it was drawn from is the known solution, in millimetres. */
const NEAR = 1e-5;
/** A frame of 60 a second, in microseconds. */
const FRAME = 1e6 / 60;

/** How many random sketches of 4 to 23 pieces, shaken by up to 1 mm, are solved, and how many come back to where they were. */
export function benchSolver(): Row[] {
  let [solved, back] = [0, 0];
  for (let seed = 1; seed <= CASES; seed++) {
    const { model, points } = randomSketch(seed, 4 + (seed % 20), 1);
    const solution = solveSketch(model);
    if (solution.status !== 'solved') continue;
    solved++;
    const isBack = [...points].every(([id, [x, y]]) => {
      const [u = NaN, v = NaN] = solution.points.get(id) ?? [];
      return Math.hypot(u - x, v - y) < NEAR;
    });
    if (isBack) back++;
  }
  const share = (count: number): string => `${((100 * count) / CASES).toFixed(2)} %`;
  return [
    {
      what: `${CASES} random sketches, shaken: every constraint met, the rest said to fail`,
      ours: share(solved),
      baseline: `at the known place ${share(back)}`,
      ratio: NaN,
      reach: '99.9 %',
    },
    benchDrag(),
  ];
}

/** One step of a drag: 300 constraints, one of them taken away so that something can move. */
function benchDrag(): Row {
  const full = ladder(300);
  const model: SketchModel = { ...full, dimensions: full.dimensions.slice(0, -1) };
  const solution = solveSketch(model);
  const start: SketchModel = {
    ...model,
    entities: model.entities.map((entity) => {
      const [x, y] = solution.points.get(entity.id) ?? [0, 0];
      return entity.type === 'point' ? { ...entity, x, y } : entity;
    }),
  };
  const last = start.entities.filter((entity) => entity.type === 'point').at(-1);
  if (!last || last.type !== 'point') throw new Error('no point');
  const dragger = new SketchDragger(start);
  let tick = 0;
  const step = (): unknown => dragger.move([{ point: last.id, x: last.x + Math.sin(tick++ * 0.3) * 3, y: last.y + Math.cos(tick * 0.3) }]);
  const times = measure([{ name: 'drag', count: 20, run: (count) => repeat(count, step) }]);
  const mine = times.get('drag') ?? NaN;
  return {
    what: 'one step of a drag, 299 constraints',
    ours: microseconds(mine),
    baseline: 'a frame of 60 a second, 16.7 ms',
    ratio: FRAME / mine,
    reach: '1 x',
  };
}

function repeat(count: number, work: () => unknown): void {
  for (let i = 0; i < count; i++) work();
}
