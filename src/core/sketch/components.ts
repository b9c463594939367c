/** Parts of a sketch that no equation connects: solved apart, so that trouble stays where it is. */
import type { Equation } from './equations/equation';

export interface Component {
  readonly equations: readonly Equation[];
  readonly unknowns: readonly number[];
}

/** Unknowns without any equation belong to no component. */
export function splitComponents(equations: readonly Equation[], count: number): Component[] {
  const parent = Int32Array.from({ length: count }, (_, i) => i);
  const root = (i: number): number => {
    let at = i;
    while (parent[at] !== at) at = parent[at] = parent[parent[at] as number] as number;
    return at;
  };
  for (const { variables } of equations) {
    const unknowns = variables.filter((index) => index < count);
    for (const index of unknowns) parent[root(index)] = root(unknowns[0] ?? index);
  }
  const groups = new Map<number, { equations: Equation[]; unknowns: number[] }>();
  for (const equation of equations) {
    const first = equation.variables.find((index) => index < count);
    if (first === undefined) continue;
    const key = root(first);
    const group = groups.get(key) ?? { equations: [], unknowns: [] };
    group.equations.push(equation);
    groups.set(key, group);
  }
  for (let i = 0; i < count; i++) groups.get(root(i))?.unknowns.push(i);
  return [...groups.values()];
}
