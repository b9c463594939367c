/**
 * Names of faces and edges, as the kernel gives them and as references keep them.
 *
 * A face is named by where it came from: `<step>/side(<curve>)`, copies with `<pattern>/<place>:` in front. Where several faces came from
 * one, each has in braces the neighbours that tell it from the others: `top/end(a){groove/side(b)}`. An edge is its two faces,
 * `edge[<face> | <face>]`, and where several lie between the same two, what is at their ends, in braces. Never a rank, but for pieces that
 * nothing tells apart (`#0`, `#1`, ... by place) and in references that are older than the braces.
 *
 * A face that several became answers to each of their names: `block/end(a) = boss/end(b)`.
 *
 * A corner is the faces that meet in it, `corner[<face> | <face> | <face>]`; corners that meet the same faces are told by place.
 */

const MERGED = ' = ';
/** Names that a face keeps, of those that went into it: a row of a hundred flush bosses needs no hundred. */
const MOST_MERGED = 8;

const TOLD = /\{[^{}]*\}/g;
const RANK = /#\d+/g;

/** The name without what tells pieces apart, in faces and in edges. */
export function wholeName(name: string): string {
  return name.replace(TOLD, '').replace(RANK, '');
}

/** The names that a face answers to: one, unless several faces became it. */
export function facesIn(name: string): string[] {
  return wholeName(name).split(MERGED);
}

/** The name of a cap without what its outline is called: the same cap, where its step has one. */
export function plainCap(name: string): string {
  return name.replace(/(\/(?:start|end))\([^()]*\)/g, '$1');
}

/** The name of what faces of these names became. */
export function mergeNames(names: readonly string[]): string {
  return [...new Set(names.flatMap(facesIn))].slice(0, MOST_MERGED).join(MERGED);
}

export interface PieceName {
  /** Several names where several faces became it. */
  readonly whole: string;
  /** Whole names of the neighbours that tell the piece; none for the whole face. */
  readonly told: readonly string[];
  /** Place among pieces, for those that are told by it alone. */
  readonly rank: number | undefined;
}

export function readPiece(name: string): PieceName {
  const told = /\{([^{}]*)\}/.exec(name)?.[1];
  const rank = /#(\d+)$/.exec(name)?.[1];
  return { whole: wholeName(name), told: told === undefined ? [] : told.split(', '), rank: rank === undefined ? undefined : Number(rank) };
}

export function writePiece({ whole, told, rank }: PieceName): string {
  return `${whole}${told.length === 0 ? '' : `{${[...told].sort().join(', ')}}`}${rank === undefined ? '' : `#${rank}`}`;
}

export interface EdgeName {
  readonly faces: readonly PieceName[];
  readonly ends: PieceName;
}

/** Undefined for the name of a face. */
export function readEdge(name: string): EdgeName | undefined {
  const parts = /^edge\[(.*)\](\{[^{}]*\})?(#\d+)?$/.exec(name);
  if (!parts) return undefined;
  const [, faces = '', told = '', rank = ''] = parts;
  return { faces: faces.split(' | ').map(readPiece), ends: readPiece(`${told}${rank}`) };
}

export function writeEdge({ faces, ends }: EdgeName): string {
  const names = faces.map(writePiece).sort();
  return `edge[${names.join(' | ')}]${writePiece({ ...ends, whole: '' })}`;
}

/** The step that a face came from in the end: that of the pattern for its copies. */
export function stepOfFace(name: string): string {
  return /^[^/:]+/.exec(name)?.[0] ?? '';
}

/**
 * What tells each of several pieces of one face from the others, by their neighbours: those that other steps than `own` made, where these
 * are enough; empty for all where nothing tells every two of them apart.
 */
export function tellApart(own: ReadonlySet<string>, neighbours: readonly ReadonlySet<string>[]): readonly (readonly string[])[] {
  const shared = [...(neighbours[0] ?? [])].filter((name) => neighbours.every((set) => set.has(name)));
  const differing = neighbours.map((set) => [...set].filter((name) => !shared.includes(name)).sort());
  const byOthers = differing.map((names) => names.filter((name) => !own.has(stepOfFace(name))));
  if (areTold(byOthers)) return byOthers;
  return areTold(differing) ? differing : neighbours.map(() => []);
}

/** Whether each list has something that no other one has all of. */
function areTold(lists: readonly (readonly string[])[]): boolean {
  return lists.every((list, i) => list.length > 0 && lists.every((other, j) => i === j || list.some((name) => !other.includes(name))));
}

/** What there is on a body to be found: the names that its faces answer to. */
export interface PresentFaces {
  readonly has: (whole: string) => boolean;
  readonly hasStep: (step: string) => boolean;
}

export function presentFaces(wholeNames: Iterable<string>): PresentFaces {
  const names = new Set(wholeNames);
  const steps = new Set([...names].map(stepOfFace));
  return { has: (whole) => names.has(whole), hasStep: (step) => steps.has(step) };
}

/**
 * The pieces that a name means, among those of its face with their neighbours: all of them for the whole face. One that is told by a
 * neighbour must have it; a neighbour whose step has left no face at all says nothing, and one that is gone alone means that the piece is gone
 * too.
 */
export function findPieces<T extends { readonly neighbours: () => ReadonlySet<string> }>(
  { told, rank }: PieceName,
  pieces: readonly T[],
  present: PresentFaces,
): T[] {
  const telling = told.filter((name) => present.has(name) || present.hasStep(stepOfFace(name)));
  // Told by what is not there at all, a piece is the whole, where that is in one piece.
  if (told.length > 0 && telling.length === 0) return pieces.length === 1 ? [...pieces] : [];
  const found = pieces.filter((piece) => telling.every((name) => piece.neighbours().has(name)));
  // Of several that are left where something that told them apart is not there any more, none is known to be the one.
  if (found.length > 1 && telling.length < told.length) return [];
  const ranked = rank === undefined || found.length < 2 ? undefined : found[rank];
  return ranked ? [ranked] : found;
}

export type GeometrySort = 'face' | 'edge' | 'corner';

/** What a name is of. */
export function sortOf(name: string): GeometrySort {
  return name.startsWith('edge[') ? 'edge' : name.startsWith('corner[') ? 'corner' : 'face';
}

export interface CornerName {
  readonly faces: readonly PieceName[];
  /** Place among the corners of the same faces. */
  readonly rank: number | undefined;
}

/** Undefined for the name of a face or an edge. */
export function readCorner(name: string): CornerName | undefined {
  const [, faces, rank] = /^corner\[(.*)\](?:#(\d+))?$/.exec(name) ?? [];
  return faces === undefined ? undefined : { faces: faces.split(' | ').map(readPiece), rank: rank === undefined ? undefined : Number(rank) };
}

export function writeCorner({ faces, rank }: CornerName): string {
  return `corner[${faces.map(writePiece).sort().join(' | ')}]${rank === undefined ? '' : `#${rank}`}`;
}

/** The faces that an edge or a corner is told by; a face itself. */
export function facesOfName(name: string): readonly PieceName[] {
  return readEdge(name)?.faces ?? readCorner(name)?.faces ?? [readPiece(name)];
}
