/**
 * Each operation of the kernel against the closed form of its result. Frusta, revolved sections by the theorem
 * of Pappus and Guldin, and quarter-round corners: elementary solid geometry, derived here.
 */
import { DATUM_FRAMES, findProfiles, profileArea, type Frame, type Point3 } from '@/core/geometry';
import type { BodyHandle, KernelPort } from '@/core/kernel-port';
import { createKernel } from '@/kernel/create-kernel';
import { circle, line, polygon, prism, profilesOf, rectangle, relative, take } from '../support/kernel-shapes';

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

const volume = (body: number): number => kernel.measure(body).volume;
const block = (): number => prism(kernel, rectangle(40, 30), 20, 'e');
const TOP_EDGE = 'edge[e/end(east) | e/side(east)]';

describe('tapered extrusion', () => {
  const taper = (5 * Math.PI) / 180;
  const lean = 10 * Math.tan(taper);
  const tapered = (curves: Parameters<typeof profilesOf>[0], height: number, angle: number) =>
    take(kernel.extrude({ profiles: profilesOf(curves), frame: DATUM_FRAMES.top, from: 0, to: height, step: 'e', taper: angle }));

  test.each([1, -1])('a rectangle narrows to a frustum, going up and going down (%s)', (way) => {
    const [a, b] = [40 * 30, (40 - 2 * lean) * (30 - 2 * lean)];
    const middle = (40 - lean) * (30 - lean);
    expect(relative(volume(tapered(rectangle(40, 30), 10 * way, taper)), (10 * (a + 4 * middle + b)) / 6)).toBeLessThan(1e-9);
  });

  test('a circle becomes a cone stump, and its hole widens', () => {
    const stump = (r: number, s: number): number => ((Math.PI * 10) / 3) * (r * r + r * s + s * s);
    const body = tapered([circle('rim', 0, 0, 20), circle('bore', 0, 0, 8)], 10, taper);
    expect(relative(volume(body), stump(20, 20 - lean) - stump(8, 8 + lean))).toBeLessThan(1e-9);
    expect([...kernel.names(body).faces].sort()).toEqual(['e/end', 'e/side(bore)', 'e/side(rim)', 'e/start']);
  });

  test('sides that would meet are refused', () => {
    const request = { profiles: profilesOf(rectangle(4, 4)), frame: DATUM_FRAMES.top, from: 0, to: 50, step: 'e', taper: 0.2 };
    expect(kernel.extrude(request)).toMatchObject({ ok: false });
  });
});

describe('revolve, by Pappus', () => {
  const section = rectangle(6, 10, 20, 0);
  const turned = (angle: number) =>
    take(kernel.revolve({ profiles: profilesOf(section), frame: DATUM_FRAMES.front, axis: { origin: [0, 0], direction: [0, 1] }, angle, step: 'r' }));

  test.each([
    ['a full turn', 2 * Math.PI, 4],
    ['a third', (2 * Math.PI) / 3, 6],
    ['a third the other way', (-2 * Math.PI) / 3, 6],
  ])('%s', (_, angle, faces) => {
    const body = turned(angle);
    expect(relative(volume(body), 60 * 23 * Math.abs(angle))).toBeLessThan(1e-9);
    expect(kernel.measure(body).faces).toBe(faces);
    expect(kernel.names(body).faces).toEqual(expect.arrayContaining(['r/side(south)', 'r/side(east)', 'r/side(north)', 'r/side(west)']));
  });

  test('a section that crosses its axis is refused', () => {
    const request = { profiles: profilesOf(rectangle(10, 10, -5, 0)), frame: DATUM_FRAMES.front, step: 'r', angle: 7 };
    expect(kernel.revolve({ ...request, axis: { origin: [0, 0], direction: [0, 1] } })).toMatchObject({ ok: false });
  });
});

