/** Documents in columns, each to the right of everything that it takes values from. */

export interface LinkedNode {
  readonly id: string;
  readonly sources: readonly string[];
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

/** Everything that takes from a document, directly or through others; and everything that it takes from. */
export function reachOf(nodes: readonly LinkedNode[], id: string): ReadonlySet<string> {
  const reached = new Set([id]);
  const spread = (next: (node: LinkedNode) => readonly string[]): void => {
    const wave = [id];
    const seen = new Set(wave);
    for (let at = wave.pop(); at !== undefined; at = wave.pop()) {
      const node = nodes.find((one) => one.id === at);
      for (const other of node ? next(node) : []) {
        if (seen.has(other)) continue;
        seen.add(other);
        reached.add(other);
        wave.push(other);
      }
    }
  };
  spread(({ sources }) => sources);
  spread((node) => nodes.flatMap((other) => (other.sources.includes(node.id) ? other.id : [])));
  return reached;
}
