/**
 * A block whose top is cut into lands by grooves, along and across, some of them repeated. The truth is arithmetic of intervals: the lands
 * are what the grooves leave, each told by whose walls bound it.
 */
import type { KernelPort } from '@/core/kernel-port';
import { PartBuilder, type Built } from '../part-builder';
import { pickOf, place } from '../picked-parts';
import type { Family, Found, Truth } from './family';

const HEIGHT = 20;
const RADIUS = 0.5;
const CUTS = [0.8, 0.4] as const;
const KINDS = ['area', 'length', 'fillet', 'chamfer', 'taken'] as const;

interface Groove {
  readonly id: string;
  readonly axis: 'x' | 'y';
  readonly depth: number;
  readonly isRow: boolean;
}

/** Numbers of a state, by name. */
type Numbers = Readonly<Record<string, number>>;

interface Cut {
  /** The step that its faces come from. */
  readonly step: string;
  readonly label: string;
  readonly depth: number;
  readonly from: number;
  readonly to: number;
}

interface Land {
  readonly from: number;
  readonly to: number;
  readonly low: ReadonlySet<string>;
  readonly high: ReadonlySet<string>;
}

function cutsOf(grooves: readonly Groove[], axis: 'x' | 'y', numbers: Numbers): Cut[] {
  return grooves.flatMap(({ id, axis: own, depth, isRow }) => {
    if (own !== axis) return [];
    const [at = 0, width = 0] = [numbers[`${id}_at`], numbers[`${id}_width`]];
    const count = isRow ? (numbers[`${id}_count`] ?? 1) : 1;
    return Array.from({ length: count }, (_, i) => {
      const from = at + i * (numbers[`${id}_pitch`] ?? 0);
      return { step: i === 0 ? `${id}_cut` : `${id}_row`, label: `${id}@${i}`, depth, from, to: from + width };
    });
  });
}

const same = (a: number, b: number): boolean => Math.abs(a - b) < 1e-7;

function landsOf(cuts: readonly Cut[], length: number): Land[] {
  const places = [0, length, ...cuts.flatMap(({ from, to }) => [from, to])].filter((x) => x >= 0 && x <= length).sort((a, b) => a - b);
  const lands: { from: number; to: number }[] = [];
  places.forEach((from, i) => {
    const to = places[i + 1];
    if (to === undefined || same(from, to)) return;
    const middle = (from + to) / 2;
    if (cuts.some((cut) => cut.from < middle && middle < cut.to)) return;
    const last = lands.at(-1);
    if (last && same(last.to, from)) last.to = to;
    else lands.push({ from, to });
  });
  const isReal = ({ from, to }: Cut): boolean => to > 1e-7 && from < length - 1e-7;
  return lands.map(({ from, to }) => ({
    from,
    to,
    low: new Set([...(same(from, 0) ? ['block<'] : []), ...cuts.filter((cut) => isReal(cut) && same(cut.to, from)).map(({ label }) => `${label}>`)]),
    high: new Set([...(same(to, length) ? ['block>'] : []), ...cuts.filter((cut) => isReal(cut) && same(cut.from, to)).map(({ label }) => `${label}<`)]),
  }));
}

/** Whether the step of a cut has any face on the body: a floor that nothing deeper takes away. */
function hasFaces(step: string, cuts: readonly Cut[], length: number): boolean {
  return cuts.some((cut) => {
    if (cut.step !== step) return false;
    const [from, to] = [Math.max(0, cut.from), Math.min(length, cut.to)];
    if (to - from < 1e-7) return false;
    const deeper = cuts.filter((other) => other.depth > cut.depth);
    const places = [from, to, ...deeper.flatMap((other) => [other.from, other.to])].filter((x) => x >= from && x <= to).sort((a, b) => a - b);
    return places.some((x, i) => {
      const next = places[i + 1] ?? x;
      return next - x > 1e-7 && !deeper.some((other) => other.from < (x + next) / 2 && (x + next) / 2 < other.to);
    });
  });
}

