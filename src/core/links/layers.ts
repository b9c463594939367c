/** Documents in columns, each to the right of everything that it takes values from. */
import type { Document } from '../document';
import { listSources } from './sources';

export interface LinkedNode {
  readonly id: string;
  readonly sources: readonly string[];
}

export function linkedNode(document: Document): LinkedNode {
  return { id: document.id, sources: listSources(document).map(({ source }) => source) };
}

/** The column of each document, masters in column 0. A ring of documents, which is allowed, stands side by side where it is entered. */
export function layerDocuments(nodes: readonly LinkedNode[]): ReadonlyMap<string, number> {
  const byId = new Map(nodes.map((node) => [node.id, node]));
  const layers = new Map<string, number>();
  const entered = new Set<string>();
  for (const { id } of nodes) {
    // By hand, not by recursion: projects may be chains of hundreds.
    const stack = [id];
    while (stack.length > 0) {
      const top = stack.at(-1) ?? '';
      const sources = (byId.get(top)?.sources ?? []).filter((source) => byId.has(source));
      const next = layers.has(top) ? undefined : sources.find((source) => !layers.has(source) && !entered.has(source));
      entered.add(top);
      if (next !== undefined) {
        stack.push(next);
        continue;
      }
      stack.pop();
      if (!layers.has(top)) layers.set(top, 1 + Math.max(-1, ...sources.map((source) => layers.get(source) ?? -1)));
    }
  }
  return layers;
}

/** A document with everything that takes from it, directly or through others, everything that it takes from, or both. */
export function reachOf(nodes: readonly LinkedNode[], id: string, ways: 'takers' | 'sources' | 'both' = 'both'): ReadonlySet<string> {
  const sources = new Map(nodes.map((node) => [node.id, node.sources]));
  const takers = new Map<string, string[]>();
  for (const node of nodes) for (const source of node.sources) append(takers, source, node.id);
  return new Set([...(ways === 'sources' ? [] : spread(takers, id)), ...(ways === 'takers' ? [] : spread(sources, id))]);
}

function spread(next: ReadonlyMap<string, readonly string[]>, id: string): Set<string> {
  const wave = [id];
  const seen = new Set(wave);
  for (let at = wave.pop(); at !== undefined; at = wave.pop()) {
    for (const other of next.get(at) ?? []) {
      if (seen.has(other)) continue;
      seen.add(other);
      wave.push(other);
    }
  }
  return seen;
}

function append(lists: Map<string, string[]>, key: string, item: string): void {
  const list = lists.get(key);
  if (list) list.push(item);
  else lists.set(key, [item]);
}
