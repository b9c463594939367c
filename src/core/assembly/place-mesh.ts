/** The mesh of a body where it stands: for pictures and files that know no placements. */
import { rotate, toOutside, type Stance } from '../instances';
import type { BodyMesh } from '../kernel-port';

export function placeMesh(mesh: BodyMesh, at: Stance): BodyMesh {
  return {
    ...mesh,
    positions: placeEach(mesh.positions, (x, y, z) => toOutside(at, [x, y, z])),
    normals: placeEach(mesh.normals, (x, y, z) => rotate(at.turn, [x, y, z])),
    edgePoints: placeEach(mesh.edgePoints, (x, y, z) => toOutside(at, [x, y, z])),
    corners: mesh.corners.map((corner) => ({ ...corner, at: toOutside(at, corner.at) })),
  };
}

function placeEach(from: Float32Array, place: (x: number, y: number, z: number) => readonly number[]): Float32Array {
  const moved = new Float32Array(from.length);
  for (let i = 0; i + 2 < from.length; i += 3) moved.set(place(from[i] ?? 0, from[i + 1] ?? 0, from[i + 2] ?? 0), i);
  return moved;
}