/** The lands that a picked one may be now, and the one that it is exactly. */
function findMeant(
  picked: Land,
  isWhole: boolean,
  lands: readonly Land[],
  cuts: readonly Cut[],
  length: number,
): { readonly meant: readonly Land[]; readonly exact: Land | undefined } {
  const meets = (a: ReadonlySet<string>, b: ReadonlySet<string>): boolean => [...a].some((name) => b.has(name));
  const placeOf = (names: ReadonlySet<string>): number[] =>
    [...names].flatMap((name) => {
      if (name === 'block<') return [0];
      if (name === 'block>') return [length];
      const cut = cuts.find(({ label }) => label === name.slice(0, -1));
      return cut && hasFaces(cut.step, cuts, length) ? [name.endsWith('>') ? cut.to : cut.from] : [];
    });
  const isGone = (names: ReadonlySet<string>): boolean => {
    const steps = [...names]
      .map((name) => name.split('@'))
      .map(([id = '', rest = '']) => (id.startsWith('block') ? 'block' : `${id}_${rest.startsWith('0') ? 'cut' : 'row'}`));
    return steps.every((step) => step !== 'block' && !hasFaces(step, cuts, length));
  };
  const exact = lands.find((land) => meets(land.low, picked.low) && meets(land.high, picked.high));
  // What was in one piece means all that it is cut into.
  if (isWhole) return { meant: lands, exact };
  const [goneLow, goneHigh] = [isGone(picked.low), isGone(picked.high)];
  const isOwn = (names: ReadonlySet<string>): boolean => [...names].every((name) => name.startsWith('block'));
  // Nothing of what told it from others is left: the whole is it, where that is one.
  if ((goneLow || isOwn(picked.low)) && (goneHigh || isOwn(picked.high)) && lands.length === 1) return { meant: lands, exact };
  if (goneLow && goneHigh) return { meant: [], exact };
  const [low] = placeOf(picked.low);
  const [high] = placeOf(picked.high);
  const meant = lands.filter((land) => {
    if (goneLow) return meets(land.high, picked.high);
    if (goneHigh) return meets(land.low, picked.low);
    return low !== undefined && high !== undefined && land.from > low - 1e-7 && land.to < high + 1e-7;
  });
  return { meant, exact };
}

