/**
 * A smallest set of constraints that cannot hold together, by a deletion filter (J. Chinneck, "Feasibility
 * and Infeasibility in Optimization", 2008, section 6.2): take each source out in turn; if the rest still
 * contradicts, it stays out. What is left is minimal: without any one of them the rest can be met.
 */
import type { Equation } from './equations/equation';
import { SketchSystem } from './system';

/** Larger components are not filtered: the answer would take too long while somebody draws. */
const MAX_SOURCES = 120;

/** Empty when the equations can be met after all from this start, or are too many to be filtered. */
export function findConflict(equations: readonly Equation[], count: number, start: Float64Array): string[] {
  const sources = [...new Set(equations.map((equation) => equation.source).filter((source) => source !== ''))];
  if (sources.length > MAX_SOURCES) return [];
  const canMeet = (kept: ReadonlySet<string>): boolean => {
    const system = new SketchSystem(
      equations.filter(({ source }) => source === '' || kept.has(source)),
      count,
      start.length,
    );
    return system.solve(start.slice());
  };
  const kept = new Set(sources);
  if (canMeet(kept)) return [];
  for (const source of [...sources].reverse()) {
    kept.delete(source);
    if (canMeet(kept)) kept.add(source);
  }
  return sources.filter((source) => kept.has(source));
}
