/** Profiles to prisms, upright or tapered. Faces are named after the sketch curves that they come from. */
import type { TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs';
import type { Profile } from '@/core/geometry';
import { wholeName, type ExtrudeRequest } from '@/core/kernel-port';
import { KernelRefusal } from './failures';
import { gather, nameFaces, takeList, type NamedBody } from './named-body';
import { withScope, type Scope } from './scope';
import { ShapeMap, type Oc } from './shapes';
import { capName, makeFace } from './wire';

/** Shorter than this the kernel never comes back from measuring the result, in millimetres. */
const LEAST_HEIGHT = 1e-6;
/** Leaning further than this is a mistake, in radians: 80 degrees. */
const MOST_TAPER = (80 * Math.PI) / 180;

export function extrude(oc: Oc, request: ExtrudeRequest): NamedBody {
  const { from, to, profiles } = request;
  if (!Number.isFinite(from) || !Number.isFinite(to)) throw new KernelRefusal('extrude', 'The depth is not a number.');
  if (Math.abs(to - from) < LEAST_HEIGHT) throw new KernelRefusal('extrude', 'The depth is zero.');
  if (profiles.length === 0) throw new KernelRefusal('extrude', 'There is no closed profile.');
  const taper = request.taper ?? 0;
  if (!(Math.abs(taper) <= MOST_TAPER)) throw new KernelRefusal('extrude', 'The taper must lie between -80 and 80 degrees.');
  return gather(
    oc,
    profiles.map((profile) => extrudeProfile(oc, request, profile, taper)),
  );
}

function extrudeProfile(oc: Oc, request: ExtrudeRequest, profile: Profile, taper: number): NamedBody {
  const { frame, step } = request;
  const [low, high] = [Math.min(request.from, request.to), Math.max(request.from, request.to)];
  return withScope((scope) => {
    const { face, wires } = makeFace(oc, scope, profile, frame, low);
    const [nx, ny, nz] = frame.normal;
    const height = high - low;
    const prism = scope.own(new oc.BRepPrimAPI_MakePrism(face, scope.own(new oc.gp_Vec(nx * height, ny * height, nz * height)), false, true));
    const names = new ShapeMap<string>(oc);
    const sides: TopoDS_Face[] = [];
    for (const { edges } of wires) {
      for (const { edge, curve } of edges) {
        for (const side of takeList(oc, prism.Generated(edge))) {
          names.set(side, request.names?.[curve] ?? `${step}/side(${curve})`);
          sides.push(oc.TopoDS.Face(side));
        }
      }
    }
    // Named for where the extrusion starts and ends, whichever of them is higher.
    const isUpward = request.to >= request.from;
    const isOnly = request.profiles.length === 1;
    names.set(scope.own(prism.FirstShape()), capName(isUpward ? 'start' : 'end', step, profile, isOnly));
    names.set(scope.own(prism.LastShape()), capName(isUpward ? 'end' : 'start', step, profile, isOnly));
    const shape = prism.Shape();
    const upright = { shape, faces: nameFaces(oc, shape, (side) => names.get(side) ?? 'unnamed') };
    return taper === 0 ? upright : lean(oc, scope, upright, sides, request, taper);
  });
}

/** Leans the sides inwards on the way from the sketch plane; a positive angle narrows in both directions from it. */
function lean(oc: Oc, scope: Scope, prism: NamedBody, sides: readonly TopoDS_Face[], { frame, from, to }: ExtrudeRequest, taper: number): NamedBody {
  const isUpward = to >= from;
  const [nx, ny, nz] = frame.normal;
  const way = isUpward ? 1 : -1;
  const pull = scope.own(new oc.gp_Dir(nx * way, ny * way, nz * way));
  const neutral = scope.own(new oc.gp_Pln(scope.own(new oc.gp_Pnt(...frame.origin)), scope.own(new oc.gp_Dir(...frame.normal))));
  const maker = scope.own(new oc.BRepOffsetAPI_DraftAngle(prism.shape));
  for (const side of sides) {
    maker.Add(side, pull, taper, neutral, true);
    if (!maker.AddDone()) throw new KernelRefusal('extrude', 'The sides cannot lean that far.');
  }
  maker.Build(scope.own(new oc.Message_ProgressRange()));
  if (!maker.IsDone()) throw new KernelRefusal('extrude', 'With this taper the sides meet before the end.');
  const shape: TopoDS_Shape = maker.Shape();
  const names = new ShapeMap<string>(oc);
  for (const { face, name } of prism.faces) names.set(maker.ModifiedShape(face), wholeName(name));
  return { shape, faces: nameFaces(oc, shape, (face) => names.get(face) ?? 'unnamed') };
}