/** A random family: its grooves, what is picked, and a path of states. */
export function makeLands(kernel: KernelPort, seed: number, random: () => number, states: number): Family | undefined {
  const between = (low: number, high: number): number => Math.round((low + (high - low) * random()) * 100) / 100;
  const choose = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const along = 1 + Math.floor(random() * 3);
  const grooves: Groove[] = Array.from({ length: along + (random() < 0.5 ? 1 : 0) }, (_, i) => ({
    id: `g${i}`,
    axis: i < along ? 'x' : 'y',
    depth: 4 + 1.5 * i,
    isRow: i === 0 && random() < 0.4,
  }));
  const draw = (name: string): number => {
    if (name === 'length') return between(60, 150);
    if (name === 'width') return between(40, 100);
    if (name.endsWith('_width')) return between(4, 16);
    if (name.endsWith('_count')) return 1 + Math.floor(random() * 4);
    if (name.endsWith('_pitch')) return between(17, 40);
    return between(-20, 120);
  };
  const names = ['length', 'width', ...grooves.flatMap(({ id, isRow }) => [`${id}_at`, `${id}_width`, ...(isRow ? [`${id}_count`, `${id}_pitch`] : [])])];
  const first: Numbers = Object.fromEntries(names.map((name) => [name, draw(name)]));
  const path = [first];
  while (path.length < states) {
    const before = path.at(-1) ?? first;
    const next = Object.fromEntries(names.map((name) => [name, random() < 0.4 ? draw(name) : (before[name] ?? 0)]));
    // Now and then walls meet exactly, or the first state comes back.
    const [a, b] = [choose(grooves), choose(grooves)];
    if (random() < 0.15 && a.id !== b.id) next[`${a.id}_at`] = Math.round(((next[`${b.id}_at`] ?? 0) + (next[`${b.id}_width`] ?? 0)) * 100) / 100;
    path.push(random() < 0.08 ? first : next);
  }
  const state = (numbers: Numbers) => {
    const cuts = { x: cutsOf(grooves, 'x', numbers), y: cutsOf(grooves, 'y', numbers) };
    const size = { x: numbers['length'] ?? 0, y: numbers['width'] ?? 0 };
    return { cuts, size, lands: { x: landsOf(cuts.x, size.x), y: landsOf(cuts.y, size.y) } };
  };
  const { lands } = state(first);
  const roomy = (list: readonly Land[]): Land[] => list.filter(({ from, to }) => to - from > 6);
  if (roomy(lands.x).length === 0 || roomy(lands.y).length === 0) return undefined;
  const picked = { x: choose(roomy(lands.x)), y: choose(roomy(lands.y)) };
  const kind = KINDS[seed % KINDS.length] as (typeof KINDS)[number];
  const side = choose(kind === 'taken' ? (['west', 'east'] as const) : (['west', 'east', 'south', 'north'] as const));
  /** The axis that the edge lies across, and the end of it. */
  const across = side === 'west' || side === 'east' ? 'x' : 'y';
  const end = side === 'west' || side === 'south' ? 'low' : 'high';
  const other = across === 'x' ? 'y' : 'x';

  const part = makePart(grooves, first);
  const middle = (land: Land): number => (land.from + land.to) / 2;
  const at = [middle(picked.x), middle(picked.y)];
  const edgeAt = across === 'x' ? [end === 'low' ? picked.x.from : picked.x.to, at[1]] : [at[0], end === 'low' ? picked.y.from : picked.y.to];
  const pick = (what: 'edge' | 'face', [x = 0, y = 0]: readonly (number | undefined)[]): string => pickOf(kernel, part, what, [x, y, HEIGHT]);
  const edge = pick('edge', edgeAt);
  switch (kind) {
    case 'area':
      part.measure('answer', lastStep(grooves), { of: 'geometry', what: 'area', body: 'b', on: [pick('face', at)] });
      break;
    case 'length':
      part.measure('answer', lastStep(grooves), { of: 'geometry', what: 'length', body: 'b', on: [edge] });
      break;
    case 'fillet':
      part.step({ type: 'fillet', id: 'soft', edges: [edge], body: 'b' }, { radius: `${RADIUS} mm` });
      break;
    case 'chamfer':
      part.step({ type: 'chamfer', id: 'soft', edges: [edge], form: 'two-distances', body: 'b' }, { distance: `${CUTS[0]} mm`, second: `${CUTS[1]} mm` });
      part.measure('top', 'soft', { of: 'geometry', what: 'area', body: 'b', on: ['block/end'] });
      break;
    case 'taken':
      takeEdge(part, edge, edgeAt[0] ?? 0, end === 'low' ? 2 : -2, picked.y);
      break;
  }

  const solid = (numbers: Numbers) => {
    const { cuts, size } = state(numbers);
    const places = (axis: 'x' | 'y'): number[] =>
      [0, size[axis], ...cuts[axis].flatMap(({ from, to }) => [from, to])].filter((v) => v >= 0 && v <= size[axis]).sort((a, b) => a - b);
    let [volume, momentX, top] = [0, 0, 0];
    const [xs, ys] = [places('x'), places('y')];
    const depthAt = (axis: 'x' | 'y', v: number): number => Math.max(0, ...cuts[axis].flatMap(({ from, to, depth }) => (from < v && v < to ? [depth] : [])));
    for (let i = 1; i < xs.length; i++) {
      for (let j = 1; j < ys.length; j++) {
        const [x0, x1, y0, y1] = [xs[i - 1] ?? 0, xs[i] ?? 0, ys[j - 1] ?? 0, ys[j] ?? 0];
        const depth = Math.max(depthAt('x', (x0 + x1) / 2), depthAt('y', (y0 + y1) / 2));
        const area = (x1 - x0) * (y1 - y0);
        volume += area * (HEIGHT - depth);
        momentX += area * (HEIGHT - depth) * ((x0 + x1) / 2);
        if (depth === 0) top += area;
      }
    }
    return { volume, momentX, top };
  };

  const truth = (i: number): Truth => {
    const numbers = path[i] ?? first;
    const { cuts, size, lands: now } = state(numbers);
    const found = { x: findMeant(picked.x, lands.x.length === 1, now.x, cuts.x, size.x), y: findMeant(picked.y, lands.y.length === 1, now.y, cuts.y, size.y) };
    const extent = ({ from, to }: Land): number => to - from;
    if (kind === 'area') {
      const isThere = found.x.exact !== undefined && found.y.exact !== undefined;
      return { meant: found.x.meant.flatMap((a) => found.y.meant.map((b) => extent(a) * extent(b))), isThere };
    }
    const bounds = (land: Land): boolean => [...land[end]].some((name) => picked[across][end].has(name));
    // An edge is told by the wall that it lies at and by its ends, whatever bounds the land on its far side.
    const edges = now[across].filter(bounds);
    const isThere = found[other].exact !== undefined && edges.length > 0;
    // Where the edge is taken into a sketch its place is the answer, and all its pieces have the same.
    if (kind === 'taken') return { meant: found.y.meant.length === 0 ? [] : edges.map((land) => (end === 'low' ? land.from + 2 : land.to - 2)), isThere };
    return { meant: edges.flatMap(() => found[other].meant.map(extent)), isThere };
  };

  let firstSide: number | undefined;
  const read = (built: Built, i: number): Found | 'unbuilt' => {
    const numbers = path[i] ?? first;
    const failed = built.steps.find(({ id, status }) => status !== 'done' && !['soft', 'places', 'hole'].includes(id));
    if (failed) return 'unbuilt';
    const plain = solid(numbers);
    if (kind === 'area' || kind === 'length') {
      const value = built.values.sheet.readNumber('answer') / (kind === 'area' ? 1e8 : 1e4);
      return Number.isNaN(value) ? 'lost' : { value };
    }
    if (kind === 'taken') {
      if (built.step('places')?.status !== 'done') return 'lost';
      const body = built.body()?.properties;
      if (!body) return 'unbuilt';
      const removed = plain.volume - body.volume;
      const value = (plain.momentX - body.volume * body.centre[0]) / removed;
      const { cuts, size } = state(numbers);
      const walls = [0, size.x, ...cuts.x.flatMap(({ from, to }) => [from, to])];
      // It came to lie beside the body or over a wall: nothing can be read off.
      if (removed < 1e-3 || walls.some((wall) => Math.abs(wall - value) < 1.6)) return 'unbuilt';
      return { value };
    }
    const soft = built.step('soft');
    if (soft?.status !== 'done') return soft?.problem?.lost === undefined ? 'unbuilt' : 'lost';
    const removed = plain.volume - built.volume;
    if (kind === 'fillet') return { value: removed / ((1 - Math.PI / 4) * RADIUS ** 2) };
    const length = removed / ((CUTS[0] * CUTS[1]) / 2);
    const lostTop = (plain.top - built.values.sheet.readNumber('top') / 1e8) / length;
    firstSide ??= lostTop;
    // The other distance on the top: as wrong as another edge.
    return { value: Math.abs(lostTop - firstSide) < 1e-3 ? length : -length };
  };
  return {
    name: `lands ${seed}: ${kind} ${kind === 'area' ? '' : side}, picked ${[picked.x, picked.y].map(({ low, high }) => `${[...low].join('=')}..${[...high].join('=')}`).join(' x ')}, grooves ${grooves.map(({ axis, isRow }) => `${axis}${isRow ? '*' : ''}`).join('')}`,
    part,
    states: path.map((numbers) =>
      Object.fromEntries(Object.entries(numbers).map(([name, value]) => [name, name.endsWith('_count') ? String(value) : `${value} mm`])),
    ),
    read,
    truth,
  };
}

