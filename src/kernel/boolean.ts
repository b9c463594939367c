/** Bodies joined, cut, and what they have in common. */
import type { TopoDS_Shape } from 'replicad-opencascadejs';
import { KernelRefusal } from './failures';
import { carryNames, type NamedBody } from './named-body';
import { withScope } from './scope';
import { solidsOf, type Oc } from './shapes';

const WORDS = { add: 'joined', remove: 'cut', keep: 'intersected' } as const;

/** Works with all tools in one operation: one after the other takes many times as long. */
export function combine(oc: Oc, operation: 'add' | 'remove' | 'keep', body: NamedBody, tools: readonly NamedBody[]): NamedBody {
  return withScope((scope) => {
    const maker = scope.own(operation === 'add' ? new oc.BRepAlgoAPI_Fuse() : operation === 'remove' ? new oc.BRepAlgoAPI_Cut() : new oc.BRepAlgoAPI_Common());
    const [targets, toolList] = [scope.own(new oc.NCollection_List_TopoDS_Shape()), scope.own(new oc.NCollection_List_TopoDS_Shape())];
    targets.Append(body.shape);
    // Solids one by one: those of one compound may overlap, which the kernel takes for one broken argument.
    for (const tool of tools) for (const solid of solidsOf(oc, tool.shape)) toolList.Append(scope.own(solid));
    maker.SetArguments(targets);
    maker.SetTools(toolList);
    maker.Build(scope.own(new oc.Message_ProgressRange()));
    if (maker.HasErrors()) throw new KernelRefusal(operation, `The bodies could not be ${WORDS[operation]}.`);
    // Before names are asked for: its merging of faces then is part of the history.
    maker.SimplifyResult(true, true, 1e-4);
    const shape: TopoDS_Shape = maker.Shape();
    return { shape, faces: carryNames(oc, maker, shape, [body, ...tools]) };
  });
}
