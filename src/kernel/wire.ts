/** Loops of a sketch to wires and plane faces of the kernel. */
import type { TopoDS_Edge, TopoDS_Face, TopoDS_Wire } from 'replicad-opencascadejs';
import { arcMiddle, toSpace, type Frame, type Loop, type LoopCurve, type Profile } from '@/core/geometry';
import { KernelRefusal } from './failures';
import type { Scope } from './scope';
import type { Oc } from './shapes';

export interface MadeWire {
  readonly wire: TopoDS_Wire;
  readonly edges: readonly { readonly edge: TopoDS_Edge; readonly curve: string }[];
}

/** The plane face of a profile at a height over its plane, and the wires around it, the outer one first. */
export function makeFace(
  oc: Oc,
  scope: Scope,
  profile: Profile,
  frame: Frame,
  height = 0,
): { readonly face: TopoDS_Face; readonly wires: readonly MadeWire[] } {
  const outer = makeWire(oc, scope, profile.outer, frame, height);
  const maker = scope.own(new oc.BRepBuilderAPI_MakeFace(outer.wire, true));
  if (!maker.IsDone()) throw new KernelRefusal('profile', 'The outline does not bound a plane face.');
  const holes = profile.holes.map((hole) => makeWire(oc, scope, hole, frame, height));
  for (const { wire } of holes) maker.Add(scope.own(oc.TopoDS.Wire(scope.own(wire.Reversed()))));
  return { face: scope.own(maker.Face()), wires: [outer, ...holes] };
}

/** The cap of a profile: by its step and side alone where the step has one profile, else after the first curve by id of its outline. */
export function capName(side: 'start' | 'end', step: string, profile: Profile, isOnly: boolean): string {
  if (isOnly) return `${step}/${side}`;
  return `${step}/${side}(${profile.outer.curves.map(({ curve }) => curve.id).sort()[0] ?? ''})`;
}

/** The closed wire of a loop at a height over its plane. */
export function makeWire(oc: Oc, scope: Scope, loop: Loop, frame: Frame, height = 0): MadeWire {
  const made = makeOpenWire(oc, scope, loop.curves, frame, height);
  if (!made.wire.Closed()) throw new KernelRefusal('profile', 'The outline is not closed.');
  return made;
}

/** Curves joined in their order. */
export function makeOpenWire(oc: Oc, scope: Scope, curves: readonly LoopCurve[], frame: Frame, height = 0): MadeWire {
  const maker = scope.own(new oc.BRepBuilderAPI_MakeWire());
  const edges: { edge: TopoDS_Edge; curve: string }[] = [];
  for (const part of curves) {
    maker.Add(makeEdge(oc, scope, part, frame, height));
    if (!maker.IsDone()) throw new KernelRefusal('profile', 'The outline is not connected.');
    // Read back: the maker replaces an edge when it joins its ends to those before.
    edges.push({ edge: scope.own(maker.Edge()), curve: part.curve.id });
  }
  return { wire: scope.own(maker.Wire()), edges };
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
      if (!arc.IsDone()) throw new KernelRefusal('profile', 'An arc of the outline has no size.');
      return scope.own(scope.own(new oc.BRepBuilderAPI_MakeEdge(scope.own(arc.Value()))).Edge());
    }
    case 'circle': {
      const axis = scope.own(new oc.gp_Ax2(point(curve.centre), scope.own(new oc.gp_Dir(...frame.normal)), scope.own(new oc.gp_Dir(...frame.x))));
      const circle = scope.own(new oc.gp_Circ(axis, curve.radius));
      return scope.own(scope.own(new oc.BRepBuilderAPI_MakeEdge(circle)).Edge());
    }
  }
}
