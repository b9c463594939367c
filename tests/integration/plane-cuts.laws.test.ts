/** Cuts that are made in the plane of a profile against the kernel's own, on outlines that touch, coincide, enclose and miss. */
import fc from 'fast-check';
import { DATUM_FRAMES, findProfiles, type Curve, type Profile } from '@/core/geometry';
import type { BodyProperties, KernelPort } from '@/core/kernel-port';
import { makePrism, removePrisms, type Prism } from '@/core/steps/build/prism';
import { createKernel } from '@/kernel/create-kernel';
import { circle, line, relative, take } from '../support/kernel-shapes';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

const FRAME = DATUM_FRAMES.top;
const HEIGHT = 10;

interface Shape {
  readonly form: 'disc' | 'box';
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** On a grid, so that shapes meet in every degenerate way. */
const shape = (most: number): fc.Arbitrary<Shape> =>
  fc.record({
    form: fc.constantFrom('disc' as const, 'box' as const),
    x: fc.integer({ min: 0, max: 12 }),
    y: fc.integer({ min: 0, max: 12 }),
    r: fc.integer({ min: 1, max: most }),
  });

function curvesOf({ form, x, y, r }: Shape, id: string): Curve[] {
  if (form === 'disc') return [circle(id, x, y, r)];
  const corners = [
    [x - r, y - r],
    [x + r, y - r],
    [x + r, y + r],
    [x - r, y + r],
  ] as const;
  return corners.map((corner, i) => line(`${id}-${i}`, corner, corners[(i + 1) % 4] ?? corner));
}

function measured(profiles: readonly Profile[], from: number, to: number, step: string) {
  return take(kernel.extrude({ profiles, frame: FRAME, from, to, step }));
}

/** What the kernel makes of it; undefined where nothing is left. */
function cutByKernel(body: Prism, tools: readonly Prism[]): BodyProperties | undefined {
  const solid = measured(body.profiles, body.from, body.to, 'body');
  const cutters = tools.map((tool, i) => measured(tool.profiles, tool.from, tool.to, `tool${i}`));
  const cut = kernel.combine('remove', solid, cutters);
  const properties = cut.ok ? kernel.measure(cut.value) : undefined;
  for (const handle of [solid, ...cutters, ...(cut.ok ? [cut.value] : [])]) kernel.release(handle);
  return properties;
}

test('what is cut in the plane is what the kernel cuts: volume, faces and pieces', () => {
  const counts = { short: 0, long: 0, unsound: 0, nothing: 0 };
  fc.assert(
    fc.property(fc.array(shape(9), { minLength: 1, maxLength: 3 }), fc.array(shape(4), { minLength: 1, maxLength: 3 }), (drawn, taken) => {
      const outline = findProfiles(drawn.flatMap((one, i) => curvesOf(one, `b${i}`)));
      if (outline.problems.length > 0) {
        counts.unsound++;
        return;
      }
      const body = makePrism('body', FRAME, outline.profiles, 0, HEIGHT);
      const tools = taken.map((one, i) => makePrism(`tool${i}`, FRAME, findProfiles(curvesOf(one, `t${i}`)).profiles, -1, HEIGHT + 1));
      const short = removePrisms(body, tools);
      if (!short) {
        counts.long++;
        return;
      }
      counts.short++;
      const long = cutByKernel(body, tools);
      if (!long) counts.nothing++;
      const handle = measured(short.profiles, short.from, short.to, 'body');
      const { volume, faces, solids, isValid } = kernel.measure(handle);
      kernel.release(handle);
      expect(long).toBeDefined();
      expect(relative(volume, long?.volume ?? NaN)).toBeLessThan(1e-9);
      expect([faces, solids, isValid]).toEqual([long?.faces, long?.solids, true]);
    }),
    { numRuns: 3000 },
  );
  // The law says something only where the short way is taken often.
  expect(counts.short).toBeGreaterThan(100);
}, 240_000);

test.each([
  ['a bore wider than the rod', [{ form: 'disc', x: 0, y: 0, r: 5 }], { form: 'disc', x: 0, y: 0, r: 6 }],
  [
    'a cut around one of two posts',
    [
      { form: 'disc', x: 0, y: 0, r: 2 },
      { form: 'disc', x: 10, y: 0, r: 2 },
    ],
    { form: 'disc', x: 0, y: 0, r: 4 },
  ],
  [
    'a cut around a hole',
    [
      { form: 'box', x: 0, y: 0, r: 9 },
      { form: 'disc', x: 0, y: 0, r: 2 },
    ],
    { form: 'disc', x: 0, y: 0, r: 4 },
  ],
  [
    'a cut within a hole',
    [
      { form: 'box', x: 0, y: 0, r: 9 },
      { form: 'disc', x: 0, y: 0, r: 4 },
    ],
    { form: 'disc', x: 0, y: 0, r: 2 },
  ],
  ['a cut beside the body', [{ form: 'disc', x: 0, y: 0, r: 4 }], { form: 'disc', x: 20, y: 0, r: 2 }],
  ['a cut of the whole', [{ form: 'disc', x: 0, y: 0, r: 4 }], { form: 'disc', x: 0, y: 0, r: 4 }],
  ['a cut that touches the edge', [{ form: 'box', x: 0, y: 0, r: 9 }], { form: 'disc', x: 7, y: 0, r: 2 }],
] satisfies [string, Shape[], Shape][])('%s is not taken out of the profile', (_, drawn, taken) => {
  const { profiles } = findProfiles(drawn.flatMap((one, i) => curvesOf(one, `b${i}`)));
  expect(profiles).not.toEqual([]);
  const tool = makePrism('tool', FRAME, findProfiles(curvesOf(taken, 't')).profiles, -1, HEIGHT + 1);
  expect(removePrisms(makePrism('body', FRAME, profiles, 0, HEIGHT), [tool])).toBeUndefined();
});