function lastStep(grooves: readonly Groove[]): string {
  const last = grooves.at(-1);
  return last?.isRow === true ? `${last.id}_row` : `${last?.id ?? ''}_cut`;
}

function makePart(grooves: readonly Groove[], first: Numbers): PartBuilder {
  const part = new PartBuilder();
  for (const [name, value] of Object.entries(first)) part.value(name, name.endsWith('_count') ? String(value) : `${value} mm`);
  part
    .sketch('base')
    .rectangle('base', 'length', 'width', [0, 0], [first['length'] ?? 0, first['width'] ?? 0])
    .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: `${HEIGHT} mm` });
  for (const { id, axis, depth, isRow } of grooves) {
    part.sketch(id, axis === 'x' ? 'front' : 'side');
    const [at = 0, width = 0] = [first[`${id}_at`], first[`${id}_width`]];
    place(part, id, `${id}_at`, `${HEIGHT - depth} mm`, `${id}_width`, '30 mm', [at, HEIGHT - depth, width, 30]);
    part.step({
      type: 'extrude',
      id: `${id}_cut`,
      sketch: id,
      operation: 'remove',
      extent: 'through',
      ...(axis === 'x' ? { isReversed: true } : {}),
      body: 'b',
    });
    if (!isRow) continue;
    part.step(
      { type: 'pattern', id: `${id}_row`, form: 'linear', of: [`${id}_cut`], along: axis, spread: 'spacing', body: 'b' },
      { count: `${id}_count`, span: `${id}_pitch` },
    );
  }
  return part;
}

/** A bore beside a taken edge, half way along the land. */
function takeEdge(part: PartBuilder, edge: string, x: number, off: number, { from, to }: Land): void {
  part.sketch('places', 'top');
  const y = (from + to) / 2;
  const point = (id: string, px: number, py: number) => ({ type: 'point' as const, id, sketch: 'places', x: px, y: py, isConstruction: true });
  const value = (id: string, text: string) => ({ type: 'parameter' as const, id, owner: 'places', name: id, formula: { text }, kind: 'length' });
  const dimension = (id: string, kind: 'length' | 'vertical' | 'diameter', ...on: string[]) => ({ type: 'dimension' as const, id: `d-${id}`, sketch: 'places', kind, on, parameter: id, at: [0, 0] as [number, number] }); // prettier-ignore
  part.do({
    type: 'sketch.draw',
    sketch: 'places',
    entities: [
      point('from', x, from),
      point('to', x, to),
      { type: 'line', id: 'taken', sketch: 'places', start: 'from', end: 'to', isConstruction: true, from: { body: 'b', edge } },
      { ...point('centre', x + off, y), isConstruction: false },
      { type: 'circle', id: 'round', sketch: 'places', centre: 'centre', radius: 0.75 },
    ],
    constraints: [],
    dimensions: [dimension('off', 'length', 'centre', 'taken'), dimension('up', 'vertical', 'origin', 'centre'), dimension('dia', 'diameter', 'round')],
    values: [value('off', `${Math.abs(off)} mm`), value('up', `${y} mm`), value('dia', '1.5 mm')],
  });
  part.step({ type: 'extrude', id: 'hole', sketch: 'places', operation: 'remove', extent: 'through', body: 'b' });
}
