/** One value of a sheet, by its dense index. */
import type { Definition } from './definition';
import { NOTHING, type Finding } from './finding';

export const NO_READS: readonly number[] = [];

export interface Node {
  readonly id: string;
  definition: Definition;
  /** Nodes it reads, without repeats. */
  reads: readonly number[];
  /** Nodes that read it; the shared empty list until one does. Changed by {@link addReader} only. */
  readBy: readonly number[];
  /** Those of `reads` that it only might mean: values called like a unit that it uses. */
  unitNames: readonly number[];
  place: number;
  rank: number;
  codeFrom: number;
  codeTo: number;
  finding: Finding;
  /** The root cause's name while this waits; undefined when it is well or itself the cause. */
  waitsFor: string | undefined;
  needsCompile: boolean;
  /** Compiled, well, and without rules: its code can be run without looking further. */
  isPlain: boolean;
  /** A closed path through it, shared by the values on it, and its place on it. */
  cycle: { readonly path: readonly number[]; readonly at: number } | undefined;
}

/** A node that knows nothing yet but where its number lies. */
export function makeNode(id: string, definition: Definition, place: number): Node {
  return {
    id,
    definition,
    reads: NO_READS,
    readBy: NO_READS,
    unitNames: NO_READS,
    place,
    rank: 0,
    codeFrom: 0,
    codeTo: 0,
    finding: NOTHING,
    waitsFor: undefined,
    needsCompile: true,
    isPlain: false,
    cycle: undefined,
  };
}

/** Short lists are copied, so that they have no room to spare; long ones grow as lists do. */
const COPY_BELOW = 8;

export function addReader(node: Node, reader: number): void {
  if (node.readBy.length < COPY_BELOW) node.readBy = [...node.readBy, reader];
  else (node.readBy as number[]).push(reader);
}

/** Ids of what a node reads; not of what it only might mean. */
export function readsOf(node: Node | undefined, nodes: readonly (Node | undefined)[]): string[] {
  return (node?.reads ?? NO_READS).flatMap((index) => (node?.unitNames.includes(index) === true ? [] : (nodes[index]?.id ?? [])));
}

/** Ids of the nodes that read the one of that index. */
export function readersOf(own: number | undefined, nodes: readonly (Node | undefined)[]): string[] {
  if (own === undefined) return [];
  const readers = (nodes[own]?.readBy ?? NO_READS).map((index) => nodes[index]);
  return readers.flatMap((reader) => (!reader || reader.unitNames.includes(own) ? [] : reader.id));
}
