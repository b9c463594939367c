/** Profiles drawn along a path, and solids through outlines. Faces are named after the curves that they come from. */
import type { TopoDS_Shape } from 'replicad-opencascadejs';
import type { Loop, Profile } from '@/core/geometry';
import type { LoftRequest, SweepRequest } from '@/core/kernel-port';
import { KernelRefusal } from './failures';
import { carryNames, gather, nameFaces, takeList, type NamedBody } from './named-body';
import { withScope, type Scope } from './scope';
import { ShapeMap, type Oc } from './shapes';
import { capName, makeOpenWire, makeWire, type MadeWire } from './wire';

export function sweep(oc: Oc, request: SweepRequest): NamedBody {
  if (request.profiles.length === 0) throw new KernelRefusal('sweep', 'There is no closed profile.');
  return gather(
    oc,
    request.profiles.map((profile) => withScope((scope) => sweepProfile(oc, scope, request, profile))),
  );
}

/** The outline as a solid, less what its holes draw. */
function sweepProfile(oc: Oc, scope: Scope, request: SweepRequest, profile: Profile): NamedBody {
  const isOnly = request.profiles.length === 1;
  const capOf = (side: 'start' | 'end'): string => capName(side, request.step, profile, isOnly);
  const outer = sweepLoop(oc, scope, request, profile.outer, capOf);
  if (profile.holes.length === 0) return outer;
  const tools = profile.holes.map((hole) => sweepLoop(oc, scope, request, hole, capOf));
  const maker = scope.own(new oc.BRepAlgoAPI_Cut());
  const [targets, list] = [scope.own(new oc.NCollection_List_TopoDS_Shape()), scope.own(new oc.NCollection_List_TopoDS_Shape())];
  targets.Append(outer.shape);
  for (const { shape } of tools) list.Append(shape);
  maker.SetArguments(targets);
  maker.SetTools(list);
  maker.Build(scope.own(new oc.Message_ProgressRange()));
  if (maker.HasErrors()) throw new KernelRefusal('sweep', 'The holes of the profile could not be taken out.');
  const shape = maker.Shape();
  return { shape, faces: carryNames(oc, maker, shape, [outer, ...tools]) };
}

function sweepLoop(oc: Oc, scope: Scope, { path, pathFrame, frame, step }: SweepRequest, loop: Loop, capOf: (side: 'start' | 'end') => string): NamedBody {
  const spine = makeOpenWire(oc, scope, path.curves, pathFrame);
  const section = makeWire(oc, scope, loop, frame);
  const maker = scope.own(new oc.BRepOffsetAPI_MakePipeShell(spine.wire));
  maker.SetMode(scope.own(new oc.gp_Dir(...pathFrame.normal)));
  maker.SetTransitionMode('BRepBuilderAPI_RightCorner');
  maker.Add(section.wire, false, false);
  maker.Build(scope.own(new oc.Message_ProgressRange()));
  if (!maker.IsDone() || !maker.MakeSolid()) throw new KernelRefusal('sweep', 'The profile cannot be drawn along the path.');
  const shape = maker.Shape();
  const names = nameSides(
    oc,
    section,
    (edge) => takeList(oc, maker.Generated(edge)),
    step,
    path.curves.length > 1 ? spine.edges.map(({ curve }) => curve) : [],
  );
  if (!path.isClosed) {
    names.set(scope.own(maker.FirstShape()), capOf('start'));
    names.set(scope.own(maker.LastShape()), capOf('end'));
  }
  return { shape, faces: nameFaces(oc, shape, (face) => names.get(face) ?? `${step}/side`) };
}

/** Sides by their curve, and where each curve makes one side for each curve of the path, by that too. */
function nameSides(oc: Oc, section: MadeWire, generated: (edge: TopoDS_Shape) => TopoDS_Shape[], step: string, path: readonly string[]): ShapeMap<string> {
  const names = new ShapeMap<string>(oc);
  for (const { edge, curve } of section.edges) {
    const sides = generated(edge);
    sides.forEach((side, i) => names.set(side, `${step}/side(${curve}${sides.length === path.length ? `.${path[i] ?? ''}` : ''})`));
  }
  return names;
}

export function loft(oc: Oc, { sections, isRuled, step }: LoftRequest): NamedBody {
  const [first] = sections;
  if (!first || sections.length < 2) throw new KernelRefusal('loft', 'A loft needs two outlines or more.');
  return withScope((scope) => {
    const maker = scope.own(new oc.BRepOffsetAPI_ThruSections(true, isRuled, 1e-6));
    const wires = sections.map(({ profile, frame }) => makeWire(oc, scope, profile.outer, frame));
    for (const { wire } of wires) maker.AddWire(wire);
    // Outlines of equally many curves are joined curve by curve; others are cut so that they can be.
    const counts = new Set(wires.map(({ edges }) => edges.length));
    maker.CheckCompatibility(counts.size > 1 || wires[0]?.edges.length === 1);
    maker.Build(scope.own(new oc.Message_ProgressRange()));
    if (!maker.IsDone()) throw new KernelRefusal('loft', 'No solid leads through these outlines.');
    const shape = maker.Shape();
    const names = wires[0] ? nameSides(oc, wires[0], (edge) => takeList(oc, maker.Generated(edge)), step, []) : new ShapeMap<string>(oc);
    names.set(scope.own(maker.FirstShape()), capName('start', step, first.profile, true));
    names.set(scope.own(maker.LastShape()), capName('end', step, first.profile, true));
    return { shape, faces: nameFaces(oc, shape, (face) => names.get(face) ?? `${step}/side`) };
  });
}
