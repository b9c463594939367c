/** Triangles and edge polylines of a body, with the names of faces, edges and corners. */
import type { BodyMesh } from '@/core/kernel-port';
import type { NamedBody } from './named-body';
import { withScope } from './scope';
import { hashOf, type Oc } from './shapes';
import { nameCorners, nameEdges } from './lookup';

/** Largest distance of a chord from its arc, in millimetres, and largest turn along it, in radians. */
const CHORD_TOLERANCE = 0.1;
const ANGLE_TOLERANCE = 0.3;

const UNNAMED = 'unnamed';

export function mesh(oc: Oc, body: NamedBody): BodyMesh {
  return withScope((scope) => {
    const raw = scope.own(oc.ReplicadMeshExtractor.extract(body.shape, CHORD_TOLERANCE, ANGLE_TOLERANCE, false));
    const { buffer } = oc.wasmMemory;
    const positions = new Float32Array(buffer, raw.getVerticesPtr() >>> 0, raw.getVerticesSize()).slice();
    const normals = new Float32Array(buffer, raw.getNormalsPtr() >>> 0, raw.getNormalsSize()).slice();
    const indices = new Uint32Array(buffer, raw.getTrianglesPtr() >>> 0, raw.getTrianglesSize()).slice();
    const groups = new Int32Array(buffer, raw.getFaceGroupsPtr() >>> 0, raw.getFaceGroupsSize()).slice();
    const faceNames = new Map(body.faces.map(({ face, name }) => [hashOf(oc, face), name]));
    const edges = meshEdges(oc, body);
    const corners = nameCorners(oc, body).map(({ name, at }) => ({ name, at }));
    return { positions, normals, indices, faces: readGroups(groups, faceNames), ...edges, corners };
  });
}

function meshEdges(oc: Oc, body: NamedBody): Pick<BodyMesh, 'edgePoints' | 'edges'> {
  return withScope((scope) => {
    const raw = scope.own(oc.ReplicadEdgeMeshExtractor.extract(body.shape, CHORD_TOLERANCE, ANGLE_TOLERANCE));
    const { buffer } = oc.wasmMemory;
    const edgePoints = new Float32Array(buffer, raw.getLinesPtr() >>> 0, raw.getLinesSize()).slice();
    const groups = new Int32Array(buffer, raw.getEdgeGroupsPtr() >>> 0, raw.getEdgeGroupsSize()).slice();
    // A seam, where a round face meets itself, is no edge that anybody sees.
    const seen = nameEdges(oc, body).filter(({ faces }) => faces.length > 1);
    const names = new Map(seen.map(({ edge, name }) => [hashOf(oc, edge), name]));
    return keepNamed(edgePoints, readGroups(groups, names));
  });
}

/** The named edges with their points alone: what is left of the others would be drawn as well. */
function keepNamed(points: Float32Array, ranges: BodyMesh['edges']): Pick<BodyMesh, 'edgePoints' | 'edges'> {
  const named = ranges.filter(({ name }) => name !== UNNAMED);
  const edgePoints = new Float32Array(3 * named.reduce((sum, { count }) => sum + count, 0));
  let at = 0;
  const edges = named.map(({ name, start, count }) => {
    edgePoints.set(points.subarray(3 * start, 3 * (start + count)), 3 * at);
    const moved = { name, start: at, count };
    at += count;
    return moved;
  });
  return { edgePoints, edges };
}

/** Triples of start, count and shape hash. */
function readGroups(groups: Int32Array, names: ReadonlyMap<number, string>) {
  const ranges: { name: string; start: number; count: number }[] = [];
  for (let i = 0; i + 2 < groups.length; i += 3) {
    ranges.push({ name: names.get(groups[i + 2] ?? 0) ?? UNNAMED, start: groups[i] ?? 0, count: groups[i + 1] ?? 0 });
  }
  return ranges;
}
