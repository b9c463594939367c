/** A block with wings beside it, each now flush with its top, now lower or higher: faces that are one, and apart again. */
import type { KernelPort } from '@/core/kernel-port';
import { PartBuilder, type Built } from '../part-builder';
import { pickOf, place } from '../picked-parts';
import type { Family, Found, Truth } from './family';

const [LENGTH, WIDTH] = [60, 40];
const SIDES = ['east', 'north', 'west'] as const;

export function makeWings(kernel: KernelPort, seed: number, random: () => number, states: number): Family | undefined {
  const sides = SIDES.slice(0, 1 + Math.floor(random() * SIDES.length));
  const names = ['height', ...sides];
  const draw = (name: string, height: number): number =>
    name === 'height' ? 15 + Math.floor(random() * 10) : random() < 0.5 ? height : height + (random() < 0.5 ? -4 : 5);
  const path: Readonly<Record<string, number>>[] = [];
  while (path.length < states) {
    const before = path.at(-1);
    const height = before && random() < 0.6 ? (before['height'] ?? 0) : draw('height', 0);
    path.push(Object.fromEntries(names.map((name) => [name, name === 'height' ? height : draw(name, height)])));
  }
  const first = path[0] ?? {};
  const spans = Object.fromEntries<number>(sides.map((side) => [side, 10 + Math.floor(random() * 20)]));

  const part = new PartBuilder();
  for (const [name, value] of Object.entries(first)) part.value(name, `${value} mm`);
  part.sketch('base').rectangle('base', `${LENGTH} mm`, `${WIDTH} mm`, [0, 0], [LENGTH, WIDTH]);
  part.step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: 'height' });
  const box = (side: (typeof SIDES)[number]): readonly [number, number, number, number] => {
    const span = spans[side] ?? 0;
    if (side === 'east') return [LENGTH, 0, span, WIDTH];
    return side === 'north' ? [0, WIDTH, LENGTH, span] : [-span, 0, span, WIDTH];
  };
  for (const side of sides) {
    const [x, y, w, h] = box(side);
    part.sketch(`${side}_outline`);
    place(part, `${side}_outline`, `${x} mm`, `${y} mm`, `${w} mm`, `${h} mm`, [x, y, w, h]);
    part.step({ type: 'extrude', id: `${side}_wing`, sketch: `${side}_outline`, operation: 'add', extent: 'forward', body: 'b' }, { depth: side });
  }
  const areas = new Map<string, number>([['block', LENGTH * WIDTH], ...sides.map((side): [string, number] => [side, box(side)[2] * box(side)[3]])]);
  const all = ['block', ...sides];
  const heightOf = (numbers: Readonly<Record<string, number>>, name: string): number => numbers[name === 'block' ? 'height' : name] ?? 0;
  /** Tops that are one with another: of one height as the block, which all touch. */
  const joined = (numbers: Readonly<Record<string, number>>, name: string): readonly string[] =>
    heightOf(numbers, name) === heightOf(numbers, 'block') ? all.filter((other) => heightOf(numbers, other) === heightOf(numbers, 'block')) : [name];
  const target = all[Math.floor(random() * all.length)] ?? 'block';
  const side = SIDES.find((each) => each === target);
  const [x, y, w, h] = side ? box(side) : [0, 0, LENGTH, WIDTH];
  const face = pickOf(kernel, part, 'face', [x + w / 2, y + h / 2, heightOf(first, target)]);
  part.measure('answer', `${sides.at(-1) ?? ''}_wing`, { of: 'geometry', what: 'area', body: 'b', on: [face] });
  const picked = joined(first, target);

  const truth = (state: number): Truth => {
    const numbers = path[state] ?? first;
    const meant = new Set(picked.flatMap((name) => joined(numbers, name)));
    return { meant: [[...meant].reduce((sum, name) => sum + (areas.get(name) ?? 0), 0)], isThere: true };
  };
  const read = (built: Built): Found | 'unbuilt' => {
    if (built.steps.some(({ status }) => status !== 'done')) return 'unbuilt';
    const value = built.values.sheet.readNumber('answer') / 1e8;
    return Number.isNaN(value) ? 'lost' : { value };
  };
  return {
    name: `wings ${seed}: ${sides.join()}, picked ${picked.join(' = ')}`,
    part,
    states: path.map((numbers) => Object.fromEntries(Object.entries(numbers).map(([name, value]) => [name, `${value} mm`]))),
    read,
    truth,
  };
}
