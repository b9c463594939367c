/** Steps that work on edges and faces of a body: fillets, chamfers, shells, tapered faces. */
import type { Frame } from '@/core/geometry';
import type { TopoDS_Face } from 'replicad-opencascadejs';
import { facesIn, wholeName, type BodyProperties, type ChamferSize } from '@/core/kernel-port';
import { KernelRefusal } from './failures';
import { faceShape } from './inspect';
import { requireEdges, requireFaces } from './lookup';
import { measure } from './measure';
import { carryNames, takeList, type NamedBody } from './named-body';
import { withScope } from './scope';
import { ShapeMap, type Oc } from './shapes';

function checkSize(operation: string, what: string, value: number): void {
  if (!Number.isFinite(value)) throw new KernelRefusal(operation, `The ${what} is not a number.`);
  if (value < 1e-6) throw new KernelRefusal(operation, `The ${what} must be above zero.`);
}

export function fillet(oc: Oc, body: NamedBody, names: readonly string[], radius: number, step: string): NamedBody {
  checkSize('fillet', 'radius', radius);
  const edges = requireEdges(oc, body, names, 'fillet');
  return withScope((scope) => {
    const maker = scope.own(new oc.BRepFilletAPI_MakeFillet(body.shape, 'ChFi3d_Rational'));
    for (const { edge } of edges) maker.Add(radius, edge);
    maker.Build(scope.own(new oc.Message_ProgressRange()));
    if (!maker.IsDone()) throw new KernelRefusal('fillet', 'The radius does not fit.');
    const born = new ShapeMap<string>(oc);
    for (const { edge, name } of edges) for (const face of takeList(oc, maker.Generated(edge))) born.set(face, `${step}/round(${shortName(name)})`);
    const shape = maker.Shape();
    return { shape, faces: carryNames(oc, maker, shape, [body], (face) => born.get(face) ?? `${step}/round`) };
  });
}

export function chamfer(oc: Oc, body: NamedBody, names: readonly string[], size: ChamferSize, step: string): NamedBody {
  const { distance, second, angle } = size;
  checkSize('chamfer', 'distance', distance);
  if (second !== undefined) checkSize('chamfer', 'second distance', second);
  if (angle !== undefined && !(angle > 0.001 && angle < Math.PI / 2 - 0.001))
    throw new KernelRefusal('chamfer', 'The angle must lie between 0 and 90 degrees.');
  const edges = requireEdges(oc, body, names, 'chamfer');
  return withScope((scope) => {
    const maker = scope.own(new oc.BRepFilletAPI_MakeChamfer(body.shape));
    for (const { edge, faces } of edges) {
      const [first] = faces;
      if (second === undefined && angle === undefined) maker.Add(distance, edge);
      else if (!first || faces.length < 2) throw new KernelRefusal('chamfer', 'An edge has but one face beside it.');
      else if (second !== undefined) maker.Add(distance, second, edge, first);
      else if (angle !== undefined) maker.AddDA(distance, angle, edge, first);
    }
    maker.Build(scope.own(new oc.Message_ProgressRange()));
    if (!maker.IsDone()) throw new KernelRefusal('chamfer', 'The distance does not fit.');
    const born = new ShapeMap<string>(oc);
    for (const { edge, name } of edges) for (const face of takeList(oc, maker.Generated(edge))) born.set(face, `${step}/cut(${shortName(name)})`);
    const shape = maker.Shape();
    return { shape, faces: carryNames(oc, maker, shape, [body], (face) => born.get(face) ?? `${step}/cut`) };
  });
}

export function shell(oc: Oc, body: NamedBody, open: readonly string[], wall: number, step: string): NamedBody {
  checkSize('shell', 'wall', wall);
  const faces = requireFaces(oc, body, open, 'shell');
  const before = measure(oc, body.shape);
  if (fillsAcross(oc, before, faces, wall)) throw new KernelRefusal('shell', 'The wall leaves no room inside.');
  // Offset faces are met with their neighbours alone at first. Where that fails, with all: slower, but sure where a boss stands out of a side.
  const hollowed = hollow(oc, body, faces, wall, step, before.volume, false) ?? hollow(oc, body, faces, wall, step, before.volume, true);
  if (!hollowed) throw new KernelRefusal('shell', 'The wall does not fit.');
  return hollowed;
}

