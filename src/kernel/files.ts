/** Bodies as bytes: the kernel's own format for caches, STEP and STL for others. */
import type { TDF_Label, TopoDS_Shape } from 'replicad-opencascadejs';
import type { ExportedProduct, Movement, NamedExport } from '@/core/kernel-port';
import { KernelRefusal } from './failures';
import { transformationOf } from './move';
import { withScope } from './scope';
import { gather, nameFaces, type NamedBody } from './named-body';
import { solidsOf, type Oc } from './shapes';

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

export interface NamedShape extends Pick<NamedExport, 'name' | 'colour'> {
  readonly shape: TopoDS_Shape;
}

/** STEP with the names and colours of bodies (ISO 10303-242, as the kernel's writer gives it). */
export function writeStep(oc: Oc, shapes: readonly NamedShape[]): Uint8Array {
  return writeDocument(oc, (writer) => {
    for (const shape of shapes) writer.addShape(shape);
  });
}

/** A product with its shapes, and what is put into it: see {@link ExportedProduct}. */
export interface ShapedProduct extends Pick<ExportedProduct, 'name' | 'parts'> {
  readonly shapes: readonly NamedShape[];
}

/** STEP with product structure: each product once, its occurrences named and placed. */
export function writeStepProducts(oc: Oc, products: ReadonlyMap<string, ShapedProduct>, root: string): Uint8Array {
  return writeDocument(oc, (writer) => {
    const labels = new Map<string, TDF_Label>();
    const labelOf = (key: string): TDF_Label => {
      const known = labels.get(key);
      if (known) return known;
      const { name, shapes, parts } = products.get(key) ?? { name: key, shapes: [], parts: [] };
      const [only] = shapes;
      const label = parts.length === 0 && shapes.length === 1 && only ? writer.addShape({ ...only, name }) : writer.addAssembly(name);
      labels.set(key, label);
      if (parts.length > 0 || shapes.length !== 1) for (const shape of shapes) writer.addOccurrence(label, writer.addShape(shape), shape.name, []);
      for (const part of parts) writer.addOccurrence(label, labelOf(part.product), part.name, part.movements);
      return label;
    };
    labelOf(root);
  });
}

/** What is put into a document that the kernel writes. */
interface DocumentWriter {
  readonly addShape: (shape: NamedShape) => TDF_Label;
  readonly addAssembly: (name: string) => TDF_Label;
  readonly addOccurrence: (assembly: TDF_Label, product: TDF_Label, name: string, movements: readonly Movement[]) => void;
}

function writeDocument(oc: Oc, fill: (writer: DocumentWriter) => void): Uint8Array {
  return withScope((scope) => {
    const text = (words: string) => scope.own(new oc.TCollection_ExtendedString(words, true));
    const document = scope.own(new oc.TDocStd_Document(text('XmlOcaf')));
    oc.XCAFDoc_ShapeTool.SetAutoNaming(false);
    const main = scope.own(document.Main());
    const [tool, colours] = [scope.own(oc.XCAFDoc_DocumentTool.ShapeTool(main)), scope.own(oc.XCAFDoc_DocumentTool.ColorTool(main))];
    const addNamed = (name: string): TDF_Label => {
      const label = scope.own(tool.NewShape());
      scope.own(oc.TDataStd_Name.Set(label, text(name)));
      return label;
    };
    fill({
      addShape: ({ shape, name, colour }) => {
        const label = addNamed(name);
        tool.SetShape(label, shape);
        if (colour) colours.SetColor(label, scope.own(new oc.Quantity_ColorRGBA(...toLinear(colour), 1)), 'XCAFDoc_ColorSurf');
        return label;
      },
      addAssembly: addNamed,
      addOccurrence: (assembly, product, name, movements) => {
        const place = scope.own(new oc.TopLoc_Location(transformationOf(oc, scope, movements)));
        const occurrence = scope.own(tool.AddComponent(assembly, product, place));
        scope.own(oc.TDataStd_Name.Set(occurrence, text(name)));
      },
    });
    tool.UpdateAssemblies();
    const writer = scope.own(new oc.STEPCAFControl_Writer());
    writer.SetColorMode(true);
    writer.SetNameMode(true);
    // Not `Transfer`: the name of external files that it wants cannot be left out in these bindings.
    if (!writer.Perform(document, '/out.step', scope.own(new oc.Message_ProgressRange())))
      throw new KernelRefusal('export', 'The STEP file could not be written.');
    return takeFile(oc, '/out.step');
  });
}

/** The kernel keeps colours linear and writes them as they are shown (IEC 61966-2-1). */
function toLinear([red, green, blue]: readonly [number, number, number]): [number, number, number] {
  const part = (shown: number): number => (shown <= 0.04045 ? shown / 12.92 : ((shown + 0.055) / 1.055) ** 2.4);
  return [part(red), part(green), part(blue)];
}

/** The solids of a STEP file in millimetres, as one body. */
export function readStep(oc: Oc, bytes: Uint8Array, step: string): NamedBody {
  return withScope((scope) => {
    oc.FS.writeFile('/in.step', bytes);
    const reader = scope.own(new oc.STEPControl_Reader());
    const status = reader.ReadFile('/in.step');
    oc.FS.unlink('/in.step');
    if (status !== 'IFSelect_RetDone') throw new KernelRefusal('import', 'The file is not STEP, or is damaged.');
    reader.TransferRoots(scope.own(new oc.Message_ProgressRange()));
    const solids = solidsOf(oc, scope.own(reader.OneShape()));
    if (solids.length === 0) throw new KernelRefusal('import', 'The file holds no solid; surfaces and curves alone make no body.');
    const bodies = solids.map((shape) => ({ shape, faces: [] }));
    const { shape } = gather(oc, bodies);
    return { shape, faces: nameFaces(oc, shape, (_, index) => `${step}/face(${index + 1})`) };
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
