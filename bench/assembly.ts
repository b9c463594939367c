import { solvePlacements, type Mate } from '../src/core/assembly';
import type { Document } from '../src/core/document';
import type { Point3 } from '../src/core/geometry';
import { diffDocuments, Instances, openValues, turnAbout } from '../src/core/instances';
import { component, driven, sourceOf, withComponents, withParameters } from '../tests/support/assemblies';
import { edited } from '../tests/support/demo';
import { free, held, line, mate, plane, randomAssembly, Z } from '../tests/support/random-assembly';
import { measure, microseconds, type Row } from './support';

const COMPONENTS = 1_000;
const PARTS = 30;

export function benchAssembly(): Row[] {
  return [...benchPlacement(), benchDrag(), ...benchInstances()];
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

/** One step of dragging the middle of a chain of links whose ends are held: every link turns. */
function benchDrag(): Row {
  const size = 40;
  const pin = (one: string, two: string, at: number): Mate[] => [
    mate('coaxial', [one, line([at, 0, 0], Z)], [two, line([0, 0, 0], Z)]),
    mate('coplanar', [one, plane([0, 0, 0], Z)], [two, plane([0, 0, 0], Z)]),
  ];
  // Bent, so that it has somewhere to go.
  const bend = (i: number): number => 0.5 - i / (LINKS - 1);
  let [x, y] = [0, 0];
  const links = Array.from({ length: LINKS }, (_, i) => {
    const link = free(`l${i}`, { origin: [x, y, 0], turn: turnAbout(Z, bend(i)) });
    [x, y] = [x + size * Math.cos(bend(i)), y + size * Math.sin(bend(i))];
    return link;
  });
  const mates = [
    ...pin('base', 'l0', 0),
    ...links.slice(1).flatMap((_, i) => pin(`l${i}`, `l${i + 1}`, size)),
    mate('coaxial', ['base', line([x, y, 0], Z)], [`l${LINKS - 1}`, line([size, 0, 0], Z)]),
  ];
  let stances = new Map(links.map(({ id, at }) => [id, at]));
  let tick = 0;
  const step = (): void => {
    const bodies = links.map(({ id, at }) => free(id, stances.get(id) ?? at));
    const to: Point3 = [x / 2 + 8 * Math.sin(tick * 0.2), 55 + 8 * Math.cos(tick * 0.2), 0];
    tick++;
    const solved = solvePlacements([held('base'), ...bodies], mates, { body: `l${LINKS / 2}`, point: [0, 0, 0], to });
    if (solved.status !== 'placed') throw new Error(solved.status);
    stances = new Map(solved.stances);
  };
  // A drag lasts: what is felt is its frames after the first seconds.
  repeat(200, step);
  const mine = measure([{ name: 'drag', count: 10, run: (count) => repeat(count, step) }]).get('drag') ?? NaN;
  return {
    what: `one step of dragging a closed chain of ${LINKS} links, after 200`,
    ours: microseconds(mine),
    baseline: 'a quarter of a frame, 4.17 ms',
    ratio: QUARTER_FRAME / mine,
    reach: '1 x',
  };
}

const LINKS = 12;
/** Of 60 a second, in microseconds. */
const QUARTER_FRAME = 1e6 / 240;

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
