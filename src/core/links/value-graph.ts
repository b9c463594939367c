/** Values of several documents as one graph: which reads which, across links. Cycles are judged in it, not between files. */
import { findAny, findRecord, hasComponents, isNamed, listIds, listRecords, listSteps, type Component, type Document, type Link } from '../document';
import { headsOf, openValues } from '../instances';
import { findCycle } from '../network';

interface ValueGraph {
  readonly nodes: readonly { readonly document: Document; readonly id: string }[];
  /** By node: the nodes that it reads. */
  readonly reads: readonly (readonly number[])[];
  find(document: string, id: string): number | undefined;
}

/** `isTaken` leaves out links and components that hand nothing on. */
function graphValues(documents: readonly Document[], isTaken: (link: Link | Component) => boolean = () => true): ValueGraph {
  const nodes: { readonly document: Document; readonly id: string }[] = [];
  const indexOf = new Map<string, number>();
  const heads = headsOf(documents);
  const sheets = documents.map((document) => ({ document, sheet: openValues(document, heads).sheet }));
  for (const { document, sheet } of sheets) {
    for (const id of sheet.listIds()) indexOf.set(`${document.id}/${id}`, nodes.push({ document, id }) - 1);
  }
  const reads: number[][] = nodes.map(() => []);
  const note = (from: string, to: string): void => {
    const [a, b] = [indexOf.get(from), indexOf.get(to)];
    if (a !== undefined && b !== undefined) reads[a]?.push(b);
  };
  for (const { document, sheet } of sheets) {
    for (const id of sheet.listIds()) for (const other of sheet.listReads(id)) note(`${document.id}/${id}`, `${document.id}/${other}`);
    if (hasComponents(document)) {
      for (const id of sheet.listIds()) for (const other of readInComponents(document, id, documents, isTaken)) note(`${document.id}/${id}`, other);
    }
    for (const link of listRecords(document, 'links', 'link').filter(isTaken)) {
      for (const take of listRecords(document, `${link.id}/takes`, 'take')) note(`${document.id}/${take.id}`, `${link.source}/${take.parameter}`);
    }
  }
  return { nodes, reads, find: (document, id) => indexOf.get(`${document}/${id}`) };
}

/** What a node that reads a component reads in the component's own document: the value, or for its mass and volume the last step. */
function* readInComponents(document: Document, node: string, documents: readonly Document[], isTaken: (component: Component) => boolean): Generator<string> {
  const [owner = '', ...rest] = node.split('>');
  const component = rest.length > 0 ? findRecord(document, owner, 'component') : undefined;
  const source = component && isTaken(component) ? documents.find(({ id }) => id === component.source) : undefined;
  if (!source) return;
  if (rest.length > 1) yield* readInComponents(source, rest.join('>'), documents, isTaken);
  else if (findAny(source, rest[0] ?? '')) yield `${source.id}/${rest[0] ?? ''}`;
  else for (const step of listSteps(source).slice(-1)) yield `${source.id}/${step.id}/built`;
}

export interface ValuePlace {
  readonly document: string;
  readonly id: string;
  /** `Loom sizes: width`. */
  readonly words: string;
}

/**
 * The path of a value that depends on itself across documents: `Loom sizes: width`, `Side frame: depth` when the
 * one reads the other and that the one again; empty when no value depends on itself.
 */
export function findValueCycle(documents: readonly Document[]): ValuePlace[] {
  // What a held link has is as it was taken: it depends on nothing any more.
  const { nodes, reads } = graphValues(documents, ({ policy }) => policy !== 'hold');
  return (findCycle(nodes.length, (node) => reads[node] ?? []) ?? []).flatMap((index) => {
    const node = nodes[index];
    const record = node && findAny(node.document, node.id);
    return node && record && isNamed(record) ? { document: node.document.id, id: node.id, words: `${node.document.name}: ${record.name}` } : [];
  });
}

/** What one value is tied to in a document: ids of values, and of the steps that they belong to. */
export interface Reached {
  readonly values: readonly string[];
  readonly steps: readonly string[];
}

export interface ReachedBothWays {
  /** By document: what depends on the value, directly or through others. */
  readonly drives: ReadonlyMap<string, Reached>;
  /** By document: what it depends on. */
  readonly reads: ReadonlyMap<string, Reached>;
}

/** Everything that depends on one value, and that it depends on, in its own document and in others; it is not listed itself. */
export function findReached(documents: readonly Document[], document: string, id: string): ReachedBothWays {
  const graph = graphValues(documents);
  const readers = graph.nodes.map((): number[] => []);
  graph.reads.forEach((reads, reader) => {
    for (const read of reads) readers[read]?.push(reader);
  });
  const start = graph.find(document, id);
  if (start === undefined) return { drives: new Map(), reads: new Map() };
  return { drives: sortByDocument(graph, spread(readers, start), documents), reads: sortByDocument(graph, spread(graph.reads, start), documents) };
}

function spread(next: readonly (readonly number[])[], start: number): number[] {
  const wave = [start];
  const seen = new Set(wave);
  for (let at = wave.pop(); at !== undefined; at = wave.pop()) {
    for (const other of next[at] ?? []) {
      if (seen.has(other)) continue;
      seen.add(other);
      wave.push(other);
    }
  }
  seen.delete(start);
  return [...seen];
}

function sortByDocument({ nodes }: ValueGraph, found: readonly number[], documents: readonly Document[]): ReadonlyMap<string, Reached> {
  const byDocument = new Map<string, { values: string[]; owners: Set<string> }>();
  for (const index of found) {
    const node = nodes[index];
    const record = node && findAny(node.document, node.id);
    if (!record || !isNamed(record)) continue;
    const entry = byDocument.get(node.document.id) ?? { values: [], owners: new Set<string>() };
    byDocument.set(node.document.id, entry);
    entry.values.push(node.id);
    if (record.type === 'parameter' && record.owner !== undefined) entry.owners.add(record.owner);
  }
  return new Map(
    documents.flatMap((document) => {
      const entry = byDocument.get(document.id);
      return entry ? [[document.id, { values: entry.values, steps: listIds(document, 'steps').filter((step) => entry.owners.has(step)) }] as const] : [];
    }),
  );
}
