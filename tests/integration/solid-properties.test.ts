/**
 * Volume, surface, centre and moments of inertia of every kind of solid against closed forms: boxes and cylinders
 * put together by the parallel axis theorem, cones and frusta, Pappus for what is turned.
 */
import type { KernelPort } from '@/core/kernel-port';
import { createKernel } from '@/kernel/create-kernel';
import { relative } from '../support/kernel-shapes';
import { build, PartBuilder } from '../support/part-builder';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

type Triple = readonly [number, number, number];

/** Volume, centre, and moments about axes through the centre, along x, y and z. */
interface Mass {
  readonly volume: number;
  readonly centre: Triple;
  readonly inertia: Triple;
}

/** A box from one corner to the other: m (b² + c²) / 12. */
function box([x0, y0, z0]: Triple, [x1, y1, z1]: Triple): Mass {
  const [a, b, c] = [x1 - x0, y1 - y0, z1 - z0];
  const volume = a * b * c;
  const of = (p: number, q: number): number => (volume * (p * p + q * q)) / 12;
  return { volume, centre: [(x0 + x1) / 2, (y0 + y1) / 2, (z0 + z1) / 2], inertia: [of(b, c), of(a, c), of(a, b)] };
}

/** An upright cylinder: m r² / 2 about its axis, m (3 r² + h²) / 12 across. */
function cylinder([x, y, z]: Triple, radius: number, height: number): Mass {
  const volume = Math.PI * radius ** 2 * height;
  const across = (volume * (3 * radius ** 2 + height ** 2)) / 12;
  return { volume, centre: [x, y, z + height / 2], inertia: [across, across, (volume * radius ** 2) / 2] };
}

const less = ({ volume, centre, inertia }: Mass): Mass => ({ volume: -volume, centre, inertia: [-inertia[0], -inertia[1], -inertia[2]] });

/** Parts together, by Steiner's theorem. */
function together(...parts: readonly Mass[]): Mass {
  const volume = parts.reduce((sum, part) => sum + part.volume, 0);
  const middle = (i: 0 | 1 | 2): number => parts.reduce((sum, part) => sum + part.volume * part.centre[i], 0) / volume;
  const centre: Triple = [middle(0), middle(1), middle(2)];
  const about = (i: 0 | 1 | 2, j: 0 | 1 | 2, k: 0 | 1 | 2): number =>
    parts.reduce((sum, part) => sum + part.inertia[i] + part.volume * ((part.centre[j] - centre[j]) ** 2 + (part.centre[k] - centre[k]) ** 2), 0);
  return { volume, centre, inertia: [about(0, 1, 2), about(1, 0, 2), about(2, 0, 1)] };
}

function expectMass(part: PartBuilder, wanted: Mass, area?: number, tolerance = 1e-9): void {
  const { steps, body } = build(kernel, part);
  expect(steps.flatMap(({ problem }) => problem?.message ?? [])).toEqual([]);
  const found = body()?.properties;
  if (!found) throw new Error('not built');
  expect(relative(found.volume, wanted.volume)).toBeLessThan(tolerance);
  if (area !== undefined) expect(relative(found.area, area)).toBeLessThan(tolerance);
  const size = Math.cbrt(wanted.volume);
  for (const i of [0, 1, 2] as const) {
    expect(Math.abs(found.centre[i] - wanted.centre[i]) / size).toBeLessThan(tolerance);
    expect(relative(found.inertia[i], wanted.inertia[i])).toBeLessThan(tolerance);
  }
}

const TOP = 'block/end(base-0)';

test('an extruded board', () => {
  expectMass(PartBuilder.block(), box([0, 0, 0], [40, 30, 20]), 2 * (1200 + 800 + 600));
});

test('a drilled plate: pattern of holes, less each cylinder', () => {
  const part = PartBuilder.block('100 mm', '60 mm', '8 mm')
    .sketch('at')
    .points('at', [15, 20])
    .step({ type: 'hole', id: 'hole', sketch: 'at', form: 'simple', extent: 'through', body: 'b' }, { diameter: '6 mm' })
    .step({ type: 'pattern', id: 'row', form: 'linear', of: ['hole'], along: 'x', spread: 'spacing', body: 'b' }, { count: '5', span: '16 mm' });
  const holes = [0, 1, 2, 3, 4].map((i) => less(cylinder([15 + 16 * i, 20, 0], 3, 8)));
  expectMass(part, together(box([0, 0, 0], [100, 60, 8]), ...holes), 2 * 6000 + 320 * 8 + 5 * (2 * Math.PI * 3 * 8 - 2 * Math.PI * 9));
});

