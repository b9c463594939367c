/** Assemblies as files, read back by readers that are not ours: the tree of STEP by occt-import-js, meshes by three. */
import occtImport, { type OcctMesh, type OcctNode } from 'occt-import-js';
import { Box3, type Object3D } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { assemblyTree } from '@/core/assembly';
import { headsOf, openValues, turnAbout } from '@/core/instances';
import { createKernel } from '@/kernel/create-kernel';
import type { AssemblyFormat } from '@/workers/protocol';
import { RegenerationHost } from '@/workers/regeneration-host';
import { component, driven, withComponents, withParameters } from '../support/assemblies';
import { demoDocument } from '../support/demo';

let host: RegenerationHost;
beforeAll(async () => {
  host = new RegenerationHost(await createKernel());
});

/** A unit of two rails, one turned upright and shorter than the other; the loom has it twice, and a pawl. */
async function exported(format: AssemblyFormat): Promise<Uint8Array> {
  const [rail, pawl] = [demoDocument('Cross rail'), demoDocument('Pawl')];
  let unit = withComponents(
    withParameters('assembly', 'Unit', {}),
    component('low', 'cross-rail'),
    component('high', 'cross-rail', { at: { origin: [0, 100, 0], turn: [...turnAbout([0, 1, 0], -Math.PI / 2)] } }),
  );
  unit = driven(unit, 'high.rail_length', '300 mm', ['rail-length']);
  const loom = withComponents(
    withParameters('assembly', 'Loom', {}),
    component('near', 'Unit'),
    component('far', 'Unit', { at: { origin: [1000, 0, 0], turn: [1, 0, 0, 0] } }),
    component('pawl', 'pawl', { at: { origin: [0, 0, 500], turn: [1, 0, 0, 0] } }),
  );
  const { root, parts } = assemblyTree(openValues(loom, headsOf([rail, pawl, unit])), () => new Map());
  const { reply } = await host.answer({ kind: 'export-assembly', id: 1, document: loom, format, parts, root }, () => undefined);
  if (reply.kind !== 'exported') throw new Error(reply.kind);
  expect(reply.bodies).toBe(5);
  return reply.bytes;
}

const outline = ({ name, children, meshes: own }: OcctNode, meshes: readonly OcctMesh[]): unknown => ({
  [name]: [...own.map((i) => meshes[i]?.name), ...children.map((child) => outline(child, meshes))],
});

test('STEP has the tree of the assembly, each product once, everything where it stands', async () => {
  const bytes = await exported('step');
  const text = new TextDecoder().decode(bytes);
  expect(text.match(/NEXT_ASSEMBLY_USAGE_OCCURRENCE/g)).toHaveLength(5);
  // The two rails are of other lengths: two products of one name.
  expect([...text.matchAll(/= PRODUCT\('([^']*)'/g)].map(([, name]) => name).sort()).toEqual(['Cross rail', 'Cross rail', 'Loom', 'Pawl', 'Unit']);
  const { success, root, meshes } = (await occtImport()).ReadStepFile(bytes, null);
  expect(success).toBe(true);
  expect(meshes).toHaveLength(5);
  // That reader tells products, and gives what a product alone holds as meshes of it.
  expect(outline(root, meshes)).toEqual({
    '': [{ Loom: [{ Unit: ['Cross rail', 'Cross rail'] }, { Unit: ['Cross rail', 'Cross rail'] }, { Pawl: ['Pawl'] }] }],
  });
  expect([...text.matchAll(/NEXT_ASSEMBLY_USAGE_OCCURRENCE\('\d+','([^']*)'/g)].map(([, name]) => name).sort()).toEqual(['far', 'high', 'low', 'near', 'pawl']);
  const boxes = meshes.map(({ attributes: { position } }) => {
    const box = new Box3();
    box.setFromArray([...position.array]);
    return [...box.min.toArray(), ...box.max.toArray()].map((value) => Math.round(value * 100) / 100 + 0);
  });
  expect(boxes).toContainEqual([0, 0, 0, 460, 36, 36]);
  expect(boxes).toContainEqual([1000, 0, 0, 1460, 36, 36]);
  // Upright: its length along z, its depth along y.
  expect(boxes).toContainEqual([-36, 100, 0, 0, 136, 300]);
});

function nameOf({ name, userData }: Object3D): string {
  const given: unknown = userData['name'];
  return typeof given === 'string' ? given : name;
}

test('glTF has a node for each part, called by its path, where it stands', async () => {
  const bytes = await exported('glb');
  const { scene } = await new Promise<{ scene: Object3D }>((done, fail) => {
    new GLTFLoader().parse(Uint8Array.from(bytes).buffer, '', done, fail);
  });
  const boxes = new Map(scene.children.map((node) => [nameOf(node), new Box3().setFromObject(node)] as const));
  expect([...boxes.keys()].map((name) => name.replace(/[._]/g, ' ')).sort()).toEqual(['far high', 'far low', 'near high', 'near low', 'pawl']);
  const far = [...boxes].find(([name]) => /far.*low/.test(name))?.[1];
  // Metres, y upwards.
  expect(far?.min.x).toBeCloseTo(1, 6);
  expect(far?.max.x).toBeCloseTo(1.46, 6);
});
