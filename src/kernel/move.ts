/** Moved and mirrored copies of bodies. */
import type { gp_Trsf } from 'replicad-opencascadejs';
import { facesIn, mergeNames, type Movement } from '@/core/kernel-port';
import { KernelRefusal } from './failures';
import { nameFaces, type NamedBody } from './named-body';
import { withScope, type Scope } from './scope';
import { ShapeMap, type Oc } from './shapes';

/** Several movements as one. */
export function transformationOf(oc: Oc, scope: Scope, movements: readonly Movement[]): gp_Trsf {
  const transformation = scope.own(new oc.gp_Trsf());
  for (const movement of movements) transformation.PreMultiply(makeTransformation(oc, scope, movement));
  return transformation;
}

export function move(oc: Oc, body: NamedBody, movements: readonly Movement[], prefix: string | undefined): NamedBody {
  return withScope((scope) => {
    const transformation = transformationOf(oc, scope, movements);
    const maker = scope.own(new oc.BRepBuilderAPI_Transform(body.shape, transformation, true, false));
    if (!maker.IsDone()) throw new KernelRefusal('move', 'The body could not be moved.');
    const shape = maker.Shape();
    const names = new ShapeMap<string>(oc);
    for (const { face, name } of body.faces)
      names.set(maker.ModifiedShape(face), mergeNames(facesIn(name).map((one) => (prefix === undefined ? one : `${prefix}:${one}`))));
    return { shape, faces: nameFaces(oc, shape, (face) => names.get(face) ?? 'unnamed') };
  });
}

function makeTransformation(oc: Oc, scope: Scope, movement: Movement): gp_Trsf {
  const made = scope.own(new oc.gp_Trsf());
  const point = (at: readonly [number, number, number]) => scope.own(new oc.gp_Pnt(...at));
  const direction = (along: readonly [number, number, number]) => scope.own(new oc.gp_Dir(...along));
  const isFinite = (...values: readonly number[]) => values.every((value) => Number.isFinite(value));
  switch (movement.kind) {
    case 'shift':
      if (!isFinite(...movement.by)) throw new KernelRefusal('move', 'A distance is not a number.');
      made.SetTranslation(scope.own(new oc.gp_Vec(...movement.by)));
      break;
    case 'turn':
      if (!isFinite(movement.angle)) throw new KernelRefusal('move', 'The angle is not a number.');
      made.SetRotation(scope.own(new oc.gp_Ax1(point(movement.about.origin), direction(movement.about.direction))), movement.angle);
      break;
    case 'mirror':
      made.SetMirror(scope.own(new oc.gp_Ax2(point(movement.plane.origin), direction(movement.plane.normal))));
      break;
  }
  return made;
}
