/**
 * Shapes with named faces, and carrying names through an operation by the kernel's history.
 *
 * A name that ends as several faces is told apart by position: the pieces are ordered by their centres
 * (x, then y, then z) and numbered `name#0`, `name#1` …, and told apart no further.
 */
import type { BRepBuilderAPI_MakeShape, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs';
import { dispose } from './scope';
import { facesOf, ShapeMap, type Oc } from './shapes';

export interface NamedFace {
  readonly face: TopoDS_Face;
  readonly name: string;
}

export interface NamedBody {
  readonly shape: TopoDS_Shape;
  readonly faces: readonly NamedFace[];
}

type History = Pick<BRepBuilderAPI_MakeShape, 'Modified' | 'IsDeleted'>;

/** The faces of `result` with the names that they have from the inputs of the operation, or that `nameNew` gives those born in it. */
export function carryNames(
  oc: Oc,
  operation: History,
  result: TopoDS_Shape,
  inputs: readonly NamedBody[],
  nameNew: (face: TopoDS_Face) => string = () => 'unnamed',
): NamedFace[] {
  const names = new ShapeMap<string>(oc);
  for (const { faces } of inputs) {
    for (const { face, name } of faces) {
      const base = name.replace(/#\d+$/, '');
      const modified = takeList(oc, operation.Modified(face));
      for (const piece of modified) names.set(piece, base);
      if (modified.length === 0 && !operation.IsDeleted(face)) names.set(face, base);
    }
  }
  return nameFaces(oc, result, (face) => names.get(face) ?? nameNew(face));
}

/** Gives each face of a shape its name, and numbers those that share one. */
export function nameFaces(oc: Oc, shape: TopoDS_Shape, nameOf: (face: TopoDS_Face, index: number) => string): NamedFace[] {
  const faces = facesOf(oc, shape).map((face, index) => ({ face, name: nameOf(face, index) }));
  const groups = new Map<string, typeof faces>();
  for (const entry of faces) groups.set(entry.name, [...(groups.get(entry.name) ?? []), entry]);
  for (const [name, group] of groups) {
    if (group.length < 2) continue;
    const placed = group.map((entry) => ({ entry, centre: centreOf(oc, entry.face) }));
    placed.sort((a, b) => compareCentres(a.centre, b.centre));
    placed.forEach(({ entry }, i) => (entry.name = `${name}#${i}`));
  }
  return faces;
}

/** Separate bodies in one compound; a single one as it is. */
export function gather(oc: Oc, bodies: readonly NamedBody[]): NamedBody {
  const [only] = bodies;
  if (only && bodies.length === 1) return only;
  const builder = new oc.TopoDS_Builder();
  const compound = new oc.TopoDS_Compound();
  builder.MakeCompound(compound);
  for (const { shape } of bodies) builder.Add(compound, shape);
  dispose(builder);
  return { shape: compound, faces: bodies.flatMap(({ faces }) => faces) };
}

/** A kernel list as an array; the list is let go. */
export function takeList(oc: Oc, list: InstanceType<Oc['NCollection_List_TopoDS_Shape']>): TopoDS_Shape[] {
  const copy = new oc.NCollection_List_TopoDS_Shape(list);
  const shapes: TopoDS_Shape[] = [];
  while (!copy.IsEmpty()) {
    shapes.push(copy.First());
    copy.RemoveFirst();
  }
  copy.delete();
  list.delete();
  return shapes;
}

function centreOf(oc: Oc, face: TopoDS_Face): readonly [number, number, number] {
  const properties = new oc.GProp_GProps();
  oc.BRepGProp.SurfaceProperties(face, properties, false, false);
  const centre = properties.CentreOfMass();
  const place = [centre.X(), centre.Y(), centre.Z()] as const;
  centre.delete();
  dispose(properties);
  return place;
}

/** Coordinates nearer than a tenth of a micrometre count as equal, so that noise decides nothing. */
function compareCentres(a: readonly number[], b: readonly number[]): number {
  for (let i = 0; i < 3; i++) {
    const difference = (a[i] ?? 0) - (b[i] ?? 0);
    if (Math.abs(difference) > 1e-4) return difference;
  }
  return 0;
}
