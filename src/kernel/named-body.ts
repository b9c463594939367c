/**
 * Shapes with named faces, and carrying names through an operation by the kernel's history.
 *
 * Faces that came from one are told apart by their neighbours (see `face-names` of the port); where these say nothing, by place: ordered
 * by their centres (x, then y, then z).
 */
import type { BRepBuilderAPI_MakeShape, TopoDS_Edge, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs';
import { facesIn, mergeNames, stepOfFace, tellApart, wholeName, writePiece } from '@/core/kernel-port';
import { dispose } from './scope';
import { edgesOfFace, facesOf, ShapeMap, type Oc } from './shapes';

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
  const names = new ShapeMap<string[]>(oc);
  const take = (shape: TopoDS_Shape, whole: string): void => {
    const taken = names.get(shape);
    if (taken) taken.push(whole);
    else names.set(shape, [whole]);
  };
  for (const { faces } of inputs) {
    for (const { face, name } of faces) {
      const whole = wholeName(name);
      const modified = takeList(oc, operation.Modified(face));
      for (const piece of modified) take(piece, whole);
      if (modified.length === 0 && !operation.IsDeleted(face)) take(face, whole);
    }
  }
  return nameFaces(oc, result, (face) => {
    const taken = names.get(face);
    return taken ? mergeNames(taken) : nameNew(face);
  });
}

/** Gives each face of a shape its name, and tells those apart that share one. */
export function nameFaces(oc: Oc, shape: TopoDS_Shape, nameOf: (face: TopoDS_Face, index: number) => string): NamedFace[] {
  return tellFaces(
    oc,
    facesOf(oc, shape).map((face, index) => ({ face, name: wholeName(nameOf(face, index)) })),
  );
}

/** Tells faces apart that answer to a common name; names are whole ones. */
function tellFaces(oc: Oc, faces: { readonly face: TopoDS_Face; name: string }[]): NamedFace[] {
  const pieces = sisters(faces).filter((group) => group.length > 1);
  if (pieces.length === 0) return faces;
  const around = neighboursOf(oc, faces);
  for (const group of pieces) {
    const own = new Set(group.flatMap(({ name }) => facesIn(name).map(stepOfFace)));
    const told = tellApart(
      own,
      group.map(({ face }) => around(face)),
    );
    const isTold = told.some((names) => names.length > 0);
    const placed = isTold ? group : sortByPlace(oc, group, ({ face }) => face);
    placed.forEach((entry, i) => (entry.name = writePiece({ whole: entry.name, told: told[group.indexOf(entry)] ?? [], rank: isTold ? undefined : i })));
  }
  return faces;
}

/** Faces that answer to a common name, together. */
function sisters<T extends { readonly name: string }>(faces: readonly T[]): T[][] {
  const groupOf = new Map<string, T[]>();
  for (const entry of faces) {
    const known = facesIn(entry.name).flatMap((name) => {
      const group = groupOf.get(name);
      return group ? [group] : [];
    });
    // A face of several names brings their groups together.
    const [group = [], ...others] = new Set(known);
    const joining = [...others.flat(), entry];
    group.push(...joining);
    for (const member of joining) for (const name of facesIn(member.name)) groupOf.set(name, group);
  }
  return [...new Set(groupOf.values())];
}

/** The names that the faces around each answer to. */
export function neighboursOf(oc: Oc, faces: readonly NamedFace[]): (face: TopoDS_Face) => ReadonlySet<string> {
  const meeting = new ShapeMap<string[]>(oc);
  const edges = new ShapeMap<readonly TopoDS_Edge[]>(oc);
  for (const { face, name } of faces) {
    const own = edgesOfFace(oc, face);
    edges.set(face, own);
    for (const edge of own) {
      const names = meeting.get(edge) ?? [];
      names.push(...facesIn(name));
      meeting.set(edge, names);
    }
  }
  const namesOf = new ShapeMap<readonly string[]>(oc);
  for (const { face, name } of faces) namesOf.set(face, facesIn(name));
  return (face) => {
    const around = new Set((edges.get(face) ?? []).flatMap((edge) => meeting.get(edge) ?? []));
    for (const own of namesOf.get(face) ?? []) around.delete(own);
    return around;
  };
}

/** Ordered by centre of mass: x, then y, then z. */
export function sortByPlace<T>(oc: Oc, entries: readonly T[], faceOf: (entry: T) => TopoDS_Face): T[] {
  return entries
    .map((entry) => ({ entry, centre: centreOf(oc, faceOf(entry)) }))
    .sort((a, b) => compareCentres(a.centre, b.centre))
    .map(({ entry }) => entry);
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
  const all = bodies.flatMap(({ faces }) => faces.map(({ face, name }) => ({ face, name: wholeName(name) })));
  return { shape: compound, faces: tellFaces(oc, all) };
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
/** By x, then y, then z; what differs by less than a rounding is one. */
export function compareCentres(a: readonly number[], b: readonly number[]): number {
  for (let i = 0; i < 3; i++) {
    const difference = (a[i] ?? 0) - (b[i] ?? 0);
    if (Math.abs(difference) > 1e-4) return difference;
  }
  return 0;
}
