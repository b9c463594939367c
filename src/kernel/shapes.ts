/** Sub-shapes of kernel shapes: unique faces and edges, and maps keyed by shape. */
import type { OpenCascadeInstance, TopoDS_Edge, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs';

export type Oc = OpenCascadeInstance;

const HASH_LIMIT = 2147483647;

export function hashOf(oc: Oc, shape: TopoDS_Shape): number {
  return oc.ReplicadShapeHasher.HashCode(shape, HASH_LIMIT);
}

/** Keys are shapes as the kernel compares them: same geometry and place, whatever the orientation. */
export class ShapeMap<T> {
  private readonly buckets = new Map<number, [TopoDS_Shape, T][]>();

  constructor(private readonly oc: Oc) {}

  get(shape: TopoDS_Shape): T | undefined {
    return this.buckets.get(hashOf(this.oc, shape))?.find(([key]) => key.IsSame(shape))?.[1];
  }

  has(shape: TopoDS_Shape): boolean {
    return this.get(shape) !== undefined;
  }

  set(shape: TopoDS_Shape, value: T): void {
    const hash = hashOf(this.oc, shape);
    const bucket = this.buckets.get(hash) ?? [];
    const entry = bucket.find(([key]) => key.IsSame(shape));
    if (entry) entry[1] = value;
    else bucket.push([shape, value]);
    this.buckets.set(hash, bucket);
  }
}

/** Each face once, in the order in which the kernel walks them. The caller lets them go. */
export function facesOf(oc: Oc, shape: TopoDS_Shape): TopoDS_Face[] {
  return explore(oc, shape, 'TopAbs_FACE').map((found) => {
    const face = oc.TopoDS.Face(found);
    found.delete();
    return face;
  });
}

export function edgesOf(oc: Oc, shape: TopoDS_Shape): TopoDS_Edge[] {
  return explore(oc, shape, 'TopAbs_EDGE').map((found) => {
    const edge = oc.TopoDS.Edge(found);
    found.delete();
    return edge;
  });
}

/** The edges of a face, found once: they are asked for while it is named, and again while names are looked up. */
export function edgesOfFace(oc: Oc, face: TopoDS_Face): readonly TopoDS_Edge[] {
  const known = edgesOfFaces.get(face) ?? edgesOf(oc, face);
  edgesOfFaces.set(face, known);
  return known;
}

const edgesOfFaces = new WeakMap<TopoDS_Face, readonly TopoDS_Edge[]>();

export function verticesOf(oc: Oc, shape: TopoDS_Shape): TopoDS_Shape[] {
  return explore(oc, shape, 'TopAbs_VERTEX');
}

/** The solids of a shape, each once. The caller lets them go. */
export function solidsOf(oc: Oc, shape: TopoDS_Shape): TopoDS_Shape[] {
  return explore(oc, shape, 'TopAbs_SOLID');
}

export function countSolids(oc: Oc, shape: TopoDS_Shape): number {
  const solids = solidsOf(oc, shape);
  for (const solid of solids) solid.delete();
  return solids.length;
}

function explore(oc: Oc, shape: TopoDS_Shape, kind: 'TopAbs_FACE' | 'TopAbs_EDGE' | 'TopAbs_VERTEX' | 'TopAbs_SOLID'): TopoDS_Shape[] {
  const explorer = new oc.TopExp_Explorer(shape, kind, 'TopAbs_SHAPE');
  const seen = new ShapeMap<true>(oc);
  const found: TopoDS_Shape[] = [];
  for (; explorer.More(); explorer.Next()) {
    const current = explorer.Current();
    if (seen.has(current)) {
      current.delete();
      continue;
    }
    seen.set(current, true);
    found.push(current);
  }
  explorer.Clear();
  explorer.delete();
  return found;
}
