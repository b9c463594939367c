/** Faces and edges of a body by name: see `face-names` of the port for what a name means. */
import type { TopoDS_Edge, TopoDS_Face } from 'replicad-opencascadejs';
import { facesIn, findPieces, presentFaces, readEdge, readPiece, tellApart, writeEdge, type PieceName, type PresentFaces } from '@/core/kernel-port';
import { KernelRefusal } from './failures';
import { neighboursOf, sortByPlace, type NamedBody, type NamedFace } from './named-body';
import { edgesOfFace, ShapeMap, verticesOf, type Oc } from './shapes';

export interface NamedEdge {
  readonly edge: TopoDS_Edge;
  readonly name: string;
  /** The faces that meet in it, in the order of their names; one for a seam. */
  readonly faces: readonly TopoDS_Face[];
}

interface MeetingEdge {
  readonly edge: TopoDS_Edge;
  readonly meeting: readonly NamedFace[];
}

/** What is asked of a body again and again while names are looked up in it. */
class Index {
  readonly present: PresentFaces;
  private readonly wholes: ReadonlyMap<string, readonly NamedFace[]>;
  private around: ((face: TopoDS_Face) => ReadonlySet<string>) | undefined;
  private met: readonly MeetingEdge[] | undefined;
  private corners: ShapeMap<Set<string>> | undefined;

  constructor(
    private readonly oc: Oc,
    private readonly body: NamedBody,
  ) {
    const wholes = new Map<string, NamedFace[]>();
    for (const entry of body.faces) {
      for (const whole of facesIn(entry.name)) wholes.set(whole, [...(wholes.get(whole) ?? []), entry]);
    }
    this.wholes = wholes;
    this.present = presentFaces(wholes.keys());
  }

  faces(name: PieceName): NamedFace[] {
    const pieces = [...new Set(facesIn(name.whole).flatMap((whole) => this.answering(whole)))];
    if (pieces.length < 2 && name.told.length === 0) return pieces;
    const sorted = name.rank === undefined ? pieces : sortByPlace(this.oc, pieces, ({ face }) => face);
    this.around ??= neighboursOf(this.oc, this.body.faces);
    const { around } = this;
    const offered = sorted.map((entry) => ({ entry, neighbours: () => around(entry.face) }));
    return findPieces(name, offered, this.present).map(({ entry }) => entry);
  }

  /** The faces that answer to a name. A cap is called after its outline only while its step has several: it is the same cap. */
  private answering(whole: string): readonly NamedFace[] {
    const exact = this.wholes.get(whole);
    if (exact) return exact;
    const [, cap, outline] = /^(.*\/(?:start|end))(\(.*\))?$/.exec(whole) ?? [];
    if (cap === undefined) return [];
    if (outline !== undefined) return this.wholes.get(cap) ?? [];
    return [...this.wholes].flatMap(([name, faces]) => (name.startsWith(`${cap}(`) ? faces : []));
  }

  get edges(): readonly MeetingEdge[] {
    if (this.met) return this.met;
    const meeting = new ShapeMap<{ edge: TopoDS_Edge; meeting: NamedFace[] }>(this.oc);
    const all: { edge: TopoDS_Edge; meeting: NamedFace[] }[] = [];
    for (const entry of this.body.faces) {
      for (const edge of edgesOfFace(this.oc, entry.face)) {
        const known = meeting.get(edge);
        if (known) {
          known.meeting.push(entry);
          continue;
        }
        const fresh = { edge, meeting: [entry] };
        meeting.set(edge, fresh);
        all.push(fresh);
      }
    }
    for (const entry of all) entry.meeting.sort((a, b) => (a.name < b.name ? -1 : 1));
    this.met = all;
    return all;
  }

  /** Whole names of the faces at the ends of an edge, but those that meet in it. */
  endsOf({ edge, meeting }: MeetingEdge): ReadonlySet<string> {
    this.corners ??= this.readCorners();
    const { corners } = this;
    const own = new Set(meeting.flatMap(({ name }) => facesIn(name)));
    return new Set(verticesOf(this.oc, edge).flatMap((vertex) => [...(corners.get(vertex) ?? [])].filter((name) => !own.has(name))));
  }

