/** Bodies and mates for tests of placements. Millimetres. */
import type { Mate, MatedBody, MateGeometry } from '@/core/assembly';
import type { MateKind } from '@/core/document';
import type { Point3 } from '@/core/geometry';
import { multiply, normalise, rotate, turnAbout, type Stance } from '@/core/instances';
import { makeRandom } from './random';

export const STILL: Stance = { origin: [0, 0, 0], turn: [1, 0, 0, 0] };
export const held = (id: string, at: Stance = STILL): MatedBody => ({ id, at, isHeld: true });
export const free = (id: string, at: Stance = STILL): MatedBody => ({ id, at, isHeld: false });
export const plane = (point: Point3, normal: Point3): MateGeometry => ({ kind: 'plane', point, normal });
export const line = (point: Point3, direction: Point3, radius?: number): MateGeometry => ({
  kind: 'line',
  point,
  direction,
  ...(radius === undefined ? {} : { radius }),
});
export const spot = (point: Point3): MateGeometry => ({ kind: 'point', point });

let count = 0;
export const mate = (kind: MateKind, a: readonly [string, MateGeometry], b: readonly [string, MateGeometry], more: Partial<Mate> = {}): Mate => ({
  id: `m${count++}`,
  kind,
  first: { body: a[0], geometry: a[1] },
  second: { body: b[0], geometry: b[1] },
  sense: 1,
  value: 0,
  ...more,
});

export const Z: Point3 = [0, 0, 1];
export const X: Point3 = [1, 0, 0];

/** A crank of length r about z, a rod of length l, and a slider along x; the bodies are `base`, `crank`, `rod` and `slider`. */
export const sliderCrank = (r: number, l: number): Mate[] => [
  mate('coaxial', ['base', line([0, 0, 0], Z)], ['crank', line([0, 0, 0], Z)]),
  mate('coplanar', ['base', plane([0, 0, 0], Z)], ['crank', plane([0, 0, 0], Z)]),
  mate('coaxial', ['crank', line([r, 0, 0], Z)], ['rod', line([0, 0, 0], Z)]),
  mate('coplanar', ['crank', plane([0, 0, 0], Z)], ['rod', plane([0, 0, 0], Z)]),
  mate('coaxial', ['rod', line([l, 0, 0], Z)], ['slider', line([0, 0, 0], Z)]),
  mate('coaxial', ['base', line([0, 0, 0], X)], ['slider', line([0, 0, 0], X)]),
];

export const randomStance = (random: () => number, reach: number, angle: number): Stance => {
  const axis = [random() - 0.5, random() - 0.5, random() - 0.5].map((v) => v + 1e-3) as [number, number, number];
  const length = Math.hypot(...axis);
  const place = (): number => (random() - 0.5) * 2 * reach;
  return { origin: [place(), place(), place()], turn: turnAbout([axis[0] / length, axis[1] / length, axis[2] / length], angle * random()) };
};

/** Bodies at known places, joined by mates that hold there: a tree, and some loops that are redundant or not. */
export function randomAssembly(seed: number, bodies: number, loops: number) {
  const random = makeRandom(seed);
  const truth = Array.from({ length: bodies }, (_, i) => (i === 0 ? STILL : randomStance(random, 300, 3)));
  const inside = (body: number, point: Point3): Point3 => {
    const { origin, turn } = truth[body] ?? STILL;
    const [w, x, y, z] = turn;
    return rotate([w, -x, -y, -z], [point[0] - origin[0], point[1] - origin[1], point[2] - origin[2]]);
  };
  const turned = (body: number, direction: Point3): Point3 => {
    const [w, x, y, z] = truth[body]?.turn ?? [1, 0, 0, 0];
    return rotate([w, -x, -y, -z], direction);
  };
  const mates: Mate[] = [];
  const join = (a: number, b: number): void => {
    for (let k = 0; k < 3; k++) {
      const point: Point3 = [random() * 200, random() * 200, random() * 200];
      const normal: Point3 = rotate(randomStance(random, 0, 3).turn, X);
      const offset = (random() - 0.5) * 40;
      const sense = random() < 0.5 ? 1 : -1;
      const beyond: Point3 = [point[0] + offset * normal[0], point[1] + offset * normal[1], point[2] + offset * normal[2]];
      if (k < 2) {
        const back: Point3 = [normal[0] * sense, normal[1] * sense, normal[2] * sense];
        mates.push(
          mate('coplanar', [`b${a}`, plane(inside(a, point), turned(a, normal))], [`b${b}`, plane(inside(b, beyond), turned(b, back))], {
            sense,
            value: offset,
          }),
        );
      } else mates.push(mate('coincident', [`b${a}`, spot(inside(a, point))], [`b${b}`, spot(inside(b, point))]));
    }
  };
  for (let b = 1; b < bodies; b++) join(Math.floor(random() * b), b);
  for (let k = 0; k < loops; k++) join(Math.floor(random() * bodies), 1 + Math.floor(random() * (bodies - 1)));
  const started = truth.map(({ origin, turn }, i): MatedBody => {
    const off = randomStance(random, 15, 0.1);
    return i === 0
      ? held('b0')
      : free(`b${i}`, {
          origin: [origin[0] + off.origin[0], origin[1] + off.origin[1], origin[2] + off.origin[2]],
          turn: normalise(multiply(off.turn, turn)),
        });
  });
  return { truth, mates: mates.filter(({ first, second }) => first.body !== second.body), started };
}
