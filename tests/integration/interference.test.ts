/** What two bodies have in common, one of them moved, against closed forms; and which pairs are looked at. */
import { boxAt, candidatePairs, closePairs, movementsOf, type Box, type JudgedBody } from '@/core/assembly';
import { DocumentValues } from '@/core/document';
import { toOutside, turnAbout, type Stance } from '@/core/instances';
import type { KernelPort, Movement } from '@/core/kernel-port';
import { DATUM_FRAMES } from '@/core/geometry';
import { Regenerator } from '@/core/steps';
import { commonVolume } from '@/core/steps/differences';
import { createKernel } from '@/kernel/create-kernel';
import { demoDocument } from '../support/demo';
import { circle, prism, rectangle, relative, take } from '../support/kernel-shapes';
import { makeRandom } from '../support/random';

let kernel: KernelPort;
let regenerator: Regenerator;
/** Key of the cross rail of the demo: a bar of 36 by 36 mm with a hole of 6.6 mm along it, 460 mm long. */
let rail: string;
beforeAll(async () => {
  kernel = await createKernel();
  regenerator = new Regenerator(kernel);
  const document = demoDocument('Cross rail');
  rail = regenerator.regenerate(document, new DocumentValues(document)).bodies[0]?.key ?? '';
});

const AREA = 36 * 36 - Math.PI * 3.3 ** 2;
const shift = (x: number, y = 0, z = 0): Movement[] => [{ kind: 'shift', by: [x, y, z] }];

test('bars that are pushed into one another along themselves, that touch, and that stand apart', () => {
  expect(regenerator.common(rail, rail, shift(0))).toBeCloseTo(AREA * 460, 3);
  expect(regenerator.common(rail, rail, shift(450))).toBeCloseTo(AREA * 10, 3);
  expect(regenerator.common(rail, rail, shift(460))).toBe(0);
  expect(regenerator.common(rail, rail, shift(0, 36))).toBe(0);
  expect(regenerator.common(rail, rail, shift(900))).toBe(0);
  // Half a section aside: the half without the holes' overlap, by the lens of two circles far apart, which is none.
  expect(regenerator.common(rail, rail, shift(0, 18))).toBeCloseTo((18 * 36 - Math.PI * 3.3 ** 2) * 460, 2);
});

test('two round bars that cross at right angles have 16 r³/3 in common, one half in a block half of its volume', () => {
  // The bicylinder: Archimedes, The Method, proposition 15; any table of solids.
  const r = 12;
  const bar = prism(kernel, [circle('c', 0, 0, r)], 80, 's', DATUM_FRAMES.top, -40);
  const across: Movement[] = [{ kind: 'turn', about: { origin: [0, 0, 0], direction: [1, 0, 0] }, angle: Math.PI / 2 }];
  expect(relative(commonVolume(kernel, bar, bar, across) ?? NaN, (16 / 3) * r ** 3)).toBeLessThan(1e-6);
  const block = prism(kernel, rectangle(100, 100, -50, 0), 100, 'b', DATUM_FRAMES.top, -50);
  expect(relative(commonVolume(kernel, block, bar, []) ?? NaN, (Math.PI * r * r * 80) / 2)).toBeLessThan(1e-6);
  expect(commonVolume(kernel, block, bar, [{ kind: 'shift', by: [0, -r, 0] }])).toBe(0);
});

test('movements bring a body to where its stance says', () => {
  const random = makeRandom(4);
  const bar = prism(kernel, rectangle(30, 20, 3, 5), 10);
  for (let i = 0; i < 8; i++) {
    const axis = [random() - 0.5, random() - 0.5, random() - 0.5] as const;
    const length = Math.hypot(...axis);
    const stance: Stance = {
      origin: [random() * 90, random() * 90, random() * 90],
      turn: turnAbout([axis[0] / length, axis[1] / length, axis[2] / length], random() * 6),
    };
    const there = take(kernel.move(bar, movementsOf(stance)));
    kernel.measure(there).centre.forEach((value, k) => expect(value).toBeCloseTo(toOutside(stance, kernel.measure(bar).centre)[k] ?? NaN, 6));
  }
});

describe('pairs', () => {
  const random = makeRandom(11);
  const boxes = Array.from({ length: 200 }, (): Box => {
    const min = [random() * 1000, random() * 1000, random() * 1000] as const;
    return { min, max: [min[0] + random() * 120, min[1] + random() * 120, min[2] + random() * 120] };
  });

  test('are those that all pairs compared one by one give', () => {
    const depth = (a: Box, b: Box): number => Math.min(...([0, 1, 2] as const).map((i) => Math.min(a.max[i], b.max[i]) - Math.max(a.min[i], b.min[i])));
    const wanted = boxes.flatMap((a, i) => boxes.flatMap((b, j) => (i < j && depth(a, b) > 0.01 ? [[i, j] as const] : [])));
    expect(closePairs(boxes, 0.01)).toEqual(wanted);
    expect(wanted.length).toBeGreaterThan(10);
  });

  test('what touches is none, and a part is none with itself', () => {
    const box: Box = { min: [0, 0, 0], max: [10, 10, 10] };
    const still: Stance = { origin: [0, 0, 0], turn: [1, 0, 0, 0] };
    const body = (path: string, x: number, name = 'b'): JudgedBody => ({ path: [path], body: name, key: 'k', box, at: { ...still, origin: [x, 0, 0] } });
    expect(candidatePairs([body('a', 0), body('b', 10)])).toEqual([]);
    expect(candidatePairs([body('a', 0), body('b', 9.5)])).toHaveLength(1);
    expect(candidatePairs([body('a', 0), body('a', 1, 'c')])).toEqual([]);
  });

  test('how two stand to one another is what counts, not where', () => {
    const box: Box = { min: [0, 0, 0], max: [10, 10, 10] };
    const body = (path: string, at: Stance): JudgedBody => ({ path: [path], body: 'b', key: 'k', box, at });
    const turn = turnAbout([0, 0, 1], 0.3);
    const there = candidatePairs([body('a', { origin: [0, 0, 0], turn }), body('b', { origin: [3, 0, 0], turn })]);
    const elsewhere = candidatePairs([body('a', { origin: [500, 7, 1], turn }), body('b', { origin: [503, 7, 1], turn })]);
    expect(there[0]?.key).toBe(elsewhere[0]?.key);
    expect(boxAt(box, { origin: [0, 0, 0], turn: turnAbout([0, 0, 1], Math.PI / 2) }).min[0]).toBeCloseTo(-10, 9);
  });
});