describe('edges and faces', () => {
  test('a fillet takes r² (1 - pi/4) off along its edge, and its face is named', () => {
    const body = take(kernel.fillet(block(), [TOP_EDGE], 4, 'f'));
    expect(relative(volume(body), 24_000 - 16 * (1 - Math.PI / 4) * 30)).toBeLessThan(1e-9);
    expect(kernel.names(body).faces.filter((name) => name.startsWith('f/round('))).toHaveLength(1);
    expect(kernel.names(body).faces).not.toContain('unnamed');
  });

  test.each([
    ['equal', { distance: 3 }, 4.5],
    ['two distances', { distance: 3, second: 5 }, 7.5],
    ['distance and angle', { distance: 3, angle: Math.PI / 6 }, 4.5 * Math.tan(Math.PI / 6)],
  ])('a chamfer of %s', (_, size, section) => {
    const body = take(kernel.chamfer(block(), [TOP_EDGE], size, 'c'));
    expect(relative(volume(body), 24_000 - section * 30)).toBeLessThan(1e-9);
  });

  test('a shell leaves a wall round a hollow that is open on top', () => {
    const body = take(kernel.shell(block(), ['e/end(east)'], 2, 'h'));
    expect(relative(volume(body), 24_000 - 36 * 26 * 18)).toBeLessThan(1e-9);
    expect(kernel.names(body).faces).not.toContain('unnamed');
    expect(kernel.names(body).faces.filter((name) => name.startsWith('h/inner('))).toHaveLength(5);
  });

  test('a face leans about the bottom plane', () => {
    const angle = Math.PI / 36;
    const body = take(kernel.draft(block(), ['e/side(east)'], DATUM_FRAMES.top, angle, 'd'));
    expect(relative(volume(body), 24_000 - (20 * 20 * Math.tan(angle) * 30) / 2)).toBeLessThan(1e-9);
    expect(kernel.names(body).faces).toContain('e/side(east)');
  });

  test.each([
    ['a fillet that is too large', () => kernel.fillet(block(), [TOP_EDGE], 50, 'f'), /does not fit|valid/],
    ['a fillet of nothing', () => kernel.fillet(block(), [TOP_EDGE], 0, 'f'), /above zero/],
    ['a fillet without a number', () => kernel.fillet(block(), [TOP_EDGE], NaN, 'f'), /not a number/],
    ['a chamfer that is too large', () => kernel.chamfer(block(), [TOP_EDGE], { distance: 45 }, 'c'), /./],
    ['a shell thicker than the body', () => kernel.shell(block(), ['e/end(east)'], 16, 'h'), /./],
    ['a shell twice as thick', () => kernel.shell(prism(kernel, rectangle(40, 30), 100, 'e'), ['e/end(east)'], 21, 'h'), /no room/],
    ['a shell that just closes', () => kernel.shell(block(), ['e/end(east)'], 15, 'h'), /./],
    ['a lost edge', () => kernel.fillet(block(), ['edge[e/end(east) | e/side(gone)]'], 2, 'f'), /no longer there/],
  ])('%s is refused in words', (_, attempt, words) => {
    const result = attempt();
    expect(result.ok).toBe(false);
    if (!result.ok) expect(result.failure.reason).toMatch(words);
    expect(volume(block())).toBeCloseTo(24_000, 6);
  });
});

test('what two bars have in common: the square where they cross', () => {
  const across = prism(kernel, rectangle(10, 60, 15, -15), 20, 'x');
  expect(relative(volume(take(kernel.combine('keep', block(), [across]))), 10 * 30 * 20)).toBeLessThan(1e-9);
});

describe('moved copies', () => {
  test('a shift, a turn and both: the centre goes where geometry says', () => {
    const axis = { origin: [0, 0, 0], direction: [0, 0, 1] } as const;
    const moved = take(
      kernel.move(
        block(),
        [
          { kind: 'turn', about: axis, angle: Math.PI / 2 },
          { kind: 'shift', by: [100, 0, 5] },
        ],
        'p/1',
      ),
    );
    const { centre } = kernel.measure(moved);
    [100 - 15, 20, 15].forEach((value, i) => expect(centre[i]).toBeCloseTo(value, 9));
    expect(kernel.names(moved).faces).toContain('p/1:e/side(east)');
  });

  test('a mirror image is a sound solid of the same volume on the other side', () => {
    const image = take(kernel.move(block(), [{ kind: 'mirror', plane: { origin: [0, 0, 0], normal: [1, 0, 0] } }], 'm'));
    expect(kernel.measure(image).centre[0]).toBeCloseTo(-20, 9);
    expect(relative(volume(image), 24_000)).toBeLessThan(1e-12);
  });
});

