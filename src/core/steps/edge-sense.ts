/** Which way an edge of a mesh runs about the faces that meet in it. */
import { turnSense, type Point3 } from '../geometry';
import { facesIn, readEdge, type BodyMesh } from '../kernel-port';

/** Of a straight edge between plane faces, from its first point to its last: see `sense` of an `EdgeShape`. */
export function senseInMesh(mesh: BodyMesh, name: string): 1 | -1 | undefined {
  const edge = mesh.edges.find((one) => one.name === name);
  const [first, second] = (readEdge(name)?.faces ?? []).map(({ whole }) => normalOf(mesh, whole));
  if (!edge || !first || !second) return undefined;
  const at = (i: number): Point3 => pointAt(mesh.edgePoints, i);
  const [a, b] = [at(edge.start), at(edge.start + edge.count - 1)];
  return turnSense([b[0] - a[0], b[1] - a[1], b[2] - a[2]], first, second);
}

/** The one normal of a face; undefined where it is not plane. */
function normalOf(mesh: BodyMesh, whole: string): Point3 | undefined {
  const wanted = new Set(facesIn(whole));
  const face = mesh.faces.find(({ name }) => facesIn(name).some((each) => wanted.has(each)));
  if (!face) return undefined;
  const corners = Array.from(mesh.indices.subarray(face.start, face.start + face.count));
  const [first = [0, 0, 0], ...rest] = corners.map((i) => pointAt(mesh.normals, i));
  const isPlane = rest.every(([x, y, z]) => x * first[0] + y * first[1] + z * first[2] > 1 - 1e-6);
  return isPlane ? first : undefined;
}

function pointAt(values: Float32Array, i: number): Point3 {
  return [values[3 * i] ?? 0, values[3 * i + 1] ?? 0, values[3 * i + 2] ?? 0];
}
