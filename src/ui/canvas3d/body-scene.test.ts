import { BufferAttribute, Color, Matrix4, Mesh, MeshBasicMaterial, Plane, Raycaster, Vector3, type Material, type Object3D } from 'three';
import type { BodyMesh } from '@/core/kernel-port';
import { makeRandom } from '../../../tests/support/random';
import type { Colours } from './body-figure';
import { BodyScene } from './body-scene';
import { pickFace, pickThrough } from './picking';
import type { ShownBody } from '../state/shown-body';

const colour = (i: number): Color => new Color(0.1 * i, 0.5, 0.3);
const COLOURS: Colours = {
  wood: colour(1),
  stale: colour(2),
  edge: colour(3),
  ground: colour(3),
  selected: colour(4),
  hint: colour(5),
  before: colour(6),
  after: colour(7),
};

/** A cube of a size with its corner in the origin: faces `x0`, `x1`, `y0` ..., two triangles each, edges along x. */
function cube(size: number): BodyMesh {
  const positions: number[] = [];
  const normals: number[] = [];
  const indices: number[] = [];
  const faces: { name: string; start: number; count: number }[] = [];
  for (const axis of [0, 1, 2]) {
    for (const end of [0, 1]) {
      const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
      const first = positions.length / 3;
      for (const [a, b] of [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ] as const) {
        const point = [0, 0, 0];
        point[axis] = end * size;
        point[u] = a * size;
        point[v] = b * size;
        positions.push(...point);
        const normal = [0, 0, 0];
        normal[axis] = end === 1 ? 1 : -1;
        normals.push(...normal);
      }
      faces.push({ name: `${'xyz'[axis] ?? ''}${end}`, start: indices.length, count: 6 });
      indices.push(...(end === 1 ? [0, 1, 2, 0, 2, 3] : [0, 2, 1, 0, 3, 2]).map((i) => first + i));
    }
  }
  const corners = [
    [0, 0],
    [size, 0],
    [0, size],
    [size, size],
  ] as const;
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    indices: Uint32Array.from(indices),
    faces,
    corners: [],
    edgePoints: Float32Array.from(corners.flatMap(([y, z]) => [0, y, z, size, y, z])),
    edges: corners.map((_, i) => ({ name: `e${i}`, start: 2 * i, count: 2 })),
  };
}

const shift = (x: number, y = 0, z = 0): number[] => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1];
const body = (id: string, size: number, rest: Partial<ShownBody> = {}): ShownBody => ({
  key: `cube ${size}`,
  body: id,
  mesh: cube(size),
  look: 'solid',
  ...rest,
});

/** Everything that decides what is drawn. */
function drawnIn(scene: BodyScene): string[] {
  return scene.group.children
    .map((child: Object3D) => {
      const { geometry, material } = child as Mesh;
      const { color, opacity, clippingPlanes, polygonOffsetFactor } = material as Material & { color?: Color };
      const planes = (clippingPlanes ?? []).map((plane) => [...plane.normal.toArray(), plane.constant].map((v) => v.toFixed(6)).join());
      const places = 'instanceMatrix' in child ? Array.from((child.instanceMatrix as { array: Float32Array }).array) : child.matrix.elements;
      child.updateMatrix();
      return JSON.stringify([
        child.type,
        child.visible,
        child.layers.mask,
        color?.getHex(),
        opacity,
        polygonOffsetFactor,
        planes,
        geometry.index?.count,
        [...places].map((v) => v.toFixed(6)),
      ]);
    })
    .sort();
}

