/** Values that depend on themselves: which path leads from each back to it. */
import { NO_READS, type Node } from './node';
import { findCyclePath } from './order';

/** Gives each member of a cycle its path, to be told of it, and the indices of all members. */
export function tellCycles(cycles: readonly (readonly number[])[], nodes: readonly (Node | undefined)[]): number[] {
  for (const members of cycles) {
    const inCycle = new Set(members);
    for (const index of members) {
      const node = nodes[index];
      if (!node) continue;
      node.needsCompile = true;
      if (node.cycle) continue;
      const path = findCyclePath(
        index,
        nodes.length,
        (other) => inCycle.has(other),
        (other) => nodes[other]?.reads ?? NO_READS,
      );
      // Each value on the path has the same path, told from itself on.
      path.forEach((other, at) => {
        const onPath = nodes[other];
        if (onPath) onPath.cycle ??= { path, at };
      });
    }
  }
  return cycles.flat();
}

/** From the value itself along the path that leads back to it. */
export function namesOfCycle({ path, at }: NonNullable<Node['cycle']>, nodes: readonly (Node | undefined)[]): string[] {
  return [...path.slice(at), ...path.slice(0, at)].map((other) => nodes[other]?.definition.name ?? '?');
}