test('a counterbored hole to a depth', () => {
  const part = PartBuilder.block()
    .sketch('at', { body: 'b', face: TOP })
    .points('at', [20, 15])
    .step(
      { type: 'hole', id: 'hole', sketch: 'at', form: 'counterbore', extent: 'blind', body: 'b' },
      { diameter: '6 mm', depth: '12 mm', head: '11 mm', seat: '5 mm' },
    );
  expectMass(part, together(box([0, 0, 0], [40, 30, 20]), less(cylinder([20, 15, 15], 5.5, 5)), less(cylinder([20, 15, 8], 3, 7))));
});

test('a shell, open above: the box less the box within', () => {
  const part = PartBuilder.block().step({ type: 'shell', id: 'tray', faces: [TOP], body: 'b' }, { wall: '2 mm' });
  const outside = 1200 + 2 * 20 * 70;
  const inside = 36 * 26 + 2 * 18 * (36 + 26);
  expectMass(part, together(box([0, 0, 0], [40, 30, 20]), less(box([2, 2, 2], [38, 28, 20]))), outside + inside + (1200 - 36 * 26));
});

test('a cylinder turned from a rectangle, and what stands on it mirrored', () => {
  const part = new PartBuilder()
    .sketch('half', 'front')
    .rectangle('half', '12 mm', '30 mm', [0, 0], [12, 30])
    .step({ type: 'revolve', id: 'turned', sketch: 'half', axis: 'y-axis', operation: 'start', extent: 'full', body: 'b' });
  expectMass(part, cylinder([0, 0, 0], 12, 30), 2 * Math.PI * 12 * (12 + 30));
  part
    .sketch('lug', 'top')
    .rectangle('lug', '20 mm', '4 mm', [0, -2], [20, 4])
    .step({ type: 'extrude', id: 'arm', sketch: 'lug', operation: 'add', extent: 'forward', body: 'b' }, { depth: '30 mm' })
    .step({ type: 'mirror', id: 'both', of: ['arm'], plane: 'side', body: 'b' });
  // Beyond the cylinder each arm reaches from the circle to 20 mm: strips in y, integrated by Simpson's rule.
  const strip = (power: number): number => simpson((y) => (20 ** power - Math.sqrt(144 - y * y) ** power) / power, -2, 2);
  const second = simpson((y) => (20 - Math.sqrt(144 - y * y)) * y * y, -2, 2);
  const [area, xx] = [strip(1), strip(3)];
  const base = cylinder([0, 0, 0], 12, 30);
  const arms = 2 * area * 30;
  const height = (arms * 30 ** 2) / 12;
  const wanted: Mass = {
    volume: base.volume + arms,
    centre: [0, 0, 15],
    inertia: [base.inertia[0] + 60 * second + height, base.inertia[1] + 60 * xx + height, base.inertia[2] + 60 * (xx + second)],
  };
  expectMass(part, wanted, undefined, 1e-8);
});

function simpson(f: (x: number) => number, from: number, to: number, n = 200): number {
  const h = (to - from) / n;
  let sum = f(from) + f(to);
  for (let i = 1; i < n; i++) sum += (i % 2 === 1 ? 4 : 2) * f(from + i * h);
  return (sum * h) / 3;
}

test('a ring turned from a circle: both theorems of Pappus, and the moments of a torus', () => {
  const part = new PartBuilder()
    .sketch('half', 'front')
    .circle('half', 'tube', '8 mm', [20, 0], 4)
    .step({ type: 'revolve', id: 'ring', sketch: 'half', axis: 'y-axis', operation: 'start', extent: 'full', body: 'b' });
  const [R, a] = [20, 4];
  const volume = 2 * Math.PI ** 2 * R * a * a;
  const across = volume * ((5 * a * a) / 8 + (R * R) / 2);
  expectMass(part, { volume, centre: [0, 0, 0], inertia: [across, across, volume * (R * R + (3 * a * a) / 4)] }, 4 * Math.PI ** 2 * R * a);
});

/** Square frustum by Simpson's rule, which is exact for it: sides shrink evenly from `a` to `b`. */
function frustum(a: number, b: number, height: number): Mass {
  const side = (z: number): number => a + ((b - a) * z) / height;
  const fine = (f: (z: number) => number): number => simpson(f, 0, height, 400);
  const volume = fine((z) => side(z) ** 2);
  const middle = fine((z) => z * side(z) ** 2) / volume;
  const flat = fine((z) => side(z) ** 4 / 12);
  const tall = fine((z) => (z - middle) ** 2 * side(z) ** 2);
  return { volume, centre: [0, 0, middle], inertia: [flat + tall, flat + tall, 2 * flat] };
}

