/** Surfaces and edges of bodies as buffers, by the key of the shape: equal bodies share them, and they go with the last that uses them. */
import { BufferAttribute, BufferGeometry } from 'three';
import type { BodyMesh } from '@/core/kernel-port';

export interface Shape {
  readonly mesh: BodyMesh;
  /** Of its faces, edges and corners. */
  readonly names: ReadonlySet<string>;
  readonly surface: BufferGeometry;
  /** Polylines as pairs of points, which is what line segments are drawn from. */
  readonly edges: BufferGeometry;
}

export class Shapes {
  private readonly held = new Map<string, { readonly shape: Shape; users: number }>();
  /** Bytes of all buffers that were made since the beginning. */
  bytes = 0;

  take(key: string, mesh: BodyMesh): Shape {
    const known = this.held.get(key);
    if (known) {
      known.users++;
      return known.shape;
    }
    const shape = makeShape(mesh);
    this.bytes += [mesh.positions, mesh.normals, mesh.indices, mesh.edgePoints].reduce((sum, { byteLength }) => sum + byteLength, 0);
    this.held.set(key, { shape, users: 1 });
    return shape;
  }

  release(key: string): void {
    const held = this.held.get(key);
    if (!held) return;
    held.users--;
    if (held.users > 0) return;
    held.shape.surface.dispose();
    held.shape.edges.dispose();
    this.held.delete(key);
  }

  get count(): number {
    return this.held.size;
  }
}

function makeShape(mesh: BodyMesh): Shape {
  const surface = new BufferGeometry();
  surface.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  surface.setAttribute('normal', new BufferAttribute(mesh.normals, 3));
  surface.setIndex(new BufferAttribute(mesh.indices, 1));
  const edges = new BufferGeometry();
  edges.setAttribute('position', new BufferAttribute(mesh.edgePoints, 3));
  const names = new Set([...mesh.faces, ...mesh.edges, ...mesh.corners].map(({ name }) => name));
  return { mesh, names, surface, edges };
}

/** The faces of some names as a surface of its own, over the same points; undefined where it has none of them. */
export function facesOf({ mesh, surface }: Shape, names: ReadonlySet<string>): BufferGeometry | undefined {
  const faces = mesh.faces.filter(({ name }) => names.has(name));
  if (faces.length === 0) return undefined;
  const indices = new Uint32Array(faces.reduce((sum, { count }) => sum + count, 0));
  let at = 0;
  for (const { start, count } of faces) {
    indices.set(mesh.indices.subarray(start, start + count), at);
    at += count;
  }
  const geometry = new BufferGeometry();
  for (const name of ['position', 'normal']) geometry.setAttribute(name, surface.getAttribute(name));
  geometry.setIndex(new BufferAttribute(indices, 1));
  return geometry;
}
