/** A disc whose rim is cut into arcs by grooves that turn: the truth is arithmetic of angles. */
import type { KernelPort } from '@/core/kernel-port';
import { PartBuilder, type Built } from '../part-builder';
import { pickOf } from '../picked-parts';
import type { Family, Found, Truth } from './family';

const HEIGHT = 10;
const WIDTH = 6;
const TURN = 2 * Math.PI;

interface Arc {
  readonly low: string;
  readonly high: string;
  /** Radians; `to` is after `from`. */
  readonly from: number;
  readonly to: number;
}

const wrap = (angle: number): number => ((angle % TURN) + TURN) % TURN;

function arcsOf(angles: readonly number[], radius: number): Arc[] {
  const half = Math.asin(WIDTH / 2 / radius);
  const sides = angles.map((angle, i) => ({ i, low: wrap(angle - half), high: wrap(angle + half) }));
  return sides.flatMap(({ i, high: from }) => {
    const within = sides.some((other) => other.i !== i && wrap(from - other.low) < 2 * half - 1e-9);
    if (within) return [];
    const [next] = sides.map((other) => ({ i: other.i, to: from + wrap(other.low - from) })).sort((a, b) => a.to - b.to);
    return next ? [{ low: `${i}>`, high: `${next.i}<`, from, to: next.to }] : [];
  });
}

export function makeDisc(kernel: KernelPort, seed: number, random: () => number, states: number): Family | undefined {
  const between = (low: number, high: number): number => Math.round((low + (high - low) * random()) * 100) / 100;
  const count = 2 + Math.floor(random() * 3);
  const ids = Array.from({ length: count }, (_, i) => `g${i}`);
  const draw = (name: string): number => (name === 'radius' ? between(25, 60) : between(-180, 180));
  const names = ['radius', ...ids];
  const first = Object.fromEntries(names.map((name) => [name, draw(name)]));
  const path = [first];
  while (path.length < states) {
    const before = path.at(-1) ?? first;
    path.push(random() < 0.1 ? first : Object.fromEntries(names.map((name) => [name, random() < 0.4 ? draw(name) : (before[name] ?? 0)])));
  }
  const arcsIn = (numbers: Readonly<Record<string, number>>): Arc[] =>
    arcsOf(
      ids.map((id) => ((numbers[id] ?? 0) * Math.PI) / 180),
      numbers['radius'] ?? 0,
    );
  const roomy = arcsIn(first).filter(({ from, to }) => to - from > 0.2);
  const picked = roomy[Math.floor(random() * roomy.length)];
  if (!picked) return undefined;
  const isWhole = arcsIn(first).length === 1;

  const part = new PartBuilder();
  for (const [name, value] of Object.entries(first)) part.value(name, name === 'radius' ? `${value} mm` : `${value} deg`);
  part
    .sketch('base')
    .circle('base', 'rim', '2 * radius', [0, 0], first['radius'])
    .step({ type: 'extrude', id: 'disc', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: `${HEIGHT} mm` });
  ids.forEach((id, i) => {
    part
      .sketch(`${id}_outline`)
      .rectangle(`${id}_outline`, '100 mm', `${WIDTH} mm`, [8, -WIDTH / 2], [100, WIDTH])
      .step({ type: 'extrude', id: `${id}_tool`, sketch: `${id}_outline`, operation: 'start', extent: 'forward', body: `${id}_body` }, { depth: '30 mm' })
      .step({ type: 'place', id: `${id}_turned`, body: `${id}_body`, about: 'z' }, { z: `${HEIGHT - 2 - i} mm`, angle: id })
      .step({ type: 'combine', id: `${id}_cut`, operation: 'remove', body: 'b', tools: [`${id}_body`] });
  });
  const radius = first['radius'] ?? 0;
  const middle = (picked.from + picked.to) / 2;
  const edge = pickOf(kernel, part, 'edge', [radius * Math.cos(middle), radius * Math.sin(middle), HEIGHT], 0.1);
  part.measure('answer', `${ids.at(-1) ?? ''}_cut`, { of: 'geometry', what: 'length', body: 'b', on: [edge] });

  const truth = (state: number): Truth => {
    const numbers = path[state] ?? first;
    const arcs = arcsIn(numbers);
    const length = ({ from, to }: Arc): number => (to - from) * (numbers['radius'] ?? 0);
    const exact = arcs.find(({ low, high }) => low === picked.low && high === picked.high);
    if (isWhole) return { meant: arcs.map(length), isThere: exact !== undefined };
    const half = Math.asin(WIDTH / 2 / (numbers['radius'] ?? 1));
    const side = (label: string): number => ((numbers[`g${label[0] ?? ''}`] ?? 0) * Math.PI) / 180 + (label.endsWith('>') ? half : -half);
    const region = wrap(side(picked.high) - side(picked.low));
    const inside = arcs.filter((arc) => wrap(arc.from - side(picked.low) + 1e-9) + (arc.to - arc.from) <= region + 1e-6);
    return { meant: inside.map(length), isThere: exact !== undefined };
  };
  const read = (built: Built): Found | 'unbuilt' => {
    if (built.steps.some(({ status }) => status !== 'done')) return 'unbuilt';
    const value = built.values.sheet.readNumber('answer') / 1e4;
    return Number.isNaN(value) ? 'lost' : { value };
  };
  return {
    name: `disc ${seed}: ${count} grooves, picked ${picked.low}..${picked.high}`,
    part,
    states: path.map((numbers) =>
      Object.fromEntries(Object.entries(numbers).map(([name, value]) => [name, name === 'radius' ? `${value} mm` : `${value} deg`])),
    ),
    read,
    truth,
  };
}
