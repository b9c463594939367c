/** Bodies as bytes: the kernel's own format for caches, STEP and STL for others. */
import type { TopoDS_Shape } from 'replicad-opencascadejs';
import { KernelRefusal } from './failures';
import { withScope } from './scope';
import type { Oc } from './shapes';

export function writeBody(oc: Oc, shape: TopoDS_Shape): Uint8Array {
  return withScope((scope) => {
    oc.BRepTools.Clean(shape, true);
    if (!oc.BinTools.Write(shape, '/body.bin', scope.own(new oc.Message_ProgressRange()))) throw new KernelRefusal('save', 'The body could not be written.');
    return takeFile(oc, '/body.bin');
  });
}

export function readBody(oc: Oc, bytes: Uint8Array): TopoDS_Shape {
  return withScope((scope) => {
    oc.FS.writeFile('/body.bin', bytes);
    const shape = new oc.TopoDS_Shape();
    const isRead = oc.BinTools.Read(shape, '/body.bin', scope.own(new oc.Message_ProgressRange()));
    oc.FS.unlink('/body.bin');
    if (!isRead) throw new KernelRefusal('load', 'The cached body could not be read.');
    return shape;
  });
}

export function writeStep(oc: Oc, shapes: readonly TopoDS_Shape[]): Uint8Array {
  return withScope((scope) => {
    const writer = scope.own(new oc.STEPControl_Writer());
    for (const shape of shapes) writer.Transfer(shape, 'STEPControl_AsIs', true, scope.own(new oc.Message_ProgressRange()));
    if (writer.Write('/out.step') !== 'IFSelect_RetDone') throw new KernelRefusal('export', 'The STEP file could not be written.');
    return takeFile(oc, '/out.step');
  });
}

/** Binary STL, within a tenth of a millimetre. */
export function writeStl(oc: Oc, shapes: readonly TopoDS_Shape[]): Uint8Array {
  return withScope((scope) => {
    const builder = scope.own(new oc.TopoDS_Builder());
    const compound = scope.own(new oc.TopoDS_Compound());
    builder.MakeCompound(compound);
    for (const shape of shapes) {
      oc.ReplicadMeshExtractor.mesh(shape, 0.1, 0.3);
      builder.Add(compound, shape);
    }
    if (!oc.StlAPI.Write(compound, '/out.stl', false)) throw new KernelRefusal('export', 'The STL file could not be written.');
    return takeFile(oc, '/out.stl');
  });
}

function takeFile(oc: Oc, path: string): Uint8Array {
  const bytes = oc.FS.readFile(path);
  oc.FS.unlink(path);
  return bytes;
}
