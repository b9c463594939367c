/** Profiles turned about an axis of their plane. */
import type { TopoDS_Edge, TopoDS_Shape } from 'replicad-opencascadejs';
import { toSpace, type Profile } from '@/core/geometry';
import type { RevolveRequest } from '@/core/kernel-port';
import { KernelRefusal } from './failures';
import { gather, nameFaces, takeList, type NamedBody } from './named-body';
import { withScope } from './scope';
import { edgesOf, facesOf, ShapeMap, verticesOf, type Oc } from './shapes';
import { capName, makeFace } from './wire';

const LEAST_ANGLE = 1e-6;
const FULL = 2 * Math.PI;

export function revolve(oc: Oc, request: RevolveRequest): NamedBody {
  const { angle, profiles } = request;
  if (!Number.isFinite(angle)) throw new KernelRefusal('revolve', 'The angle is not a number.');
  if (Math.abs(angle) < LEAST_ANGLE) throw new KernelRefusal('revolve', 'The angle is zero.');
  if (profiles.length === 0) throw new KernelRefusal('revolve', 'There is no closed profile.');
  return gather(
    oc,
    profiles.map((profile) => revolveProfile(oc, request, profile)),
  );
}

function revolveProfile(oc: Oc, request: RevolveRequest, profile: Profile): NamedBody {
  const { frame, axis, angle, step } = request;
  return withScope((scope) => {
    const { face, wires } = makeFace(oc, scope, profile, frame);
    const origin = toSpace(frame, ...axis.origin);
    const tip = toSpace(frame, axis.origin[0] + axis.direction[0], axis.origin[1] + axis.direction[1]);
    const direction = scope.own(new oc.gp_Dir(tip[0] - origin[0], tip[1] - origin[1], tip[2] - origin[2]));
    const line = scope.own(new oc.gp_Ax1(scope.own(new oc.gp_Pnt(...origin)), direction));
    const isFull = Math.abs(angle) >= FULL - LEAST_ANGLE;
    const maker = scope.own(new oc.BRepPrimAPI_MakeRevol(face, line, isFull ? FULL : angle, false));
    if (!maker.IsDone()) throw new KernelRefusal('revolve', 'The outline crosses the axis that it turns about.');
    const shape = maker.Shape();
    const names = new ShapeMap<string>(oc);
    const plane: { readonly edge: TopoDS_Edge; readonly curve: string }[] = [];
    for (const { edge, curve } of wires.flatMap(({ edges }) => edges)) {
      const made = takeList(oc, maker.Generated(edge));
      if (made.length === 0) plane.push({ edge, curve });
      for (const side of made) names.set(side, `${step}/side(${curve})`);
    }
    // A plane face of a full turn is told by the circles that the ends of its edge draw; an end on the axis draws none.
    for (const { edge, curve } of plane) {
      const face = facesBetween(oc, shape, circlesOf(oc, maker, edge)).find((found) => !names.has(found));
      if (face) names.set(face, `${step}/side(${curve})`);
    }
    if (!isFull) {
      const isOnly = request.profiles.length === 1;
      names.set(scope.own(maker.FirstShape()), capName('start', step, profile, isOnly));
      names.set(scope.own(maker.LastShape()), capName('end', step, profile, isOnly));
    }
    return { shape, faces: nameFaces(oc, shape, (side) => names.get(side) ?? `${step}/side`) };
  });
}

function circlesOf(oc: Oc, maker: InstanceType<Oc['BRepPrimAPI_MakeRevol']>, edge: TopoDS_Edge): TopoDS_Shape[] {
  return verticesOf(oc, edge).flatMap((vertex) => takeList(oc, maker.Generated(vertex)));
}

/** Faces that have all those of the given edges that the shape has; none for no edges. */
function facesBetween(oc: Oc, shape: TopoDS_Shape, edges: readonly TopoDS_Shape[]): TopoDS_Shape[] {
  const all = new ShapeMap<true>(oc);
  for (const edge of edgesOf(oc, shape)) if (!oc.BRep_Tool.Degenerated(edge)) all.set(edge, true);
  const real = edges.filter((edge) => !edge.IsNull() && all.has(edge));
  if (real.length === 0) return [];
  return facesOf(oc, shape).filter((face) => {
    const around = new ShapeMap<true>(oc);
    for (const edge of edgesOf(oc, face)) around.set(edge, true);
    return real.every((edge) => around.has(edge));
  });
}
