import { solvePlacements } from '../src/core/assembly';
import type { Document } from '../src/core/document';
import { diffDocuments, Instances, openValues } from '../src/core/instances';
import { component, driven, sourceOf, withComponents, withParameters } from '../tests/support/assemblies';
import { edited } from '../tests/support/demo';
import { randomAssembly } from '../tests/support/random-assembly';
import { measure, microseconds, type Row } from './support';

const COMPONENTS = 1_000;
const PARTS = 30;

export function benchAssembly(): Row[] {
  return [...benchPlacement(), ...benchInstances()];
}

/** 200 components with 600 mates, each disturbed by some 5 % of its distance and 0.1 rad; beside a quarter of that. */
function benchPlacement(): Row[] {
  const [many, few] = [randomAssembly(3, 200, 1), randomAssembly(3, 50, 1)];
  const found = solvePlacements(many.started, many.mates);
  if (found.status !== 'placed') throw new Error(found.status);
  const times = measure([
    { name: 'many', count: 1, run: () => solvePlacements(many.started, many.mates) },
    { name: 'few', count: 4, run: (count) => repeat(count, () => solvePlacements(few.started, few.mates)) },
  ]);
  const [large = NaN, small = NaN] = [times.get('many'), times.get('few')];
  return [
    {
      what: `place 200 components by ${many.mates.length} mates, in ${found.iterations} iterations`,
      ours: microseconds(large),
      baseline: `50 components ${microseconds(small)}`,
      ratio: (4 * small) / large,
      reach: 'about 1',
    },
  ];
}

function benchInstances(): Row[] {
  const parts = Array.from({ length: PARTS }, (_, i) => withParameters('part', `P${i}`, chain(30)));
  const names = Array.from({ length: COMPONENTS }, (_, i) => `c${i}`);
  let host: Document = withComponents(withParameters('assembly', 'A', { s: '5 mm' }), ...names.map((name, i) => component(name, `P${i % PARTS}`)));
  for (const [i, name] of names.entries()) host = driven(host, `${name}.v0`, Math.floor(i / PARTS) % 2 === 0 ? 's' : '2 * s');
  const source = sourceOf(parts);
  const values = openValues(host, source);
  const { components } = values;
  if (!(components instanceof Instances)) throw new Error('no components');
  const evaluated = new Set(names.map((name) => components.find(name)?.values)).size;
  let current = host;
  let length = 6;
  const change = (): void => {
    const next = edited(current, { type: 'drive.put', drive: { ...driveOf(current, 'drive-c5-v0'), formula: { text: `${length++} mm` } } });
    values.apply(next, diffDocuments(current, next));
    current = next;
  };
  const times = measure([
    { name: 'one', count: 4, run: (count) => repeat(count, change) },
    { name: 'open', count: 1, run: () => openValues(host, source) },
  ]);
  const [one = NaN, all = NaN] = [times.get('one'), times.get('open')];
  return [
    {
      what: `${COMPONENTS} components of ${PARTS} parts in two sizes: evaluations`,
      ours: `${evaluated}`,
      baseline: `${COMPONENTS} one by one`,
      ratio: COMPONENTS / evaluated,
      reach: 'one for each size',
    },
    { what: 'one of their driven values is changed', ours: microseconds(one), baseline: `all opened ${microseconds(all)}`, ratio: all / one, reach: '5 x' },
  ];
}

function chain(length: number): Record<string, string> {
  return Object.fromEntries(Array.from({ length }, (_, i) => [`v${i}`, i === 0 ? '10 mm' : `v${i - 1} + 1 mm`]));
}

function driveOf(document: Document, id: string) {
  const record = document.records[id];
  if (record?.type !== 'drive') throw new Error(`no drive ${id}`);
  return record;
}

function repeat(count: number, work: () => unknown): void {
  for (let i = 0; i < count; i++) work();
}