/** Undefined where the kernel finds no sound way. */
function hollow(oc: Oc, body: NamedBody, faces: readonly TopoDS_Face[], wall: number, step: string, whole: number, meetsAll: boolean): NamedBody | undefined {
  return withScope((scope) => {
    const list = scope.own(new oc.NCollection_List_TopoDS_Shape());
    for (const face of faces) list.Append(face);
    const maker = scope.own(new oc.BRepOffsetAPI_MakeThickSolid());
    const progress = scope.own(new oc.Message_ProgressRange());
    maker.MakeThickSolidByJoin(body.shape, list, -wall, 1e-3, 'BRepOffset_Skin', meetsAll, false, 'GeomAbs_Intersection', false, progress);
    if (!maker.IsDone()) return undefined;
    const shape = maker.Shape();
    const { volume, isValid } = measure(oc, shape);
    // Turned inside out where the wall does not fit: the kernel does not say so.
    if (!isValid || !(volume > 0) || volume >= whole) return undefined;
    const born = new ShapeMap<string>(oc);
    for (const { face, name } of body.faces) {
      for (const inner of takeList(oc, maker.Generated(face))) born.set(inner, `${step}/inner(${shortName(name)})`);
    }
    return { shape, faces: carryNames(oc, maker, shape, [body], (face) => born.get(face) ?? `${step}/rim`) };
  });
}

/** Whether walls from both sides meet along one of the axes; a side that is left open has none. */
function fillsAcross(oc: Oc, { box }: BodyProperties, open: readonly TopoDS_Face[], wall: number): boolean {
  const normals = open.flatMap((face) => {
    const shape = faceShape(oc, face);
    return shape.kind === 'plane' ? [shape.frame.normal] : [];
  });
  return ([0, 1, 2] as const).some((axis) => {
    const openSides = normals.filter((normal) => Math.abs(normal[axis]) > 1 - 1e-9).length;
    return wall * Math.max(2 - openSides, 0) >= box.max[axis] - box.min[axis] - 1e-6;
  });
}

/** A positive angle leans the faces inwards along the normal of the plane. */
export function draft(oc: Oc, body: NamedBody, names: readonly string[], plane: Frame, angle: number, step: string): NamedBody {
  if (!Number.isFinite(angle) || Math.abs(angle) < 1e-6) throw new KernelRefusal('taper', 'The angle is zero.');
  const faces = requireFaces(oc, body, names, 'taper');
  return withScope((scope) => {
    const maker = scope.own(new oc.BRepOffsetAPI_DraftAngle(body.shape));
    const pull = scope.own(new oc.gp_Dir(...plane.normal));
    const neutral = scope.own(new oc.gp_Pln(scope.own(new oc.gp_Pnt(...plane.origin)), pull));
    for (const face of faces) {
      maker.Add(face, pull, angle, neutral, true);
      if (!maker.AddDone()) throw new KernelRefusal('taper', 'A face cannot be turned about that plane.');
    }
    maker.Build(scope.own(new oc.Message_ProgressRange()));
    if (!maker.IsDone()) throw new KernelRefusal('taper', 'The faces cannot lean that far.');
    const shape = maker.Shape();
    const names = new ShapeMap<string>(oc);
    for (const { face, name } of body.faces) names.set(maker.ModifiedShape(face), name);
    return { shape, faces: carryNames(oc, maker, shape, [], (face) => names.get(face) ?? `${step}/side`) };
  });
}

/** Names of new faces would nest without end: they carry a short mark of the name that they came from. */
function shortName(name: string): string {
  let hash = 0x811c9dc5;
  // Of a face that several became, the last: the others are told by it as well.
  for (const char of wholeName(name)
    .split(' | ')
    .map((face) => facesIn(face).at(-1))
    .join(' | '))
    hash = Math.imul(hash ^ (char.codePointAt(0) ?? 0), 0x01000193) >>> 0;
  return hash.toString(36);
}
