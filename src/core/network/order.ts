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
        if (component[componentTop - 1] === node) {
          componentTop--;
          onStack[node] = 0;
          order[ordered++] = node;
          if (dependencies.includes(node)) cycles.push([node]);
        } else {
          const bottom = component.lastIndexOf(node, componentTop - 1);
          const members: number[] = [];
          for (let i = bottom; i < componentTop; i++) {
            const member = component[i] as number;
            members.push(member);
            onStack[member] = 0;
            order[ordered++] = member;
          }
          componentTop = bottom;
          cycles.push(members);
        }
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

const OPEN = 1;
const DONE = 2;

/**
 * Any closed path, `[a, b]` for a reads b reads a; undefined when there is none. Depth first, left at the first
 * edge that leads back: O(nodes + edges), and no more than what lies before the cycle.
 */
export function findCycle(count: number, dependenciesOf: (node: number) => readonly number[]): number[] | undefined {
  const state = new Uint8Array(count);
  const path = new Int32Array(count);
  const edge = new Int32Array(count);
  for (let start = 0; start < count; start++) {
    if (state[start] !== 0) continue;
    let depth = 0;
    path[0] = start;
    edge[0] = 0;
    state[start] = OPEN;
    while (depth >= 0) {
      const node = path[depth] as number;
      const next = dependenciesOf(node)[edge[depth] as number];
      if (next === undefined) {
        state[node] = DONE;
        depth--;
        continue;
      }
      edge[depth] = (edge[depth] as number) + 1;
      if (state[next] === OPEN) {
        const closed: number[] = [];
        for (let i = path.indexOf(next); i <= depth; i++) closed.push(path[i] as number);
        return closed;
      }
      if (state[next] === DONE) continue;
      state[next] = OPEN;
      path[++depth] = next;
      edge[depth] = 0;
    }
  }
  return undefined;
}

/**
 * A shortest closed path through `start` within the nodes of its cycle: `[a, b, c]` for a reads b reads c
 * reads a. Breadth first, over nodes 0 to `count` - 1.
 */
export function findCyclePath(
  start: number,
  count: number,
  isInCycle: (node: number) => boolean,
  dependenciesOf: (node: number) => readonly number[],
): number[] {
  const cameFrom = new Int32Array(count).fill(UNSEEN);
  const queue = new Int32Array(count);
  let tail = 1;
  queue[0] = start;
  for (let head = 0; head < tail; head++) {
    const node = queue[head] as number;
    for (const other of dependenciesOf(node)) {
      if (other === start) {
        const path = [node];
        for (let at = node; at !== start; path.push(at)) at = cameFrom[at] as number;
        return path.reverse();
      }
      if (cameFrom[other] === UNSEEN && isInCycle(other)) {
        cameFrom[other] = node;
        queue[tail++] = other;
      }
    }
  }
  return [start];
}