test('what is the same stays: another body, another light and a moved cut make nothing else anew', () => {
  const scene = new BodyScene(COLOURS);
  const many = Array.from({ length: 20 }, (_, i) => body(`b${i}`, i + 1));
  scene.show(many);
  const [first] = scene.group.children;
  const before = scene.made;
  scene.show([...many.slice(0, 19), body('b19', 50)]);
  // A surface and its edges.
  expect(scene.made - before).toBe(2);
  expect(scene.group.children).toContain(first);
  scene.highlight({ selected: new Set(['x1', 'e2']), hints: new Set() });
  const lit = scene.made;
  scene.highlight({ selected: new Set(['x1', 'e2']), hints: new Set() });
  expect(scene.made).toBe(lit);
  scene.cut(new Plane(new Vector3(0, 0, -1), 2));
  const cut = scene.made;
  for (let height = 3; height < 10; height++) scene.cut(new Plane(new Vector3(0, 0, -1), height));
  expect(scene.made).toBe(cut);
  expect(scene.group.children).toContain(first);
});

test('any path of states comes to what the last state makes by itself', () => {
  const random = makeRandom(11);
  const choose = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const looks = ['solid', 'stale', 'around', 'before', 'after', 'added', 'removed', 'target'] as const;
  for (let trial = 0; trial < 60; trial++) {
    const scene = new BodyScene(COLOURS);
    let bodies: ShownBody[] = [];
    let lit = { selected: new Set<string>(), hints: new Set<string>() };
    let plane: Plane | undefined;
    for (let step = 0; step < 12; step++) {
      const what = random();
      if (what < 0.5) {
        bodies = Array.from({ length: Math.floor(random() * 6) }, (_, i) =>
          body(`b${i}`, choose([1, 2, 3]), {
            look: choose(looks),
            ...(random() < 0.3 ? { colour: choose(['#808080', '#c0a080']) } : {}),
            ...(random() < 0.3 ? { place: shift(Math.floor(random() * 3)) } : {}),
            ...(random() < 0.3 ? { side: choose(['left', 'right'] as const) } : {}),
          }),
        );
        scene.show(bodies);
      } else if (what < 0.8) {
        const names = (): Set<string> => new Set(['x0', 'y1', 'z1', 'e0', 'e3', 'other'].filter(() => random() < 0.3));
        lit = { selected: names(), hints: names() };
        scene.highlight(lit);
      } else {
        plane = random() < 0.3 ? undefined : new Plane(new Vector3(0, 0, -1), Math.floor(random() * 4));
        scene.cut(plane);
      }
    }
    const fresh = new BodyScene(COLOURS);
    fresh.cut(plane?.clone());
    fresh.highlight(lit);
    fresh.show(bodies);
    expect(drawnIn(scene)).toEqual(drawnIn(fresh));
    scene.show([]);
    expect([scene.group.children.length, scene.cost.shapes]).toEqual([0, 0]);
  }
});

test('equal bodies share their buffers, are drawn at once, and are picked one by one', () => {
  const scene = new BodyScene(COLOURS);
  const row = Array.from({ length: 100 }, (_, i) => body(`pin${i}`, 5, { place: shift(10 * i) }));
  scene.show(row);
  const { bytes, shapes } = scene.cost;
  expect(shapes).toBe(1);
  expect(scene.group.children.filter((child) => child.type === 'Mesh')).toHaveLength(1);
  scene.show(row.slice(0, 60));
  expect(scene.cost).toMatchObject({ bytes, shapes: 1 });
  const caster = new Raycaster(new Vector3(432, 2, 100), new Vector3(0, 0, -1));
  expect(pickFace(caster, scene.group, () => true)?.picked).toEqual({ body: 'pin43', name: 'z1' });
  scene.highlight({ selected: new Set(['z1']), hints: new Set() });
  expect(scene.cost.bytes).toBe(bytes);
});

