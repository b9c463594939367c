/**
 * Faces and edges by name. A name finds exactly what has it; failing that, the pieces that it was cut into
 * since in the order of their numbers, or the whole that it was a piece of. An edge is named by the faces that meet in it.
 */
import type { TopoDS_Edge, TopoDS_Face } from 'replicad-opencascadejs';
import { KernelRefusal } from './failures';
import type { NamedBody } from './named-body';
import { edgesOf, ShapeMap, type Oc } from './shapes';

export interface NamedEdge {
  readonly edge: TopoDS_Edge;
  readonly name: string;
  /** The faces that meet in it; one for a seam. */
  readonly faces: readonly TopoDS_Face[];
}

const PIECE = /#\d+/g;

/** A name without the numbers of pieces. */
export function wholeName(name: string): string {
  return name.replace(PIECE, '');
}

export function nameEdges(oc: Oc, body: NamedBody): NamedEdge[] {
  const meeting = new ShapeMap<{ edge: TopoDS_Edge; names: string[]; faces: TopoDS_Face[] }>(oc);
  const all: { edge: TopoDS_Edge; names: string[]; faces: TopoDS_Face[] }[] = [];
  for (const { face, name } of body.faces) {
    for (const edge of edgesOf(oc, face)) {
      const known = meeting.get(edge);
      if (known) {
        known.names.push(name);
        known.faces.push(face);
        continue;
      }
      const entry = { edge, names: [name], faces: [face] };
      meeting.set(edge, entry);
      all.push(entry);
    }
  }
  return all.map(({ edge, names, faces }) => ({ edge, faces, name: `edge[${names.sort().join(' | ')}]` }));
}

function find<T extends { readonly name: string }>(all: readonly T[], name: string): T[] {
  const exact = all.filter((one) => one.name === name);
  if (exact.length > 0) return exact;
  const whole = wholeName(name);
  return all.filter((one) => wholeName(one.name) === whole).sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
}

export function findEdges(oc: Oc, body: NamedBody, name: string): NamedEdge[] {
  return find(nameEdges(oc, body), name);
}

export function findFaces(body: NamedBody, name: string): TopoDS_Face[] {
  return find(body.faces, name).map(({ face }) => face);
}

/** All edges of the names, each once; refused when a name finds none. */
export function requireEdges(oc: Oc, body: NamedBody, names: readonly string[], operation: string): NamedEdge[] {
  const all = nameEdges(oc, body);
  const found = new Set<NamedEdge>();
  for (const name of names) {
    const edges = find(all, name);
    if (edges.length === 0) throw new KernelRefusal(operation, 'An edge that it was made on is no longer there.', name);
    for (const edge of edges) found.add(edge);
  }
  return [...found];
}

export function requireFaces(body: NamedBody, names: readonly string[], operation: string): TopoDS_Face[] {
  return names.flatMap((name) => {
    const faces = findFaces(body, name);
    if (faces.length === 0) throw new KernelRefusal(operation, 'A face that it was made on is no longer there.', name);
    return faces;
  });
}
