/** Files for other programs, read back by readers that are not ours: STEP by occt-import-js, the others by three. */
import { DOMParser } from 'linkedom';
import occtImport, { type OcctMesh } from 'occt-import-js';
import { Mesh, type BufferGeometry, type MeshStandardMaterial, type Object3D } from 'three';
import { ThreeMFLoader } from 'three/examples/jsm/loaders/3MFLoader.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { createKernel } from '@/kernel/create-kernel';
import { RegenerationHost } from '@/workers/regeneration-host';
import type { ExportFormat, WorkerReply } from '@/workers/protocol';
import { relative } from '../support/kernel-shapes';
import { PartBuilder } from '../support/part-builder';

let host: RegenerationHost;
beforeAll(async () => {
  host = new RegenerationHost(await createKernel());
});

/** A block of steel with a bore, and a brass-coloured pin beside it. */
function twoBodies(): PartBuilder {
  return PartBuilder.block()
    .circle('base', 'bore', '10 mm', [20, 15], 5)
    .sketch('round')
    .circle('round', 'pin', '8 mm', [60, 0], 4)
    .step({ type: 'extrude', id: 'stud', sketch: 'round', operation: 'start', extent: 'forward', body: 'stud-body' }, { depth: '30 mm' })
    .do({ type: 'body.put', body: { type: 'body', id: 'b', name: 'Block & bore', material: 'Steel' } })
    .do({ type: 'body.put', body: { type: 'body', id: 'stud-body', name: 'Stift für "Ø8"', material: 'Brass', colour: '#336699' } });
}

const VOLUMES = [24_000 - 500 * Math.PI, 480 * Math.PI];
/** Triangles lie inside round faces: within a tenth of a millimetre. */
const MESHED = 0.01;

async function exported(format: ExportFormat, bodies?: readonly string[]): Promise<{ readonly bytes: Uint8Array; readonly progress: WorkerReply[] }> {
  const progress: WorkerReply[] = [];
  const { document } = twoBodies();
  const { reply } = await host.answer({ kind: 'export', id: 1, document, format, ...(bodies ? { bodies } : {}) }, (told) => progress.push(told));
  if (reply.kind !== 'exported') throw new Error(reply.kind);
  return { bytes: reply.bytes, progress };
}

/** Volume inside triangles, by the divergence theorem. */
function volumeOf(positions: ArrayLike<number>, indices: ArrayLike<number>): number {
  const at = (i: number): readonly [number, number, number] => {
    const vertex = 3 * (indices[i] ?? 0);
    return [positions[vertex] ?? 0, positions[vertex + 1] ?? 0, positions[vertex + 2] ?? 0];
  };
  let six = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [[ax, ay, az], [bx, by, bz], [cx, cy, cz]] = [at(i), at(i + 1), at(i + 2)];
    six += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return six / 6;
}

function geometryVolume(geometry: BufferGeometry): number {
  const places = geometry.getAttribute('position');
  const each = Array.from({ length: places.count }, (_, i) => i);
  return volumeOf(
    each.flatMap((i) => [places.getX(i), places.getY(i), places.getZ(i)]),
    geometry.index?.array ?? each,
  );
}

function meshesOf(root: Object3D): Mesh<BufferGeometry, MeshStandardMaterial>[] {
  const found: Mesh<BufferGeometry, MeshStandardMaterial>[] = [];
  root.traverse((child) => {
    if (child instanceof Mesh) found.push(child as Mesh<BufferGeometry, MeshStandardMaterial>);
  });
  return found;
}

const buffer = (bytes: Uint8Array): ArrayBuffer => Uint8Array.from(bytes).buffer;