describe('what faces and edges are', () => {
  test('planes look out of the body', () => {
    const body = block();
    const normal = (name: string) => {
      const face = kernel.describeFace(body, name);
      return face?.kind === 'plane' ? face.frame.normal.map((v) => Math.round(v) + 0) : undefined;
    };
    expect(['e/end(east)', 'e/start(east)', 'e/side(east)', 'e/side(west)', 'e/side(south)'].map(normal)).toEqual([
      [0, 0, 1],
      [0, 0, -1],
      [1, 0, 0],
      [-1, 0, 0],
      [0, -1, 0],
    ]);
    expect(kernel.describeFace(body, 'e/end(east)')?.area).toBeCloseTo(1200, 9);
    expect(kernel.describeFace(body, 'nothing')).toBeUndefined();
  });

  test('holes look out of the body too, and know their axis', () => {
    const body = prism(kernel, [...rectangle(40, 30), circle('bore', 12, 9, 5)], 20, 'e');
    expect(kernel.describeFace(body, 'e/side(bore)')).toMatchObject({ kind: 'round', radius: 5 });
    expect(kernel.describeEdge(body, 'edge[e/end(east) | e/side(bore)]')).toMatchObject({ kind: 'circle', radius: 5 });
    expect(kernel.describeEdge(body, 'edge[e/end(east) | e/side(east)]')?.length).toBeCloseTo(30, 9);
    expect(kernel.nearest({ body, name: 'e/side(bore)' }, { body, name: 'e/side(east)' })?.distance).toBeCloseTo(40 - 12 - 5, 6);
  });

  test('inertia of a block about its centre', () => {
    const { inertia } = kernel.measure(block());
    expect(relative(inertia[0], (24_000 * (30 ** 2 + 20 ** 2)) / 12)).toBeLessThan(1e-9);
    expect(relative(inertia[2], (24_000 * (40 ** 2 + 30 ** 2)) / 12)).toBeLessThan(1e-9);
  });
});

describe('corners', () => {
  const cornersOf = (body: BodyHandle) => kernel.mesh(body).corners;
  const rounded = (at: readonly number[]) => at.map((value) => Math.round(value * 1e6) / 1e6 + 0).join(' ');

  test('those of a block are where its faces meet, each found again by its name', () => {
    const body = block();
    const all = cornersOf(body);
    expect(all.map(({ at }) => rounded(at)).sort()).toEqual(['0 0 0', '0 0 20', '0 30 0', '0 30 20', '40 0 0', '40 0 20', '40 30 0', '40 30 20']);
    for (const { name, at } of all) expect(kernel.describeCorner(body, name)?.point).toEqual(at);
    const top = kernel.describeCorner(body, 'corner[e/end(east) | e/side(east) | e/side(north)]');
    expect(rounded(top?.point ?? [])).toBe('40 30 20');
    const far = 'corner[e/side(south) | e/side(west) | e/start(east)]';
    expect(kernel.nearest({ body, name: far }, { body, name: 'corner[e/end(east) | e/side(east) | e/side(north)]' })?.distance).toBeCloseTo(
      Math.hypot(40, 30, 20),
      9,
    );
    expect(kernel.nearest({ body, name: far }, { body, name: 'e/side(north)' })?.distance).toBeCloseTo(30, 9);
  });

  test('the seam of a bore has none; a corner keeps its name as the block grows, and is gone once it is rounded', () => {
    const bored = prism(kernel, [...rectangle(40, 30), circle('bore', 12, 9, 5)], 20, 'e');
    expect(cornersOf(bored)).toHaveLength(8);
    const name = 'corner[e/end(east) | e/side(east) | e/side(north)]';
    expect(rounded(kernel.describeCorner(prism(kernel, rectangle(55, 30), 25, 'e'), name)?.point ?? [])).toBe('55 30 25');
    const soft = take(kernel.fillet(block(), ['edge[e/side(east) | e/side(north)]'], 3, 'f'));
    expect(kernel.describeCorner(soft, name)).toBeUndefined();
    expect(cornersOf(soft)).toHaveLength(6 + 4);
    for (const { name: own, at } of cornersOf(soft)) expect(kernel.describeCorner(soft, own)?.point).toEqual(at);
  });

  test('where the same faces meet more than once, they are told by their place', () => {
    // A groove across the top, whose corners meet different faces; and half a rod, where the flat side meets rim and end at both of its ends.
    const groove = prism(kernel, rectangle(10, 60, 15, -15), 10, 'g', DATUM_FRAMES.top, 12);
    const cut = take(kernel.combine('remove', block(), [groove]));
    const half = prism(kernel, rectangle(20, 20, -10, 0), 30, 'h', DATUM_FRAMES.top, -5);
    const flat = take(kernel.combine('remove', prism(kernel, [circle('rim', 0, 0, 8)], 20, 'r'), [half]));
    for (const body of [cut, flat]) {
      const all = cornersOf(body);
      expect(new Set(all.map(({ name }) => name)).size).toBe(all.length);
      for (const { name, at } of all) expect(kernel.describeCorner(body, name)?.point).toEqual(at);
    }
    expect(cornersOf(cut)).toHaveLength(16);
    expect(
      cornersOf(flat)
        .map(({ name }) => name.includes('#'))
        .sort(),
    ).toEqual([true, true, true, true]);
  });
});