  private readCorners(): ShapeMap<Set<string>> {
    const corners = new ShapeMap<Set<string>>(this.oc);
    for (const { face, name } of this.body.faces) {
      for (const vertex of verticesOf(this.oc, face)) {
        const names = corners.get(vertex) ?? new Set();
        for (const whole of facesIn(name)) names.add(whole);
        corners.set(vertex, names);
      }
    }
    return corners;
  }
}

const NOBODY: ReadonlySet<string> = new Set();

/** Bodies never change: what was read of one holds for as long as it does. */
const indexes = new WeakMap<NamedBody, Index>();

function indexOf(oc: Oc, body: NamedBody): Index {
  const known = indexes.get(body) ?? new Index(oc, body);
  indexes.set(body, known);
  return known;
}

export function nameEdges(oc: Oc, body: NamedBody): NamedEdge[] {
  const index = indexOf(oc, body);
  const plain = { whole: '', told: [], rank: undefined };
  const named = index.edges.map((entry) => ({ entry, faces: entry.meeting.map(({ name }) => readPiece(name)) }));
  const groups = new Map<string, typeof named>();
  for (const one of named) {
    const name = writeEdge({ faces: one.faces, ends: plain });
    groups.set(name, [...(groups.get(name) ?? []), one]);
  }
  return [...groups.values()].flatMap((group) => {
    const told =
      group.length < 2
        ? [[]]
        : tellApart(
            NOBODY,
            group.map(({ entry }) => index.endsOf(entry)),
          );
    return group.map(({ entry: { edge, meeting }, faces }, i) => ({
      edge,
      faces: meeting.map(({ face }) => face),
      name: writeEdge({ faces, ends: { ...plain, told: told[i] ?? [] } }),
    }));
  });
}

export function findEdges(oc: Oc, body: NamedBody, name: string): MeetingEdge[] {
  const wanted = readEdge(name);
  if (!wanted) return [];
  const index = indexOf(oc, body);
  const sides = wanted.faces.map((face) => new Set(index.faces(face)));
  const between = index.edges.filter(({ meeting }) => meeting.length === sides.length && areBetween(meeting, sides));
  const offered = between.map((entry) => ({ entry, neighbours: () => index.endsOf(entry) }));
  return findPieces(wanted.ends, offered, index.present).map(({ entry }) => entry);
}

/** Whether the faces are of the wanted ones, one of each. */
function areBetween(meeting: readonly NamedFace[], [first, second]: readonly ReadonlySet<NamedFace>[]): boolean {
  const [a, b] = meeting;
  if (!a || !first) return false;
  if (!b || !second) return first.has(a);
  return (first.has(a) && second.has(b)) || (first.has(b) && second.has(a));
}

export function findFaces(oc: Oc, body: NamedBody, name: string): TopoDS_Face[] {
  return indexOf(oc, body)
    .faces(readPiece(name))
    .map(({ face }) => face);
}

/** All edges of the names, each once; refused when a name finds none. */
export function requireEdges(oc: Oc, body: NamedBody, names: readonly string[], operation: string): NamedEdge[] {
  const found = new Map<MeetingEdge, NamedEdge>();
  for (const name of names) {
    const edges = findEdges(oc, body, name);
    if (edges.length === 0) throw new KernelRefusal(operation, 'An edge that it was made on is no longer there.', name);
    for (const entry of edges) found.set(entry, { edge: entry.edge, name, faces: entry.meeting.map(({ face }) => face) });
  }
  return [...found.values()];
}

export function requireFaces(oc: Oc, body: NamedBody, names: readonly string[], operation: string): TopoDS_Face[] {
  return names.flatMap((name) => {
    const faces = findFaces(oc, body, name);
    if (faces.length === 0) throw new KernelRefusal(operation, 'A face that it was made on is no longer there.', name);
    return faces;
  });
}
