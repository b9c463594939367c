/** Profiles to prisms. Faces are named after the sketch curves that they come from. */
import type { TopoDS_Edge, TopoDS_Shape, TopoDS_Wire } from 'replicad-opencascadejs';
import { arcMiddle, toSpace, type Frame, type Loop, type LoopCurve, type Profile } from '@/core/geometry';
import type { ExtrudeRequest } from '@/core/kernel-port';
import { KernelRefusal } from './failures';
import { carryNames, nameFaces, takeList, type NamedBody } from './named-body';
import { withScope, type Scope } from './scope';
import { ShapeMap, type Oc } from './shapes';

/** Shorter than this the kernel never comes back from measuring the result, in millimetres. */
const LEAST_HEIGHT = 1e-6;

export function extrude(oc: Oc, request: ExtrudeRequest): NamedBody {
  const { from, to, profiles } = request;
  if (!Number.isFinite(from) || !Number.isFinite(to)) throw new KernelRefusal('extrude', 'The depth is not a number.');
  if (Math.abs(to - from) < LEAST_HEIGHT) throw new KernelRefusal('extrude', 'The depth is zero.');
  if (profiles.length === 0) throw new KernelRefusal('extrude', 'There is no closed profile.');
  const prisms = profiles.map((profile) => extrudeProfile(oc, request, profile));
  const [first, ...rest] = prisms;
  if (!first) throw new KernelRefusal('extrude', 'There is no closed profile.');
  return rest.length === 0 ? first : gather(oc, prisms);
}

/** Separate prisms of one sketch in one compound. */
function gather(oc: Oc, prisms: readonly NamedBody[]): NamedBody {
  return withScope((scope) => {
    const builder = scope.own(new oc.TopoDS_Builder());
    const compound = new oc.TopoDS_Compound();
    builder.MakeCompound(compound);
    for (const prism of prisms) builder.Add(compound, prism.shape);
    return { shape: compound, faces: prisms.flatMap((prism) => prism.faces) };
  });
}

function extrudeProfile(oc: Oc, request: ExtrudeRequest, profile: Profile): NamedBody {
  const { frame, step } = request;
  const [low, high] = [Math.min(request.from, request.to), Math.max(request.from, request.to)];
  return withScope((scope) => {
    const outer = makeWire(oc, scope, profile.outer, frame, low);
    const maker = scope.own(new oc.BRepBuilderAPI_MakeFace(outer.wire, true));
    if (!maker.IsDone()) throw new KernelRefusal('extrude', 'The outline does not bound a plane face.');
    const holes = profile.holes.map((hole) => makeWire(oc, scope, hole, frame, low));
    for (const { wire } of holes) maker.Add(scope.own(oc.TopoDS.Wire(scope.own(wire.Reversed()))));
    const face = scope.own(maker.Face());
    const [nx, ny, nz] = frame.normal;
    const height = high - low;
    const vector = scope.own(new oc.gp_Vec(nx * height, ny * height, nz * height));
    const prism = scope.own(new oc.BRepPrimAPI_MakePrism(face, vector, false, true));
    const shape = prism.Shape();
    const names = new ShapeMap<string>(oc);
    for (const { edges } of [outer, ...holes]) {
      for (const { edge, curve } of edges) {
        for (const side of takeList(oc, prism.Generated(edge))) names.set(side, `${step}/side(${curve})`);
      }
    }
    // Named for where the extrusion starts and ends, whichever of them is higher.
    const cap = [...profile.outer.curves].map(({ curve }) => curve.id).sort()[0] ?? '';
    const isUpward = request.to >= request.from;
    names.set(scope.own(prism.FirstShape()), `${step}/${isUpward ? 'start' : 'end'}(${cap})`);
    names.set(scope.own(prism.LastShape()), `${step}/${isUpward ? 'end' : 'start'}(${cap})`);
    return { shape, faces: nameFaces(oc, shape, (side) => names.get(side) ?? 'unnamed') };
  });
}

interface MadeWire {
  readonly wire: TopoDS_Wire;
  readonly edges: readonly { readonly edge: TopoDS_Edge; readonly curve: string }[];
}

function makeWire(oc: Oc, scope: Scope, loop: Loop, frame: Frame, height: number): MadeWire {
  const maker = scope.own(new oc.BRepBuilderAPI_MakeWire());
  const edges: { edge: TopoDS_Edge; curve: string }[] = [];
  for (const part of loop.curves) {
    maker.Add(makeEdge(oc, scope, part, frame, height));
    if (!maker.IsDone()) throw new KernelRefusal('extrude', 'The outline is not connected.');
    // Read back: the maker replaces an edge when it joins its ends to those before.
    edges.push({ edge: scope.own(maker.Edge()), curve: part.curve.id });
  }
  const wire = scope.own(maker.Wire());
  if (!wire.Closed()) throw new KernelRefusal('extrude', 'The outline is not closed.');
  return { wire, edges };
}

function makeEdge(oc: Oc, scope: Scope, { curve, isReversed }: LoopCurve, frame: Frame, height: number): TopoDS_Edge {
  const point = ([x, y]: readonly [number, number]) => scope.own(new oc.gp_Pnt(...toSpace(frame, x, y, height)));
  switch (curve.kind) {
    case 'line': {
      const [a, b] = isReversed ? [curve.end, curve.start] : [curve.start, curve.end];
      return scope.own(scope.own(new oc.BRepBuilderAPI_MakeEdge(point(a), point(b))).Edge());
    }
    case 'arc': {
      const [a, b] = isReversed ? [curve.end, curve.start] : [curve.start, curve.end];
      const arc = scope.own(new oc.GC_MakeArcOfCircle(point(a), point(arcMiddle(curve)), point(b)));
      if (!arc.IsDone()) throw new KernelRefusal('extrude', 'An arc of the outline has no size.');
      return scope.own(scope.own(new oc.BRepBuilderAPI_MakeEdge(scope.own(arc.Value()))).Edge());
    }
    case 'circle': {
      const axis = scope.own(new oc.gp_Ax2(point(curve.centre), scope.own(new oc.gp_Dir(...frame.normal)), scope.own(new oc.gp_Dir(...frame.x))));
      const circle = scope.own(new oc.gp_Circ(axis, curve.radius));
      return scope.own(scope.own(new oc.BRepBuilderAPI_MakeEdge(circle)).Edge());
    }
  }
}

/** Adds the tools to the body, or removes them from it, in one operation. */
export function combine(oc: Oc, operation: 'add' | 'remove', body: NamedBody, tools: readonly NamedBody[]): NamedBody {
  return withScope((scope) => {
    const maker = scope.own(operation === 'add' ? new oc.BRepAlgoAPI_Fuse() : new oc.BRepAlgoAPI_Cut());
    const [targets, toolList] = [scope.own(new oc.NCollection_List_TopoDS_Shape()), scope.own(new oc.NCollection_List_TopoDS_Shape())];
    targets.Append(body.shape);
    for (const tool of tools) toolList.Append(tool.shape);
    maker.SetArguments(targets);
    maker.SetTools(toolList);
    maker.Build(scope.own(new oc.Message_ProgressRange()));
    if (maker.HasErrors()) throw new KernelRefusal(operation, `The bodies could not be ${operation === 'add' ? 'joined' : 'cut'}.`);
    // Before names are asked for: its merging of faces then is part of the history.
    maker.SimplifyResult(true, true, 1e-4);
    const shape: TopoDS_Shape = maker.Shape();
    return { shape, faces: carryNames(oc, maker, shape, [body, ...tools]) };
  });
}
