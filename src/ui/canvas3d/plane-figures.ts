/** Planes in the picture, where one is to be chosen: a faint square with its outline, seen through from both sides. */
import type { Color } from 'three';
import { BufferAttribute, BufferGeometry, DoubleSide, Group, LineBasicMaterial, LineLoop, Mesh, MeshBasicMaterial, type Raycaster } from 'three';
import { toSpace, type Frame, type Point3 } from '@/core/geometry';

export interface ShownPlane {
  readonly id: string;
  readonly frame: Frame;
  /** Half its side, in millimetres. */
  readonly half: number;
}

export function cornersOf({ frame, half }: ShownPlane): readonly Point3[] {
  return [
    [-half, -half],
    [half, -half],
    [half, half],
    [-half, half],
  ].map(([x = 0, y = 0]) => toSpace(frame, x, y));
}

export class PlaneFigures {
  readonly group = new Group();
  private lit: string | undefined;

  show(planes: readonly ShownPlane[], colour: Color): void {
    this.clear();
    for (const plane of planes) {
      const corners = new Float32Array(cornersOf(plane).flat());
      const square = new BufferGeometry();
      square.setAttribute('position', new BufferAttribute(corners, 3));
      square.setIndex([0, 1, 2, 0, 2, 3]);
      const outline = new BufferGeometry();
      outline.setAttribute('position', new BufferAttribute(corners, 3));
      const surface = new Mesh(square, new MeshBasicMaterial({ color: colour, transparent: true, opacity: FAINT, side: DoubleSide, depthWrite: false }));
      surface.userData = { plane: plane.id };
      const edge = new LineLoop(outline, new LineBasicMaterial({ color: colour, transparent: true, opacity: 0.6 }));
      edge.raycast = () => undefined;
      this.group.add(surface, edge);
    }
    this.light(this.lit);
  }

  /** Lights one of them. */
  light(id: string | undefined): void {
    this.lit = id;
    for (const surface of this.surfaces()) surface.material.opacity = surface.userData['plane'] === id ? LIT : FAINT;
  }

  pick(caster: Raycaster): { readonly id: string; readonly distance: number } | undefined {
    const [hit] = caster.intersectObjects(this.surfaces());
    return hit && { id: hit.object.userData['plane'] as string, distance: hit.distance };
  }

  clear(): void {
    for (const child of [...this.group.children]) {
      const { geometry, material } = child as Mesh<BufferGeometry, MeshBasicMaterial>;
      geometry.dispose();
      material.dispose();
      this.group.remove(child);
    }
  }

  private surfaces(): Mesh<BufferGeometry, MeshBasicMaterial>[] {
    return this.group.children.filter((child): child is Mesh<BufferGeometry, MeshBasicMaterial> => child instanceof Mesh);
  }
}

const FAINT = 0.1;
const LIT = 0.32;