test('STEP carries every body with its name, colour and volume', async () => {
  const { bytes } = await exported('step');
  const { success, meshes } = (await occtImport()).ReadStepFile(bytes, null);
  expect(success).toBe(true);
  expect(meshes.map(({ name }) => name)).toEqual(['Block & bore', 'Stift für "Ø8"']);
  const colours = meshes.map(({ color }) => color?.map((part) => Math.round(asShown(part) * 255)));
  expect(colours[1]).toEqual([0x33, 0x66, 0x99]);
  expect(colours[0]).toEqual([0x8d, 0x94, 0x9b]);
  meshes.forEach((mesh: OcctMesh, i) => {
    expect(relative(volumeOf(mesh.attributes.position.array, mesh.index.array), VOLUMES[i] ?? 0)).toBeLessThan(0.03);
  });
});

/** That reader gives colours linear (IEC 61966-2-1). */
function asShown(part: number): number {
  return part <= 0.0031308 ? part * 12.92 : 1.055 * part ** (1 / 2.4) - 0.055;
}

test('3MF carries every body, closed, with its name and colour', async () => {
  // The loader wants a browser's parser; this one leaves `&amp;` in attributes as it is.
  Object.assign(globalThis, { DOMParser });
  const { bytes, progress } = await exported('3mf');
  const meshes = meshesOf(new ThreeMFLoader().parse(buffer(bytes)));
  expect(meshes.map(({ parent }) => parent?.name.replace('&amp;', '&'))).toEqual(['Block & bore', 'Stift für "Ø8"']);
  meshes.forEach((mesh, i) => {
    expect(relative(geometryVolume(mesh.geometry), VOLUMES[i] ?? 0)).toBeLessThan(MESHED);
    expect(everyEdgeTwice(mesh.geometry)).toBe(true);
  });
  expect(progress).toEqual([0, 1, 2].map((done) => ({ kind: 'progress', id: 1, done, of: 3 })));
});

/** Whether each edge is run once each way: a closed surface, which 3MF asks for. */
function everyEdgeTwice({ index, attributes }: BufferGeometry): boolean {
  const runs = new Map<string, number>();
  const { position } = attributes;
  // The loader gives corners one by one: those at one place are one.
  const corners = Array.from(index?.array ?? Array.from({ length: position?.count ?? 0 }, (_, i) => i));
  const placeOf = (corner = 0): string => [position?.getX(corner), position?.getY(corner), position?.getZ(corner)].join(',');
  for (let i = 0; i < corners.length; i += 3) {
    const [a, b, c] = [placeOf(corners[i]), placeOf(corners[i + 1]), placeOf(corners[i + 2])];
    for (const key of [`${a} ${b}`, `${b} ${c}`, `${c} ${a}`]) runs.set(key, (runs.get(key) ?? 0) + 1);
  }
  return runs.size > 0 && [...runs].every(([key, count]) => count === 1 && runs.get(key.split(' ').reverse().join(' ')) === 1);
}

test('glTF carries every body in metres, y upwards, with its name and colour', async () => {
  Object.assign(globalThis, { self: globalThis });
  const { bytes } = await exported('glb');
  const { scene } = await new GLTFLoader().parseAsync(buffer(bytes), '');
  const meshes = meshesOf(scene);
  expect(meshes.map(({ userData, name }) => (userData['name'] as string | undefined) ?? name)).toEqual(['Block & bore', 'Stift für "Ø8"']);
  expect(meshes[1]?.material.color.getHexString()).toBe('336699');
  meshes.forEach((mesh, i) => expect(relative(geometryVolume(mesh.geometry) * 1e9, VOLUMES[i] ?? 0)).toBeLessThan(MESHED));
  meshes[1]?.geometry.computeBoundingBox();
  expect(meshes[1]?.geometry.boundingBox?.max.y).toBeCloseTo(0.03, 6);
});

test('STL holds the triangles of the bodies that were asked for', async () => {
  const { bytes } = await exported('stl', ['stud-body']);
  expect(relative(geometryVolume(new STLLoader().parse(buffer(bytes))), VOLUMES[1] ?? 0)).toBeLessThan(MESHED);
});
