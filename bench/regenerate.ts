import { createDocument, DocumentValues, type Document, type Edit, type Entity } from '../src/core/document';
import { DATUM_FRAMES, findProfiles } from '../src/core/geometry';
import { Regenerator } from '../src/core/steps';
import { createKernel } from '../src/kernel/create-kernel';
import { edited } from '../tests/support/demo';
import { compare, type Row } from './support';

const STEPS = 12;

/** A plate, and eleven blocks added on it one after the other: twelve steps with a sketch each. */
function plate(last: number): Document {
  const edits: Edit[] = [];
  for (let i = 0; i < STEPS; i++) {
    const sketch = `s${i}`;
    const size = i === 0 ? ([0, 0, 400, 60] as const) : ([10 + i * 30, 20, 20, 20] as const);
    const height = i === STEPS - 1 ? last : 10 + i;
    const corners: readonly (readonly [number, number])[] = [
      [size[0], size[1]],
      [size[0] + size[2], size[1]],
      [size[0] + size[2], size[1] + size[3]],
      [size[0], size[1] + size[3]],
    ];
    const entities: Entity[] = corners.map(([x, y], k) => ({ type: 'point', id: `${sketch}p${k}`, sketch, x, y }));
    for (let k = 0; k < 4; k++) entities.push({ type: 'line', id: `${sketch}l${k}`, sketch, start: `${sketch}p${k}`, end: `${sketch}p${(k + 1) % 4}` });
    edits.push(
      { type: 'step.add', step: { type: 'sketch', id: sketch, name: `Sketch ${i}`, plane: 'top' }, values: [] },
      { type: 'sketch.draw', sketch, entities, constraints: [], dimensions: [], values: [] },
      {
        type: 'step.add',
        step: {
          type: 'extrude',
          id: `e${i}`,
          name: `Step ${i}`,
          sketch,
          operation: i === 0 ? 'start' : 'add',
          extent: 'forward',
          values: { depth: `d${i}` },
          body: 'body',
        },
        values: [{ type: 'parameter', id: `d${i}`, owner: `e${i}`, name: `depth_${i}`, formula: { text: `${height} mm` }, kind: 'length' }],
        ...(i === 0 ? { body: { type: 'body' as const, id: 'body', name: 'Body', material: 'Steel' } } : {}),
      },
    );
  }
  return edited(createDocument('plate', 'part', 'Plate'), ...edits);
}

export async function benchRegenerate(): Promise<Row[]> {
  const kernel = await createKernel();
  let height = 30;
  const document = () => plate((height += 0.001));
  const byHand = (): void => {
    let body = 0;
    for (let i = 0; i < STEPS; i++) {
      const [x, y, w, h] = i === 0 ? [0, 0, 400, 60] : [10 + i * 30, 20, 20, 20];
      const line = (id: string, a: readonly [number, number], b: readonly [number, number]) => ({ kind: 'line', id, start: a, end: b }) as const;
      const { profiles } = findProfiles([
        line('a', [x, y], [x + w, y]),
        line('b', [x + w, y], [x + w, y + h]),
        line('c', [x + w, y + h], [x, y + h]),
        line('d', [x, y + h], [x, y]),
      ]);
      const prism = kernel.extrude({ profiles, frame: DATUM_FRAMES.top, from: 0, to: i === STEPS - 1 ? height : 10 + i, step: `e${i}` });
      if (!prism.ok) throw new Error(prism.failure.reason);
      const joined = i === 0 ? prism : kernel.combine('add', body, [prism.value]);
      if (!joined.ok) throw new Error(joined.failure.reason);
      if (i > 0) {
        kernel.release(body);
        kernel.release(prism.value);
      }
      body = joined.value;
    }
    kernel.measure(body);
    kernel.release(body);
  };
  const fresh = (): void => {
    const next = document();
    new Regenerator(kernel).regenerate(next, new DocumentValues(next));
  };
  const living = new Regenerator(kernel);
  const last = (): void => {
    const next = document();
    living.regenerate(next, new DocumentValues(next));
  };
  last();
  return [
    compare(
      'regenerate 12 steps, names and properties included',
      'at least 0.8 x',
      { name: 'warpbeam', count: 3, run: (n) => repeat(n, fresh) },
      { name: 'the same kernel calls by hand', count: 3, run: (n) => repeat(n, byHand) },
    ),
    compare(
      'change the last of 12 steps',
      '5 x',
      { name: 'warpbeam', count: 5, run: (n) => repeat(n, last) },
      { name: 'regenerate all', count: 3, run: (n) => repeat(n, fresh) },
    ),
  ];
}

function repeat(count: number, work: () => void): void {
  for (let i = 0; i < count; i++) work();
}
