/** Mirrored parts and sub-assemblies, on the kernel. */
import { readGeometry, readInMirror, reflectGeometry, type MateGeometry } from '@/core/assembly';
import type { AssemblyMeasure, Document } from '@/core/document';
import { dot, type Point3 } from '@/core/geometry';
import { headsOf, listPlaced, openValues, reflect, turnAbout } from '@/core/instances';
import type { RegenerationClient } from '@/workers/client';
import { clientFromSource } from '@/workers/start-thread';
import { buildWhole } from '@/workers/whole-assembly';
import { component, withComponents, withParameters } from '../support/assemblies';
import { demoDocument, edited } from '../support/demo';

let client: RegenerationClient;
beforeAll(() => {
  client = clientFromSource();
});
afterAll(() => client.close());

/** What a mate holds on to, and the ends of an edge, as numbers. */
function linesOf(geometry: MateGeometry | undefined, ends: readonly Point3[]): readonly number[] {
  switch (geometry?.kind) {
    case 'plane':
      return [...geometry.normal, dot(geometry.normal, geometry.point)];
    case 'line':
      return [...geometry.direction, ...acrossOf(geometry.point, geometry.direction), ...ends.flat()];
    case 'point':
      return geometry.point;
    case undefined:
      return [];
  }
}

/** The point of an axis that is nearest to the origin. */
const acrossOf = (point: Point3, direction: Point3): Point3 => {
  const along = dot(point, direction);
  return [point[0] - along * direction[0], point[1] - along * direction[1], point[2] - along * direction[2]];
};

test.each(['Pawl', 'Cross rail', 'Side frame', 'Warp beam'])(
  'every face and edge of %s, mirrored, is the image of its own, with its directions',
  async (name) => {
    const part = demoDocument(name);
    const host = withComponents(withParameters('assembly', 'host', {}), component('plain', part.id), component('turned', part.id, { mirrored: 'front' }));
    const heads = headsOf([demoDocument('Loom sizes'), part]);
    const placed = listPlaced(openValues(host, heads));
    const [plain, turned] = placed.map(({ document }) => document);
    if (!plain || !turned) throw new Error('not placed');
    const built = await client.regenerate(plain, []);
    if (!built.ok) throw new Error('not built');
    const { result, meshes } = built.value;
    const wanted = result.bodies.flatMap(({ id, key = '' }) =>
      [...(meshes[key]?.faces ?? []), ...(meshes[key]?.edges ?? [])].map((one) => ({ body: id, name: one.name })),
    );
    expect(wanted.length).toBeGreaterThan(20);
    const [own, image] = [await client.regenerate(plain, [], 'describe own', wanted), await client.regenerate(turned, [], 'describe image', wanted)];
    if (!own.ok || !image.ok) throw new Error('not built');
    wanted.forEach(({ name: face }, i) => {
      const [a, b] = [own.value.shapes?.[i], image.value.shapes?.[i]];
      if (!a) throw new Error(`${face} is not there`);
      expect(`${face} ${b?.kind}`).toBe(`${face} ${a.kind}`);
      const [mine, theirs] = [readGeometry(a), b ? readInMirror(b, { isTurned: true }) : undefined];
      const ends = 'start' in a && a.kind === 'line' ? [reflect('front', a.start), reflect('front', a.end)] : [];
      const expected = linesOf(mine && reflectGeometry(mine, 'front'), ends);
      const found = linesOf(theirs, b && 'start' in b && b.kind === 'line' ? [b.start, b.end] : []);
      expect(found.length).toBe(expected.length);
      expect(`${face} ${found.every((value, k) => Math.abs(value - (expected[k] ?? NaN)) < 1e-6)}`).toBe(`${face} true`);
    });
  },
);

/** A pawl that leans on the end of a rail, neither of them in line with anything. */
function unit(): Document {
  const at = { origin: [80, 20, 5] as [number, number, number], turn: [...turnAbout([0.6, 0, 0.8], 0.7)] as [number, number, number, number] };
  return withComponents(
    withParameters('assembly', 'unit', {}),
    component('rail', 'cross-rail', { at, isAnchored: true }),
    component('pawl', 'pawl', { at: { origin: [150, -60, 30], turn: [...turnAbout([0, 0.6, 0.8], 1.9)] as [number, number, number, number] } }),
  );
}

test('the centre of an assembly and its image lies in the mirror; they weigh the same, and stand clear of one another', async () => {
  const measures: Readonly<Record<string, AssemblyMeasure>> = {
    x: { of: 'assembly', what: 'centre-x' },
    y: { of: 'assembly', what: 'centre-y' },
    z: { of: 'assembly', what: 'centre-z' },
    mass: { of: 'assembly', what: 'mass' },
    common: { of: 'assembly', what: 'interference' },
  };
  const read = async (host: Document): Promise<Record<string, number>> => {
    const made = Object.entries(measures).reduce(
      (before, [name, measure]) =>
        edited(before, { type: 'measure.add', parameter: { type: 'parameter', id: name, name: `all_${name}`, formula: { text: '' }, kind: 'any', measure } }),
      host,
    );
    const whole = await buildWhole(client, made, headsOf([demoDocument('Cross rail'), demoDocument('Pawl'), unit()]).snapshot);
    if ('failure' in whole) throw new Error(`${whole.part}: ${whole.failure.kind}`);
    return Object.fromEntries(Object.keys(measures).map((id) => [id, whole.values.sheet.readNumber(id)]));
  };
  const host = (...more: Parameters<typeof component>[]) =>
    withComponents(withParameters('assembly', 'host', {}), component('left', 'unit'), ...more.map((one) => component(...one)));
  const alone = await read(host());
  const both = await read(host(['right', 'unit', { mirrored: 'side' }]));
  expect(alone['x']).toBeGreaterThan(100_000);
  expect(both['x']).toBeCloseTo(0, 3);
  expect(both['y']).toBeCloseTo(alone['y'] ?? NaN, 2);
  expect(both['z']).toBeCloseTo(alone['z'] ?? NaN, 2);
  expect((both['mass'] ?? NaN) / (alone['mass'] ?? NaN)).toBeCloseTo(2, 9);
  expect(both['common']).toBe(0);
});
