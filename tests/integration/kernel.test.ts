/** The kernel on its real wasm, against closed forms of solid geometry. Millimetres. */
import { DATUM_FRAMES, findProfiles, type Curve, type Frame, type Profile } from '@/core/geometry';
import type { KernelPort } from '@/core/kernel-port';
import { createKernel } from '@/kernel/create-kernel';

let kernel: KernelPort;

beforeAll(async () => {
  kernel = await createKernel();
});

const line = (id: string, a: readonly [number, number], b: readonly [number, number]): Curve => ({ kind: 'line', id, start: a, end: b });
const circle = (id: string, x: number, y: number, radius: number): Curve => ({ kind: 'circle', id, centre: [x, y], radius });
const box = (w: number, h: number, x = 0, y = 0): Curve[] => [
  line('south', [x, y], [x + w, y]),
  line('east', [x + w, y], [x + w, y + h]),
  line('north', [x + w, y + h], [x, y + h]),
  line('west', [x, y + h], [x, y]),
];

function profiles(curves: readonly Curve[]): readonly Profile[] {
  const found = findProfiles(curves);
  if (found.problems.length > 0) throw new Error(JSON.stringify(found.problems));
  return found.profiles;
}

function extrude(curves: readonly Curve[], height: number, step = 's', frame: Frame = DATUM_FRAMES.top, from = 0) {
  const result = kernel.extrude({ profiles: profiles(curves), frame, from, to: from + height, step });
  if (!result.ok) throw new Error(result.failure.reason);
  return result.value;
}

const relative = (actual: number, expected: number) => Math.abs(actual - expected) / expected;

describe('volumes, areas and centres against closed forms', () => {
  test('a box', () => {
    const { volume, area, centre, box: bounds, isValid, solids } = kernel.measure(extrude(box(40, 30), 20));
    expect(relative(volume, 40 * 30 * 20)).toBeLessThan(1e-12);
    expect(relative(area, 2 * (40 * 30 + 40 * 20 + 30 * 20))).toBeLessThan(1e-12);
    centre.forEach((value, i) => expect(value).toBeCloseTo([20, 15, 10][i] ?? 0, 9));
    expect(bounds.max.map((v) => Math.round(v * 1e4) / 1e4)).toEqual([40, 30, 20]);
    expect([isValid, solids]).toEqual([true, 1]);
  });

  test('a plate with a round and a square hole as inner loops', () => {
    const { volume, area } = kernel.measure(
      extrude([...box(100, 60), circle('bore', 30, 30, 10), ...box(10, 10, 70, 20).map((c) => ({ ...c, id: `in-${c.id}` }))], 12),
    );
    const face = 100 * 60 - Math.PI * 100 - 100;
    expect(relative(volume, face * 12)).toBeLessThan(1e-12);
    expect(relative(area, 2 * face + 12 * (320 + 20 * Math.PI + 40))).toBeLessThan(1e-12);
  });

  test('a slot of two lines and two arcs, by Pappus its centre in the middle', () => {
    const slot: Curve[] = [
      line('low', [0, 0], [30, 0]),
      { kind: 'arc', id: 'right', start: [30, 0], end: [30, 16], centre: [30, 8], radius: 8 },
      line('high', [30, 16], [0, 16]),
      { kind: 'arc', id: 'left', start: [0, 16], end: [0, 0], centre: [0, 8], radius: 8 },
    ];
    const { volume, centre } = kernel.measure(extrude(slot, 5));
    expect(relative(volume, (30 * 16 + Math.PI * 64) * 5)).toBeLessThan(1e-12);
    expect(centre[0]).toBeCloseTo(15, 9);
  });

  test.each(['front', 'top', 'side'] as const)('the same solid on the %s plane, both ways', (plane) => {
    const up = kernel.measure(extrude(box(40, 30), 20, 's', DATUM_FRAMES[plane]));
    const down = kernel.measure(extrude(box(40, 30), -20, 's', DATUM_FRAMES[plane]));
    expect(relative(up.volume, 24_000)).toBeLessThan(1e-12);
    expect(relative(down.volume, 24_000)).toBeLessThan(1e-12);
    expect(up.centre.map((v, i) => Math.abs(v + (down.centre[i] ?? 0) - 2 * (up.centre[i] ?? 0))).some((v) => v > 1)).toBe(true);
  });
});

