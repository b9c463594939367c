/** Cuts through plain profiles: the short way and the kernel's way give the same solid with the same names. */
import { findProfiles, profileArea } from '@/core/geometry';
import type { KernelPort } from '@/core/kernel-port';
import { Regenerator } from '@/core/steps';
import { createKernel } from '@/kernel/create-kernel';
import { circle, relative } from '../support/kernel-shapes';
import { build, PartBuilder } from '../support/part-builder';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

/** The kernel with what it is asked counted. */
function counting(): { readonly port: KernelPort; readonly counts: { combine: number; repeat: number } } {
  const counts = { combine: 0, repeat: 0 };
  const port: KernelPort = {
    ...kernel,
    combine: (...args) => {
      counts.combine++;
      return kernel.combine(...args);
    },
    repeat: (...args) => {
      counts.repeat++;
      return kernel.repeat(...args);
    },
  };
  return { port, counts };
}

const plate = (extent: 'through' | 'forward' = 'through', x = 10): PartBuilder =>
  PartBuilder.block('200 mm', '30 mm', '5 mm')
    .sketch('slot', 'top')
    .rectangle('slot', '2 mm', '20 mm', [x, 5], [2, 20])
    .step({ type: 'extrude', id: 'cut', sketch: 'slot', operation: 'remove', extent, body: 'b' }, extent === 'forward' ? { depth: '3 mm' } : {})
    .step({ type: 'pattern', id: 'row', form: 'linear', of: ['cut'], along: 'x', spread: 'spacing', body: 'b' }, { count: '40', span: '4 mm' });

function facesOf(part: PartBuilder, port: KernelPort): { readonly names: readonly string[]; readonly volume: number } {
  const regenerator = new Regenerator(port);
  const result = build(port, part, regenerator);
  expect(result.steps.flatMap(({ problem }) => problem?.message ?? [])).toEqual([]);
  const mesh = regenerator.mesh(result.body()?.key ?? '');
  return { names: [...new Set(mesh?.faces.map(({ name }) => name))].sort(), volume: result.volume };
}

test('a row of slots through a board takes no cut at all, and is the same as one that does', () => {
  const short = counting();
  const fast = facesOf(plate(), short.port);
  expect(short.counts).toEqual({ combine: 0, repeat: 0 });
  // The same board with a fillet first is no plain profile any more.
  const long = counting();
  const dressed = PartBuilder.block('200 mm', '30 mm', '5 mm')
    .step({ type: 'fillet', id: 'round', edges: ['edge[block/side(base-1) | block/side(base-2)]'], body: 'b' }, { radius: '3 mm' })
    .sketch('slot', 'top')
    .rectangle('slot', '2 mm', '20 mm', [10, 5], [2, 20])
    .step({ type: 'extrude', id: 'cut', sketch: 'slot', operation: 'remove', extent: 'through', body: 'b' })
    .step({ type: 'pattern', id: 'row', form: 'linear', of: ['cut'], along: 'x', spread: 'spacing', body: 'b' }, { count: '40', span: '4 mm' });
  const slow = facesOf(dressed, long.port);
  expect(long.counts).toEqual({ combine: 2, repeat: 1 });
  expect(fast.names).toEqual(slow.names.filter((name) => !name.startsWith('round/')));
  expect(relative(fast.volume, 200 * 30 * 5 - 40 * 2 * 20 * 5)).toBeLessThan(1e-9);
  expect(relative(slow.volume, fast.volume - 9 * (1 - Math.PI / 4) * 5)).toBeLessThan(1e-9);
});

test.each([
  ['a pocket that does not go through', plate('forward'), 200 * 30 * 5 - 40 * 2 * 20 * 3],
  ['a row that runs over the edge', plate('through', 43), 200 * 30 * 5 - 39 * 2 * 20 * 5 - 20 * 5],
  ['slots that overlap one another', plate().set('row_span', '1 mm'), 200 * 30 * 5 - (39 + 2) * 20 * 5],
  [
    'a through cut tapered',
    PartBuilder.block()
      .sketch('s')
      .rectangle('s', '10 mm', '10 mm', [5, 5], [10, 10])
      .step(
        { type: 'extrude', id: 'cut', sketch: 's', operation: 'remove', extent: 'both', isTapered: true, body: 'b' },
        { depth: '20 mm', back: '0.001 mm', taper: '0 deg' },
      ),
    24_000 - 2000,
  ],
])('%s is right too', (_, part, volume) => {
  expect(relative(facesOf(part, kernel).volume, volume)).toBeLessThan(1e-9);
});

test('notches round a bore that overlap one another are cut by the kernel, and right', () => {
  const part = new PartBuilder()
    .sketch('base')
    .circle('base', 'disc', '80 mm', [0, 0], 40)
    .circle('base', 'hub', '20 mm', [0, 0], 10)
    .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'forward', body: 'b' }, { depth: '10 mm' })
    .sketch('mark')
    .circle('mark', 'notch', '6 mm', [11, 0], 3)
    .step({ type: 'extrude', id: 'cut', sketch: 'mark', operation: 'remove', extent: 'through', body: 'b' })
    .step(
      { type: 'pattern', id: 'ring', form: 'circular', of: ['cut'], along: 'z', spread: 'spacing', body: 'b' },
      { count: '16', span: '360 deg / ring_count' },
    );
  // The region between the rim and the united outline of bore and notches, by the plane geometry of the core.
  const notches = Array.from({ length: 16 }, (_, i) => circle(`n${i}`, 11 * Math.cos((i * Math.PI) / 8), 11 * Math.sin((i * Math.PI) / 8), 3));
  const opening = findProfiles([circle('hub', 0, 0, 10), ...notches]).profiles;
  expect(opening).toHaveLength(1);
  const area = Math.PI * 1600 - opening.reduce((sum, profile) => sum + profileArea(profile), 0);
  expect(relative(facesOf(part, kernel).volume, area * 10)).toBeLessThan(1e-9);
});

test('a ring of bores in a disc goes the short way, turned in the plane', () => {
  const { port, counts } = counting();
  const part = new PartBuilder()
    .sketch('base', 'front')
    .circle('base', 'disc', '100 mm', [0, 0], 50)
    .step({ type: 'extrude', id: 'block', sketch: 'base', operation: 'start', extent: 'centred', body: 'b' }, { depth: '8 mm' })
    .sketch('mark', 'front')
    .circle('mark', 'bore', '6 mm', [35, 0], 3)
    .step({ type: 'extrude', id: 'cut', sketch: 'mark', operation: 'remove', extent: 'through', body: 'b' })
    .step(
      { type: 'pattern', id: 'ring', form: 'circular', of: ['cut'], along: 'y', spread: 'spacing', isReversed: true, body: 'b' },
      { count: '9', span: '40 deg' },
    );
  const { volume } = facesOf(part, port);
  expect(counts.combine).toBe(0);
  expect(relative(volume, Math.PI * 8 * (2500 - 9 * 9))).toBeLessThan(1e-9);
});
