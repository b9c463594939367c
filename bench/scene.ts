/**
 * The picture of 100 bodies of 2,400 triangles, 40 of them one and the same screw: 200 edits of one body each, 200 things that the pointer
 * passes over, 200 picks. Without a graphics card: what is counted is what the page does, and what it would send. Against a scene that is
 * made anew each time, and rays that try every triangle.
 */
import { BufferAttribute, Color, Matrix4, Mesh, Raycaster, SphereGeometry, Vector3 } from 'three';
import type { BodyMesh } from '../src/core/kernel-port';
import type { Colours } from '../src/ui/canvas3d/body-figure';
import { BodyScene } from '../src/ui/canvas3d/body-scene';
import { pickFace } from '../src/ui/canvas3d/picking';
import type { ShownBody } from '../src/ui/state/shown-body';
import { measure, microseconds, type Row } from './support';

const TIMES = 200;
const grey = new Color('#808080');
const COLOURS: Colours = { wood: grey, stale: grey, edge: grey, ground: grey, selected: grey, hint: grey, before: grey, after: grey };

/** A ball with 48 faces of 50 triangles. */
function ball(radius: number, id: string): BodyMesh {
  const geometry = new SphereGeometry(radius, 48, 26);
  const { position, normal } = geometry.attributes;
  const indices = Uint32Array.from(geometry.index?.array ?? []);
  const size = 150;
  const faces = Array.from({ length: Math.floor(indices.length / size) }, (_, i) => ({ name: `${id}/f${i}`, start: i * size, count: size }));
  return {
    positions: Float32Array.from(position?.array ?? []),
    normals: Float32Array.from(normal?.array ?? []),
    indices: indices.slice(0, faces.length * size),
    faces,
    corners: [],
    edgePoints: Float32Array.from(Array.from({ length: 600 }, (_, i) => i / 10)),
    edges: Array.from({ length: 100 }, (_, i) => ({ name: `${id}/e${i}`, start: 2 * i, count: 2 })),
  };
}

const shift = (x: number, y: number): number[] => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, 0, 1];

export function benchScene(): Row[] {
  const screw = ball(3, 'screw');
  const still = Array.from({ length: 99 }, (_, i): ShownBody => {
    const place = shift((i % 10) * 30, Math.floor(i / 10) * 30);
    return i < 40
      ? { key: 'screw', body: `b${i}`, mesh: screw, look: 'solid', place }
      : { key: `k${i}`, body: `b${i}`, mesh: ball(4 + i / 20, `k${i}`), look: 'solid', place };
  });
  const versions = Array.from({ length: TIMES }, (_, i): ShownBody[] => [
    ...still,
    { key: `v${i}`, body: 'edited', mesh: ball(6 + i / 100, 'edited'), look: 'solid', place: shift(270, 270) },
  ]);
  const lit = Array.from({ length: TIMES }, (_, i) => ({ selected: new Set([`k${40 + (i % 59)}/f${i % 48}`]), hints: new Set<string>() }));
  const kept = new BodyScene(COLOURS);
  kept.show(versions[0] ?? []);
  const before = { made: kept.made, bytes: kept.cost.bytes };
  for (const bodies of versions) kept.show(bodies);
  const [made, bytes] = [kept.made - before.made, kept.cost.bytes - before.bytes];
  for (const each of lit) kept.highlight(each);
  const litMade = kept.made - before.made - made;
  const anew = (bodies: readonly ShownBody[], light = lit[0]): BodyScene => {
    const scene = new BodyScene(COLOURS);
    if (light) scene.highlight(light);
    scene.show(bodies);
    return scene;
  };
  const fresh = anew(still);
  const times = measure([
    { name: 'edit', count: TIMES, run: () => versions.forEach((bodies) => kept.show(bodies)) },
    { name: 'edit anew', count: 20, run: () => versions.slice(0, 20).forEach((bodies) => anew(bodies)) },
    { name: 'light', count: TIMES, run: () => lit.forEach((each) => kept.highlight(each)) },
    { name: 'light anew', count: 20, run: () => lit.slice(0, 20).forEach((each) => anew(still, each)) },
  ]);
  kept.group.updateMatrixWorld(true);
  const caster = new Raycaster();
  const aim = (i: number): void => caster.set(new Vector3((i % 10) * 30 + 1, ((i >> 3) % 10) * 30 + 1, 400), new Vector3(0, 0, -1));
  const plain = still.map(({ mesh, place = [] }) => {
    const object = new Mesh();
    object.geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
    object.geometry.setIndex(new BufferAttribute(mesh.indices, 1));
    object.applyMatrix4(new Matrix4().fromArray(place));
    object.updateMatrixWorld();
    return object;
  });
  const picks = measure([
    {
      name: 'pick',
      count: TIMES,
      run: () => {
        for (let i = 0; i < TIMES; i++) {
          aim(i);
          pickFace(caster, kept.group, () => true);
        }
      },
    },
    {
      name: 'every triangle',
      count: TIMES,
      run: () => {
        for (let i = 0; i < TIMES; i++) {
          aim(i);
          caster.intersectObjects(plain);
        }
      },
    },
  ]);
  const ratio = (times_: ReadonlyMap<string, number>, ours: string, theirs: string): number => (times_.get(theirs) ?? NaN) / (times_.get(ours) ?? NaN);
  const words = (times_: ReadonlyMap<string, number>, name: string): string => microseconds(times_.get(name) ?? NaN);
  return [
    {
      what: 'picture of 100 bodies: one is edited',
      ours: words(times, 'edit'),
      baseline: `all made anew ${words(times, 'edit anew')}`,
      ratio: ratio(times, 'edit', 'edit anew'),
      reach: '5 x',
    },
    {
      what: 'the pointer passes over a face',
      ours: words(times, 'light'),
      baseline: `all made anew ${words(times, 'light anew')}`,
      ratio: ratio(times, 'light', 'light anew'),
      reach: '5 x',
    },
    {
      what: 'a face is picked',
      ours: words(picks, 'pick'),
      baseline: `every triangle ${words(picks, 'every triangle')}`,
      ratio: ratio(picks, 'pick', 'every triangle'),
      reach: '5 x',
    },
    {
      what: `objects made in ${TIMES} edits and ${TIMES} lights`,
      ours: `${made} and ${litMade}`,
      baseline: `${TIMES * fresh.made} each`,
      ratio: NaN,
      reach: '2 an edit',
    },
    {
      what: `bytes of buffers in ${TIMES} edits`,
      ours: `${(bytes / 1e6).toFixed(1)} MB`,
      baseline: `${((TIMES * fresh.cost.bytes) / 1e6).toFixed(0)} MB`,
      ratio: (TIMES * fresh.cost.bytes) / bytes,
      reach: '50 x',
    },
    {
      what: 'draws of 100 bodies, 40 of them one screw',
      ours: `${kept.cost.draws}`,
      baseline: `a surface and its edges each ${2 * (still.length + 1)}`,
      ratio: NaN,
      reach: '',
    },
  ];
}
