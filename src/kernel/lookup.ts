/** Faces, edges and corners of a body by name: see `face-names` of the port for what a name means. */
import type { TopoDS_Edge, TopoDS_Face, TopoDS_Shape } from 'replicad-opencascadejs';
import {
  facesIn,
  findPieces,
  presentFaces,
  readCorner,
  readEdge,
  readPiece,
  stepOfFace,
  tellApart,
  writeCorner,
  writeEdge,
  type PieceName,
  type PresentFaces,
} from '@/core/kernel-port';
import type { Point3 } from '@/core/geometry';
import { KernelRefusal } from './failures';
import { compareCentres, neighboursOf, sortByPlace, type NamedBody, type NamedFace } from './named-body';
import { withScope } from './scope';
import { edgesOfFace, ShapeMap, verticesOf, type Oc } from './shapes';

export interface NamedEdge {
  readonly edge: TopoDS_Edge;
  readonly name: string;
  /** The faces that meet in it, in the order of their names; one for a seam. */
  readonly faces: readonly TopoDS_Face[];
}

export interface MeetingEdge {
  readonly edge: TopoDS_Edge;
  readonly meeting: readonly NamedFace[];
}

/** What meets in a vertex: faces, and all their whole names. */
interface Corner {
  readonly vertex: TopoDS_Shape;
  readonly faces: Set<NamedFace>;
  readonly names: Set<string>;
}

/** A vertex in which three faces or more meet, and where it is. */
export interface NamedCorner {
  readonly vertex: TopoDS_Shape;
  readonly name: string;
  readonly at: Point3;
}

/** What is asked of a body again and again while names are looked up in it. */
class Index {
  readonly present: PresentFaces;
  private readonly wholes: ReadonlyMap<string, readonly NamedFace[]>;
  private around: ((face: TopoDS_Face) => ReadonlySet<string>) | undefined;
  private met: readonly MeetingEdge[] | undefined;
  private byVertex: ShapeMap<Corner> | undefined;
  private vertices: readonly Corner[] | undefined;
  private readonly chains = new Map<MeetingEdge, readonly MeetingEdge[]>();

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

  /**
   * An edge with those that go on from it between the same two faces, where nothing else meets them: the kernel divides a round edge
   * where the seam of its face ends, which is no end for anybody else.
   */
  chainOf(entry: MeetingEdge): readonly MeetingEdge[] {
    const known = this.chains.get(entry);
    if (known) return known;
    const chain = new Set([entry]);
    const isSister = (other: MeetingEdge): boolean =>
      other.meeting.length === entry.meeting.length && entry.meeting.every((face) => other.meeting.includes(face));
    const sisters = this.edges.filter(isSister);
    for (const one of chain) {
      for (const vertex of sisters.length > 1 ? verticesOf(this.oc, one.edge) : []) {
        if ((this.cornerAt(vertex)?.faces.size ?? 0) > entry.meeting.length) continue;
        for (const other of sisters) if (verticesOf(this.oc, other.edge).some((end) => end.IsSame(vertex))) chain.add(other);
      }
    }
    const whole = [...chain];
    for (const one of whole) this.chains.set(one, whole);
    return whole;
  }

  /** Whole names of the faces at the ends of an edge, but those that meet in it. */
  endsOf(entry: MeetingEdge): ReadonlySet<string> {
    const own = new Set(entry.meeting.flatMap(({ name }) => facesIn(name)));
    const vertices = this.chainOf(entry).flatMap(({ edge }) => verticesOf(this.oc, edge));
    return new Set(vertices.flatMap((vertex) => [...(this.cornerAt(vertex)?.names ?? [])].filter((name) => !own.has(name))));
  }

  private cornerAt(vertex: TopoDS_Shape): Corner | undefined {
    this.readCorners();
    return this.byVertex?.get(vertex);
  }

  /** Where three faces or more meet, in the order in which the kernel walks the faces. */
  get corners(): readonly Corner[] {
    return this.readCorners().filter(({ faces }) => faces.size > 2);
  }