describe('where a plane cuts', () => {
  const frame = (origin: Point3, x: Point3, y: Point3, normal: Point3): Frame => ({ origin, x, y, normal });
  const level = (z: number): Frame => frame([0, 0, z], [1, 0, 0], [0, 1, 0], [0, 0, 1]);
  const areaOf = (body: BodyHandle, at: Frame): number => {
    const { profiles } = findProfiles(kernel.section(body, at) ?? []);
    return profiles.reduce((sum, profile) => sum + profileArea(profile), 0);
  };

  test('a bored block, across and along the bore', () => {
    const body = prism(kernel, [...rectangle(40, 30), circle('bore', 12, 9, 5)], 20, 'e');
    const across = kernel.section(body, level(8)) ?? [];
    expect(across.map(({ kind }) => kind).sort()).toEqual(['circle', 'line', 'line', 'line', 'line']);
    expect(across.find(({ kind }) => kind === 'circle')).toMatchObject({ radius: 5 });
    expect(areaOf(body, level(8))).toBeCloseTo(1200 - 25 * Math.PI, 6);
    // Through its axis the bore leaves two pieces, 3 mm thinner than half of it each side.
    expect(areaOf(body, frame([12, 0, 0], [0, 1, 0], [0, 0, 1], [1, 0, 0]))).toBeCloseTo(20 * (30 - 10), 6);
    expect(kernel.section(body, level(25))).toEqual([]);
  });

  test('arcs run the way they are drawn, whichever side the plane is looked at from', () => {
    const half = prism(kernel, rectangle(20, 20, -10, 0), 30, 'h', DATUM_FRAMES.top, -5);
    const flat = take(kernel.combine('remove', prism(kernel, [circle('rim', 0, 0, 8)], 20, 'r'), [half]));
    for (const at of [level(4), frame([0, 0, 4], [1, 0, 0], [0, -1, 0], [0, 0, -1])]) expect(areaOf(flat, at)).toBeCloseTo(32 * Math.PI, 6);
  });

  test('a slanted cut through a rod is an ellipse, drawn in short lines', () => {
    const rod = prism(kernel, [circle('rim', 0, 0, 8)], 60, 'r');
    const s = Math.SQRT1_2;
    // Its half axes are 8 mm and 8 mm times the root of 2; the lines lie within it by less than a thousandth of its area.
    const area = areaOf(rod, frame([0, 0, 30], [1, 0, 0], [0, s, s], [0, -s, s]));
    expect(relative(area, Math.PI * 64 * Math.SQRT2)).toBeLessThan(4e-3);
  });
});

test('a fillet on an edge whose face was cut in two takes both pieces', () => {
  const groove = prism(kernel, rectangle(10, 60, 15, -15), 10, 'g', DATUM_FRAMES.top, 12);
  const cut = take(kernel.combine('remove', block(), [groove]));
  const plain = volume(cut);
  const rounded = take(kernel.fillet(cut, ['edge[e/end(east) | e/side(south)]'], 2, 'f'));
  expect(relative(plain - volume(rounded), 4 * (1 - Math.PI / 4) * 30)).toBeLessThan(1e-6);
});

test('an outline with a line drawn across gives one solid without a seam', () => {
  const body = prism(kernel, [...polygon([0, 0], [40, 0], [40, 30], [0, 30]), line('across', [0, 10], [40, 10])], 10, 'e');
  expect(kernel.measure(body)).toMatchObject({ faces: 6, solids: 1 });
});

test('the mesh draws the rims of a bore and not the seam of its wall', () => {
  const body = prism(kernel, [...rectangle(40, 30), circle('bore', 12, 9, 5)], 20, 'e');
  const { edges, edgePoints } = kernel.mesh(body);
  expect(edges).toHaveLength(12 + 2);
  expect(edges.every(({ name }) => name.includes(' | '))).toBe(true);
  expect(edgePoints).toHaveLength(3 * edges.reduce((sum, { count }) => sum + count, 0));
  const rim = edges.find(({ name }) => name.includes('e/end(') && name.includes('bore'));
  for (let i = 0; i < (rim?.count ?? 0); i++) {
    const at = 3 * ((rim?.start ?? 0) + i);
    expect(Math.hypot((edgePoints[at] ?? NaN) - 12, (edgePoints[at + 1] ?? NaN) - 9)).toBeCloseTo(5, 4);
    expect(edgePoints[at + 2]).toBeCloseTo(20, 4);
  }
});
