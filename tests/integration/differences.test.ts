/** What sets two states of bodies apart, and bodies that stand in one another, on the real kernel, against closed forms. */
import type { KernelPort } from '@/core/kernel-port';
import { findDifferences, findOverlaps } from '@/core/steps/differences';
import type { Regenerated } from '@/core/steps';
import { createKernel } from '@/kernel/create-kernel';
import { circle, prism, rectangle } from '../support/kernel-shapes';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

/** A state with bodies of those shapes, by id. */
function stateOf(bodies: Readonly<Record<string, number>>): Regenerated {
  return {
    steps: [],
    measured: {},
    rebuilt: 0,
    bodies: Object.entries(bodies).map(([id, handle]) => ({ id, name: id, key: `${handle}`, properties: kernel.measure(handle) })),
  };
}

test('a bore that grows takes away a ring, and a board that grows adds a strip', () => {
  const thin = prism(kernel, [...rectangle(60, 40), circle('bore', 20, 20, 5)], 10);
  const wide = prism(kernel, [...rectangle(70, 40), circle('bore', 20, 20, 8)], 10);
  const [difference] = findDifferences(kernel, Number, stateOf({ board: thin }), stateOf({ board: wide }));
  expect(difference?.added?.volume).toBeCloseTo(10 * 40 * 10, 6);
  expect(difference?.removed?.volume).toBeCloseTo(Math.PI * (64 - 25) * 10, 6);
});

test('a body that is new is all added, one that is gone all removed, one that stays nothing', () => {
  const [a, b] = [prism(kernel, rectangle(10, 10), 10), prism(kernel, rectangle(5, 5, 40), 4)];
  const found = findDifferences(kernel, Number, stateOf({ kept: a, old: b }), stateOf({ kept: a, fresh: b }));
  expect(found.map(({ body, added, removed }) => [body, added?.volume, removed?.volume])).toEqual([
    ['old', undefined, expect.closeTo(100, 6)],
    ['fresh', expect.closeTo(100, 6), undefined],
  ]);
});

test('bodies that stand in one another are told with what they share; those that only touch, or stand apart, are not', () => {
  const post = prism(kernel, rectangle(20, 20), 100);
  const tenon = prism(kernel, rectangle(30, 8, 15, 6), 12);
  const beside = prism(kernel, rectangle(20, 20, 20), 100);
  const away = prism(kernel, rectangle(5, 5, 200), 5);
  const overlaps = findOverlaps(kernel, Number, stateOf({ post, tenon, beside, away }));
  expect(overlaps.map(({ bodies }) => bodies)).toEqual([
    ['post', 'tenon'],
    ['tenon', 'beside'],
  ]);
  expect(overlaps[0]?.volume).toBeCloseTo(5 * 8 * 12, 6);
  expect(overlaps[1]?.volume).toBeCloseTo(20 * 8 * 12, 6);
});
