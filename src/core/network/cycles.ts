/** Values that depend on themselves: which path leads from each back to it. */
import { NO_READS, type Entry } from './entry';
import { findCyclePath } from './order';

/** By index, the path of each member of a cycle, shared by those on it, and its place on it. */
export function tellCycles(cycles: readonly (readonly number[])[], entries: readonly (Entry | undefined)[]): Map<number, NonNullable<Entry['cycle']>> {
  const told = new Map<number, NonNullable<Entry['cycle']>>();
  for (const members of cycles) {
    const inCycle = new Set(members);
    for (const index of members) {
      if (!entries[index] || told.has(index)) continue;
      const path = findCyclePath(
        index,
        entries.length,
        (other) => inCycle.has(other),
        (other) => entries[other]?.reads ?? NO_READS,
      );
      // Each value on the path has the same path, told from itself on.
      path.forEach((other, at) => {
        if (!told.has(other)) told.set(other, { path, at });
      });
    }
  }
  return told;
}

/** From the value itself along the path that leads back to it. */
export function namesOfCycle({ path, at }: NonNullable<Entry['cycle']>, entries: readonly (Entry | undefined)[]): string[] {
  return [...path.slice(at), ...path.slice(0, at)].map((other) => entries[other]?.definition.name ?? '?');
}