  private readCorners(): readonly Corner[] {
    if (this.vertices) return this.vertices;
    const corners = new ShapeMap<Corner>(this.oc);
    const all: Corner[] = [];
    for (const entry of this.body.faces) {
      for (const vertex of verticesOf(this.oc, entry.face)) {
        const known = corners.get(vertex);
        const corner = known ?? { vertex, faces: new Set(), names: new Set() };
        corner.faces.add(entry);
        for (const whole of facesIn(entry.name)) corner.names.add(whole);
        if (known) continue;
        corners.set(vertex, corner);
        all.push(corner);
      }
    }
    this.byVertex = corners;
    this.vertices = all;
    return all;
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

/**
 * Edges between the same two faces are told by what is at their ends, whichever pieces of the faces they are of; where that does not tell
 * them all apart, by the pieces, and by ends among the edges of the same two.
 */
export function nameEdges(oc: Oc, body: NamedBody): NamedEdge[] {
  const index = indexOf(oc, body);
  const all = index.edges.map((entry) => ({ entry, faces: entry.meeting.map(({ name }) => readPiece(name)) }));
  const between = groupBy(all, ({ faces }) => writeEdge({ faces: faces.map(wholeOf), ends: UNTOLD }));
  return between.flatMap((group) => {
    const told = tellByEnds(index, group);
    if (told) return group.map((one) => nameEdge(one, one.faces.map(wholeOf), told.get(one.entry)));
    return groupBy(group, ({ faces }) => writeEdge({ faces, ends: UNTOLD })).flatMap((sisters) => {
      const among = tellByEnds(index, sisters);
      return sisters.map((one) => nameEdge(one, one.faces, among?.get(one.entry)));
    });
  });
}

interface UnnamedEdge {
  readonly entry: MeetingEdge;
  readonly faces: readonly PieceName[];
}

const UNTOLD: PieceName = { whole: '', told: [], rank: undefined };

function wholeOf({ whole }: PieceName): PieceName {
  return { ...UNTOLD, whole };
}

function nameEdge({ entry: { edge, meeting } }: UnnamedEdge, faces: readonly PieceName[], told: readonly string[] = []): NamedEdge {
  return { edge, faces: meeting.map(({ face }) => face), name: writeEdge({ faces, ends: { ...UNTOLD, told } }) };
}

/** What tells each edge from the others by its ends: nothing for one alone; undefined where two are told by nothing. */
function tellByEnds(index: Index, edges: readonly UnnamedEdge[]): ReadonlyMap<MeetingEdge, readonly string[]> | undefined {
  if (edges.length < 2) return new Map();
  const chains = [...new Set(edges.map(({ entry }) => index.chainOf(entry)))];
  if (chains.length < 2) return new Map();
  const own = new Set(edges.flatMap(({ faces }) => faces.flatMap(({ whole }) => facesIn(whole).map(stepOfFace))));
  const told = tellApart(
    own,
    chains.map(([first]) => (first ? index.endsOf(first) : NOBODY)),
  );
  if (told.some((names) => names.length === 0)) return undefined;
  return new Map(chains.flatMap((chain, i) => chain.map((entry) => [entry, told[i] ?? []] as const)));
}

function groupBy<T>(list: readonly T[], keyOf: (item: T) => string): T[][] {
  const groups = new Map<string, T[]>();
  for (const item of list) {
    const key = keyOf(item);
    groups.set(key, [...(groups.get(key) ?? []), item]);
  }
  return [...groups.values()];
}

export function findEdges(oc: Oc, body: NamedBody, name: string): MeetingEdge[] {
  const wanted = readEdge(name);
  if (!wanted) return [];
  const index = indexOf(oc, body);
  const sides = wanted.faces.map((face) => new Set(index.faces(face)));
  const between = index.edges.filter(({ meeting }) => meeting.length === sides.length && areBetween(meeting, sides));
  if (between.length < 2 && wanted.ends.told.length === 0) return between;
  const chains = [...new Set(between.map((entry) => index.chainOf(entry)))];
  const offered = chains.map((chain) => ({ chain, neighbours: () => (chain[0] ? index.endsOf(chain[0]) : NOBODY) }));
  return findPieces(wanted.ends, offered, index.present).flatMap(({ chain }) => chain);
}

/** Whether the faces are of the wanted ones, one of each. */
function areBetween(meeting: readonly NamedFace[], [first, second]: readonly ReadonlySet<NamedFace>[]): boolean {
  const [a, b] = meeting;
  if (!a || !first) return false;
  if (!b || !second) return first.has(a);
  return (first.has(a) && second.has(b)) || (first.has(b) && second.has(a));
}

/** Told by the faces as a whole where that tells it, else by their pieces, else by place among the corners of the same. */
export function nameCorners(oc: Oc, body: NamedBody): NamedCorner[] {
  const all = indexOf(oc, body).corners.map(({ vertex, faces }) => ({ vertex, faces: [...faces].map(({ name }) => readPiece(name)), at: pointOf(oc, vertex) }));
  return groupBy(all, ({ faces }) => writeCorner({ faces: faces.map(wholeOf), rank: undefined })).flatMap((group) => {
    if (group.length === 1) return group.map(({ faces, ...one }) => ({ ...one, name: writeCorner({ faces: faces.map(wholeOf), rank: undefined }) }));
    return groupBy(group, ({ faces }) => writeCorner({ faces, rank: undefined })).flatMap((sisters) =>
      [...sisters]
        .sort((a, b) => compareCentres(a.at, b.at))
        .map(({ faces, ...one }, i) => ({ ...one, name: writeCorner({ faces, rank: sisters.length > 1 ? i : undefined }) })),
    );
  });
}

/** Undefined where it is not there, and where others answer to the name as well. */
export function findCorner(oc: Oc, body: NamedBody, name: string): Omit<NamedCorner, 'name'> | undefined {
  const wanted = readCorner(name);
  if (!wanted) return undefined;
  const index = indexOf(oc, body);
  const sides = wanted.faces.map((face) => index.faces(face));
  const found = index.corners
    .filter(({ faces }) => sides.every((side) => side.some((face) => faces.has(face))))
    .map(({ vertex }) => ({ vertex, at: pointOf(oc, vertex) }))
    .sort((a, b) => compareCentres(a.at, b.at));
  return wanted.rank === undefined ? (found.length === 1 ? found[0] : undefined) : found[wanted.rank];
}

function pointOf(oc: Oc, vertex: TopoDS_Shape): Point3 {
  return withScope((scope) => {
    const point = scope.own(oc.BRep_Tool.Pnt(scope.own(oc.TopoDS.Vertex(vertex))));
    return [point.X(), point.Y(), point.Z()];
  });
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
