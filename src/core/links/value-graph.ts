/** Values of several documents as one graph: which reads which, across links. Cycles are judged in it, not between files. */
import { DocumentValues, findAny, isNamed, listIds, listRecords, type Document } from '../document';
import { findCycle } from '../network';

interface ValueGraph {
  readonly nodes: readonly { readonly document: Document; readonly id: string }[];
  /** By node: the nodes that it reads. */
  readonly reads: readonly (readonly number[])[];
  find(document: string, id: string): number | undefined;
}

function graphValues(documents: readonly Document[]): ValueGraph {
  const nodes: { readonly document: Document; readonly id: string }[] = [];
  const indexOf = new Map<string, number>();
  const sheets = documents.map((document) => ({ document, sheet: new DocumentValues(document).sheet }));
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
    for (const link of listRecords(document, 'links', 'link')) {
      for (const take of listRecords(document, `${link.id}/takes`, 'take')) note(`${document.id}/${take.id}`, `${link.source}/${take.parameter}`);
    }
  }
  return { nodes, reads, find: (document, id) => indexOf.get(`${document}/${id}`) };
}

/**
 * The path of a value that depends on itself across documents: `['Loom sizes: width', 'Side frame: depth']` when the
 * one reads the other and that the one again; empty when no value depends on itself.
 */
export function findValueCycle(documents: readonly Document[]): string[] {
  const { nodes, reads } = graphValues(documents);
  return (findCycle(nodes.length, (node) => reads[node] ?? []) ?? []).flatMap((index) => {
    const node = nodes[index];
    const record = node && findAny(node.document, node.id);
    return node && record && isNamed(record) ? `${node.document.name}: ${record.name}` : [];
  });
}

/** What one value drives in a document: ids of values, and of steps that read it. */
export interface Reached {
  readonly values: readonly string[];
  readonly steps: readonly string[];
}

/** Everything that depends on one value, in its own document and in others, by document; the value itself is not listed. */
export function findReached(documents: readonly Document[], document: string, id: string): ReadonlyMap<string, Reached> {
  const graph = graphValues(documents);
  const readers = graph.nodes.map((): number[] => []);
  graph.reads.forEach((reads, reader) => {
    for (const read of reads) readers[read]?.push(reader);
  });
  const start = graph.find(document, id);
  const wave = start === undefined ? [] : [start];
  const seen = new Set(wave);
  const reached = new Map<string, { values: string[]; steps: Set<string> }>();
  for (let at = wave.pop(); at !== undefined; at = wave.pop()) {
    for (const reader of readers[at] ?? []) {
      const node = graph.nodes[reader];
      if (!node || seen.has(reader)) continue;
      seen.add(reader);
      wave.push(reader);
      const entry = reached.get(node.document.id) ?? { values: [], steps: new Set<string>() };
      reached.set(node.document.id, entry);
      const record = findAny(node.document, node.id);
      if (record && isNamed(record)) entry.values.push(node.id);
      if (record?.type === 'parameter' && record.owner !== undefined) entry.steps.add(record.owner);
    }
  }
  return new Map(
    [...reached].map(([key, { values, steps }]) => [
      key,
      { values, steps: listIds(documents.find((one) => one.id === key) ?? EMPTY, 'steps').filter((step) => steps.has(step)) },
    ]),
  );
}

const EMPTY = { lists: {} };
