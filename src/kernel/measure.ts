/** Volume, area, centre, box and validity of a shape; exact integration, never over a mesh. */
import type { TopoDS_Shape } from 'replicad-opencascadejs';
import type { BodyProperties } from '@/core/kernel-port';
import { withScope } from './scope';
import { countSolids, facesOf, type Oc } from './shapes';

/** `isSound`: known to be valid from how it was made, which spares the slow check of faces with hundreds of holes. */
export function measure(oc: Oc, shape: TopoDS_Shape, isSound = false): BodyProperties {
  return withScope((scope) => {
    const volume = scope.own(new oc.GProp_GProps());
    oc.BRepGProp.VolumeProperties(shape, volume, true, false, false);
    const surface = scope.own(new oc.GProp_GProps());
    oc.BRepGProp.SurfaceProperties(shape, surface, false, false);
    const centre = scope.own(volume.CentreOfMass());
    const inertiaAbout = (x: number, y: number, z: number): number =>
      volume.MomentOfInertia(scope.own(new oc.gp_Ax1(centre, scope.own(new oc.gp_Dir(x, y, z)))));
    const box = scope.own(new oc.Bnd_Box());
    oc.BRepBndLib.AddOptimal(shape, box, false, false);
    const [low, high] = box.IsVoid() ? [undefined, undefined] : [scope.own(box.CornerMin()), scope.own(box.CornerMax())];
    const isValid = isSound || scope.own(new oc.BRepCheck_Analyzer(shape, true, false, false)).IsValid();
    const faces = facesOf(oc, shape);
    for (const face of faces) face.delete();
    return {
      volume: volume.Mass(),
      area: surface.Mass(),
      centre: [centre.X(), centre.Y(), centre.Z()],
      inertia: [inertiaAbout(1, 0, 0), inertiaAbout(0, 1, 0), inertiaAbout(0, 0, 1)],
      box: {
        min: low ? [low.X(), low.Y(), low.Z()] : [0, 0, 0],
        max: high ? [high.X(), high.Y(), high.Z()] : [0, 0, 0],
      },
      isValid,
      solids: countSolids(oc, shape),
      faces: faces.length,
    };
  });
}