describe('names of faces', () => {
  const namesOf = (body: number): string[] => kernel.save(body).faceNames.slice().sort();

  test('come from the sketch curves', () => {
    expect(namesOf(extrude(box(40, 30), 20, 'e1'))).toEqual(['e1/end', 'e1/side(east)', 'e1/side(north)', 'e1/side(south)', 'e1/side(west)', 'e1/start']);
  });

  test('go through a cut, and the wall of the hole gets its own', () => {
    const plate = extrude(box(40, 30), 20, 'e1');
    const drill = extrude([circle('bore', 20, 15, 5)], 30, 'e2', DATUM_FRAMES.top, -5);
    const cut = kernel.combine('remove', plate, [drill]);
    if (!cut.ok) throw new Error(cut.failure.reason);
    expect(namesOf(cut.value)).toEqual(['e1/end', 'e1/side(east)', 'e1/side(north)', 'e1/side(south)', 'e1/side(west)', 'e1/start', 'e2/side(bore)']);
    expect(relative(kernel.measure(cut.value).volume, 24_000 - Math.PI * 25 * 20)).toBeLessThan(1e-12);
  });

  test('a face cut in two keeps its name on both pieces, each told by the wall beside it', () => {
    const bar = extrude(box(60, 20), 10, 'e1');
    const groove = extrude(box(10, 30, 25, -5), 5, 'e2', DATUM_FRAMES.top, 6);
    const cut = kernel.combine('remove', bar, [groove]);
    if (!cut.ok) throw new Error(cut.failure.reason);
    const names = namesOf(cut.value);
    expect(names).toContain('e1/end{e2/side(west)}');
    expect(names).toContain('e1/end{e2/side(east)}');
    expect(names.filter((name) => name === 'unnamed')).toEqual([]);
  });

  test('survive bytes: what is saved and loaded has the same names and volume', () => {
    const plate = extrude([...box(40, 30), circle('bore', 20, 15, 5)], 20, 'e1');
    const loaded = kernel.load(kernel.save(plate));
    expect(namesOf(loaded)).toEqual(namesOf(plate));
    expect(kernel.measure(loaded).volume).toBeCloseTo(kernel.measure(plate).volume, 9);
  });

  test('of a flush addition: the joined face has one of the two, none is without', () => {
    const joined = kernel.combine('add', extrude(box(40, 30), 20, 'e1'), [extrude(box(20, 30, 40, 0), 20, 'e2')]);
    if (!joined.ok) throw new Error(joined.failure.reason);
    expect(kernel.measure(joined.value).faces).toBe(6);
    expect(namesOf(joined.value)).not.toContain('unnamed');
  });
});

describe('what the kernel would accept or hang on is refused', () => {
  const request = { profiles: profiles(box(40, 30)), frame: DATUM_FRAMES.top, from: 0, step: 's' };
  test.each([
    ['a depth of zero', { ...request, to: 0 }, 'The depth is zero.'],
    ['a depth that is no number', { ...request, to: NaN }, 'The depth is not a number.'],
    ['no profile', { ...request, to: 5, profiles: [] }, 'There is no closed profile.'],
  ])('%s', (_, bad, reason) => {
    expect(kernel.extrude(bad)).toEqual({ ok: false, failure: { operation: 'extrude', reason } });
  });

  test('a cut that leaves nothing', () => {
    const small = extrude(box(10, 10), 10);
    expect(kernel.combine('remove', small, [extrude(box(30, 30, -10, -10), 30, 't', DATUM_FRAMES.top, -10)])).toMatchObject({
      ok: false,
      failure: { reason: 'Nothing is left of the body.' },
    });
  });

  test('afterwards the kernel still works', () => {
    expect(kernel.measure(extrude(box(10, 10), 10)).volume).toBeCloseTo(1000, 9);
  });
});

test('the mesh closes round the volume, and every triangle belongs to a named face', () => {
  const body = extrude([...box(40, 30), circle('bore', 20, 15, 5)], 20, 'e1');
  const { positions, indices, faces, edges } = kernel.mesh(body);
  let volume = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a = 0, b = 0, c = 0] = [indices[i], indices[i + 1], indices[i + 2]].map((v) => (v ?? 0) * 3);
    const at = (v: number, k: number): number => positions[v + k] ?? 0;
    volume +=
      (at(a, 0) * (at(b, 1) * at(c, 2) - at(b, 2) * at(c, 1)) -
        at(a, 1) * (at(b, 0) * at(c, 2) - at(b, 2) * at(c, 0)) +
        at(a, 2) * (at(b, 0) * at(c, 1) - at(b, 1) * at(c, 0))) /
      6;
  }
  expect(relative(volume, kernel.measure(body).volume)).toBeLessThan(2e-3);
  expect(faces.reduce((sum, face) => sum + face.count, 0)).toBe(indices.length);
  expect(new Set(faces.map((face) => face.name.slice(0, 3)))).toEqual(new Set(['e1/']));
  expect(edges.map((edge) => edge.name)).toContain('edge[e1/end | e1/side(east)]');
});

test('STEP and STL are written', () => {
  const body = extrude(box(40, 30), 20);
  expect(
    Buffer.from(kernel.exportFile([{ body, name: 'Plate' }], 'step'))
      .toString('latin1')
      .slice(0, 13),
  ).toBe('ISO-10303-21;');
  const stl = kernel.exportFile([{ body, name: 'Plate' }], 'stl');
  expect(new DataView(stl.buffer, stl.byteOffset).getUint32(80, true)).toBe(12);
  expect(stl.byteLength).toBe(84 + 12 * 50);
});

test('three hundred bodies made and let go do not fill the memory', () => {
  const cycle = (): void => {
    const plate = extrude([...box(40, 30), circle('bore', 20, 15, 5)], 20, 'e1');
    kernel.mesh(plate);
    kernel.release(plate);
  };
  for (let i = 0; i < 50; i++) cycle();
  const before = kernel.memory();
  for (let i = 0; i < 300; i++) cycle();
  expect((kernel.memory() - before) / 2 ** 20).toBeLessThan(120);
});
