/**
 * Order of a dependency graph, and its cycles.
 *
 * Tarjan, "Depth-first search and linear graph algorithms", SIAM J. Comput. 1 (1972), with an explicit
 * stack, so that chains of any length do not overflow. Strongly connected components come out dependencies
 * first, which is the order of evaluation; a component of several nodes, or a node that reads itself, is a
 * cycle. O(nodes + edges).
 */
export interface Ordering {
  /** All nodes; what a node reads stands before it. Members of cycles stand together. */
  readonly order: Int32Array;
  /** Each cycle as the nodes of one component. */
  readonly cycles: readonly (readonly number[])[];
}

const UNSEEN = -1;

export function orderGraph(count: number, dependenciesOf: (node: number) => readonly number[]): Ordering {
  const index = new Int32Array(count).fill(UNSEEN);
  const low = new Int32Array(count);
  const onStack = new Uint8Array(count);
  const component = new Int32Array(count);
  const path = new Int32Array(count);
  const edge = new Int32Array(count);
  const order = new Int32Array(count);
  const cycles: number[][] = [];
  let [seen, componentTop, ordered] = [0, 0, 0];

  for (let start = 0; start < count; start++) {
    if (index[start] !== UNSEEN) continue;
    let depth = 0;
    path[0] = start;
    edge[0] = 0;
    while (depth >= 0) {
      const node = path[depth] as number;
      if (index[node] === UNSEEN) {
        index[node] = low[node] = seen++;
        component[componentTop++] = node;
        onStack[node] = 1;
      }
      const dependencies = dependenciesOf(node);
      let next = UNSEEN;
      let position = edge[depth] as number;
      for (; position < dependencies.length; position++) {
        const other = dependencies[position] as number;
        if (index[other] === UNSEEN) {
          next = other;
          break;
        }
        if (onStack[other] === 1) low[node] = Math.min(low[node] as number, index[other] as number);
      }
      if (next !== UNSEEN) {
        edge[depth] = position;
        path[++depth] = next;
        edge[depth] = 0;
        continue;
      }
      if (low[node] === index[node]) {
        const members: number[] = [];
        let member: number;
        do {
          member = component[--componentTop] as number;
          onStack[member] = 0;
          members.push(member);
        } while (member !== node);
        for (let i = members.length - 1; i >= 0; i--) order[ordered++] = members[i] as number;
        if (members.length > 1 || dependencies.includes(node)) cycles.push(members.reverse());
      }
      depth--;
      if (depth >= 0) {
        const parent = path[depth] as number;
        low[parent] = Math.min(low[parent] as number, low[node] as number);
      }
    }
  }
  return { order, cycles };
}

/**
 * A shortest closed path through `start` within the nodes of its cycle: `[a, b, c]` for a reads b reads c
 * reads a. Breadth first.
 */
export function findCyclePath(start: number, members: ReadonlySet<number>, dependenciesOf: (node: number) => readonly number[]): number[] {
  let count = start + 1;
  for (const member of members) count = Math.max(count, member + 1);
  const cameFrom = new Int32Array(count).fill(UNSEEN);
  const queue = [start];
  for (let head = 0; head < queue.length; head++) {
    const node = queue[head] as number;
    for (const other of dependenciesOf(node)) {
      if (other === start) {
        const path = [node];
        for (let at = node; at !== start; path.push(at)) at = cameFrom[at] as number;
        return path.reverse();
      }
      if (cameFrom[other] === UNSEEN && members.has(other)) {
        cameFrom[other] = node;
        queue.push(other);
      }
    }
  }
  return [start];
}