test('the tree finds what a look at every triangle finds', () => {
  const random = makeRandom(5);
  const scene = new BodyScene(COLOURS);
  const sizes = [4, 7, 9];
  scene.show(sizes.map((size, i) => body(`b${i}`, size, { place: shift(12 * i, i, -i) })));
  const plain = sizes.map((size, i) => {
    const mesh = cube(size);
    const object = new Mesh(undefined, new MeshBasicMaterial());
    object.geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
    object.geometry.setIndex(new BufferAttribute(mesh.indices, 1));
    object.applyMatrix4(new Matrix4().fromArray(shift(12 * i, i, -i)));
    object.updateMatrixWorld();
    return { object, faces: mesh.faces };
  });
  scene.group.updateMatrixWorld(true);
  let hits = 0;
  for (let i = 0; i < 400; i++) {
    const from = new Vector3(40 * random() - 4, 40 * random() - 15, 30);
    const to = new Vector3(36 * random() - 2, 12 * random() - 2, 0);
    const caster = new Raycaster(from, to.sub(from).normalize());
    const [nearest] = plain
      .flatMap(({ object, faces }, at) =>
        caster.intersectObject(object).map(({ distance, faceIndex }) => ({ distance, at, name: faces[Math.floor((faceIndex ?? 0) / 2)]?.name })),
      )
      .sort((a, b) => a.distance - b.distance);
    const found = pickFace(caster, scene.group, () => true);
    if (nearest) hits++;
    expect(found?.picked).toEqual(nearest ? { body: `b${nearest.at}`, name: nearest.name } : undefined);
  }
  expect(hits).toBeGreaterThan(50);
});

test('what lies behind a place is listed from the eye on, faces that look away too, each once', () => {
  const scene = new BodyScene(COLOURS);
  scene.show([
    { key: 'near', body: 'near', mesh: cube(10), look: 'solid', place: new Matrix4().makeTranslation(-5, -5, 20).toArray() },
    { key: 'far', body: 'far', mesh: cube(10), look: 'solid', place: new Matrix4().makeTranslation(-5, -5, 0).toArray() },
  ]);
  scene.group.updateMatrixWorld();
  const down = (): Raycaster => new Raycaster(new Vector3(0.2, 0.3, 500), new Vector3(0, 0, -1));
  const names = (isShown: (point: Vector3) => boolean): string[] => pickThrough(down(), scene.group, isShown).map(({ body, name }) => `${body ?? ''} ${name}`);
  expect(names(() => true)).toEqual(['near z1', 'near z0', 'far z1', 'far z0']);
  // What is cut away is not listed.
  expect(names(({ z }) => z < 25)).toEqual(['near z0', 'far z1', 'far z0']);
});

test('edges and hidden edges are drawn as is wished, whatever is shown later, and what is picked stays the same', () => {
  const scene = new BodyScene(COLOURS);
  const one: ShownBody = { key: 'a', body: 'a', mesh: cube(10), look: 'solid' };
  const draws = (): number => scene.cost.draws;
  scene.show([one]);
  const plain = draws();
  scene.drawEdges({ showsEdges: true, showsHidden: true });
  expect(draws()).toBe(plain + 1);
  scene.drawEdges({ showsEdges: false, showsHidden: false });
  expect(draws()).toBe(plain - 1);
  scene.show([one, { ...one, key: 'b', body: 'b', place: new Matrix4().makeTranslation(30, 0, 0).toArray() }]);
  expect(draws()).toBe(2 * (plain - 1));
  scene.group.updateMatrixWorld();
  const down = new Raycaster(new Vector3(5, 5, 500), new Vector3(0, 0, -1));
  expect(pickFace(down, scene.group, () => true)?.picked).toEqual({ body: 'a', name: 'z1' });
  scene.drawEdges({ showsEdges: true, showsHidden: false });
  expect(draws()).toBe(2 * plain);
});

test('the box of one body is that of its own place, also where another is the same', () => {
  const scene = new BodyScene(COLOURS);
  const at = (x: number): number[] => new Matrix4().makeTranslation(x, 0, 0).toArray();
  scene.show([0, 100].map((x) => ({ key: 'a', body: `b${x}`, mesh: cube(10), look: 'solid', place: at(x) })));
  scene.group.updateMatrixWorld();
  expect(scene.box('b100').min.x).toBe(100);
  expect(scene.box('b100').max.x).toBe(110);
  expect([scene.box().min.x, scene.box().max.x]).toEqual([0, 110]);
  expect(scene.box('none').isEmpty()).toBe(true);
});