test('a frustum, as a loft and as a tapered extrusion', () => {
  const loft = new PartBuilder()
    .sketch('low')
    .rectangle('low', '20 mm', '20 mm', [-10, -10], [20, 20])
    .step({ type: 'datum', id: 'above', from: 'top', turn: 'none' }, { offset: '30 mm' })
    .sketch('high', { datum: 'above' })
    .rectangle('high', '10 mm', '10 mm', [-5, -5], [10, 10])
    .step({ type: 'loft', id: 'funnel', sketches: ['low', 'high'], isRuled: true, operation: 'start', body: 'b' });
  const slant = Math.hypot(30, 5);
  expectMass(loft, frustum(20, 10, 30), 400 + 100 + (4 * (20 + 10) * slant) / 2);
  const lean = 30 * Math.tan((4 * Math.PI) / 180);
  const tapered = new PartBuilder()
    .sketch('low')
    .rectangle('low', '20 mm', '20 mm', [-10, -10], [20, 20])
    .step(
      { type: 'extrude', id: 'block', sketch: 'low', operation: 'start', extent: 'forward', isTapered: true, body: 'b' },
      { depth: '30 mm', taper: '4 deg' },
    );
  expectMass(tapered, frustum(20, 20 - 2 * lean, 30));
});

test('a sweep round a corner: two boxes that meet in a mitre', () => {
  const part = new PartBuilder()
    .sketch('square')
    .rectangle('square', '8 mm', '8 mm', [-4, -4], [8, 8])
    .sketch('path', 'front')
    .chain('path', [0, 0], [0, 50], [40, 50])
    .step({ type: 'sweep', id: 'rod', sketch: 'square', path: 'path', operation: 'start', body: 'b' });
  expectMass(part, together(box([-4, -4, 0], [4, 4, 54]), box([4, -4, 46], [40, 4, 54])), 8 * 4 * 90 + 2 * 64);
});

test('a half of a split, a moved copy, and bodies combined', () => {
  const part = PartBuilder.block()
    .step({ type: 'datum', id: 'cut', from: 'side', turn: 'none' }, { offset: '15 mm' })
    .step({ type: 'split', id: 'halves', plane: { datum: 'cut' }, keep: 'back', body: 'b' });
  expectMass(part, box([0, 0, 0], [15, 30, 20]));
  part.step({ type: 'place', id: 'copy', from: 'b', body: 'c' }, { x: '50 mm', y: '0 mm', z: '5 mm' });
  part.step({ type: 'combine', id: 'one', operation: 'add', tools: ['c'], body: 'b' });
  expectMass(part, together(box([0, 0, 0], [15, 30, 20]), box([50, 0, 5], [65, 30, 25])));
});

test('a chamfer takes a triangular prism off, a fillet a square less a quarter circle', () => {
  const edge = 'edge[block/side(base-0) | block/side(base-1)]';
  const cut = PartBuilder.block().step({ type: 'chamfer', id: 'bevel', edges: [edge], form: 'equal', body: 'b' }, { distance: '6 mm' });
  // A right triangle of legs c, its right angle in the corner (40, 0): centroid c/3 inside, moments c³·c/36 of its plane.
  const c = 6;
  const [area, own] = [(c * c) / 2, c ** 4 / 36];
  const prism: Mass = {
    volume: area * 20,
    centre: [40 - c / 3, c / 3, 10],
    inertia: [20 * own + (area * 20 ** 3) / 12, 20 * own + (area * 20 ** 3) / 12, 40 * own],
  };
  expectMass(cut, together(box([0, 0, 0], [40, 30, 20]), less(prism)));
  const round = PartBuilder.block().step({ type: 'fillet', id: 'soft', edges: [edge], body: 'b' }, { radius: '6 mm' });
  // A quarter disc about (34, 6): centroid 4r/3pi from its corner, moments pi r⁴/16 about its straight sides.
  const r = 6;
  const away = (4 * r) / (3 * Math.PI);
  const disc = (Math.PI * r * r) / 4;
  const flat = (Math.PI * r ** 4) / 16 - disc * away ** 2;
  const quarter: Mass = {
    volume: disc * 20,
    centre: [34 + away, 6 - away, 10],
    inertia: [20 * flat + (disc * 20 ** 3) / 12, 20 * flat + (disc * 20 ** 3) / 12, 40 * flat],
  };
  expectMass(round, together(box([0, 0, 0], [40, 30, 20]), less(box([34, 0, 0], [40, 6, 20])), quarter));
});
