/** How much a solved group can still move, which of its mates add nothing, and which cannot hold together. */
import { analyseRowSpace } from '../numeric';
import { evaluate, type BodyGradient, type Equation } from './equations';
import type { EquationsOfMates } from './model';
import { columnsOf, type Group } from './settle';

export interface GroupFreedom {
  readonly degreesOfFreedom: number;
  /** Mates whose equations all follow from those before them. */
  readonly redundant: readonly string[];
  /** By mate: equations that follow from those before them, by their places among its own. */
  readonly dependent: EquationsOfMates;
  /** By the number of a body: in how many of its six ways it can move. */
  readonly ways: ReadonlyMap<number, number>;
}

export function describeFreedom(equations: readonly Equation[], group: Group): GroupFreedom {
  const column = columnsOf(group);
  const rows = rowsOf(equations, group);
  const space = analyseRowSpace(rows, 6 * column.size);
  const dependent = new Set(space.dependentRows);
  const mates = new Map<string, { all: number; dependent: number[] }>();
  equations.forEach(({ mate }, i) => {
    const known = mates.get(mate) ?? { all: 0, dependent: [] };
    mates.set(mate, known);
    if (dependent.has(i)) known.dependent.push(known.all);
    known.all++;
  });
  const ways = new Map<number, number>();
  for (const [body, at] of column) {
    const count = [0, 1, 2, 3, 4, 5].filter((k) => (space.freedom[at + k] ?? 0) > 1e-9).length;
    if (count > 0) ways.set(body, count);
  }
  return {
    degreesOfFreedom: 6 * column.size - space.rank,
    redundant: [...mates].flatMap(([mate, { all, dependent: lost }]) => (all === lost.length ? [mate] : [])),
    dependent: new Map([...mates].flatMap(([mate, { dependent: lost }]) => (lost.length > 0 ? [[mate, lost] as const] : []))),
    ways,
  };
}

/** Derivatives of equations by the unknowns of free bodies, as column, value, column, value …; shifts are counted in sizes of the assembly. */
export function rowsOf(equations: readonly Equation[], group: Group): number[][] {
  const { stances, size } = group;
  const column = columnsOf(group);
  return equations.map((equation) => {
    const row: number[] = [];
    for (const [body, gradient] of evaluate(equation, stances, size).gradients) addEntries(row, column.get(body), gradient, size);
    // Only a sum of several terms names a body more than once.
    return equation.terms.length > 1 ? merged(row) : row;
  });
}

/** Columns and numbers by turns. */
function addEntries(row: number[], at: number | undefined, gradient: BodyGradient, size: number): void {
  if (at === undefined) return;
  for (let k = 0; k < 6; k++) {
    const scaled = (gradient[k] ?? 0) * (k < 3 ? size : 1);
    if (Math.abs(scaled) >= 1e-14) row.push(at + k, scaled);
  }
}

/** Each column once. */
function merged(entries: readonly number[]): number[] {
  const row = new Map<number, number>();
  for (let i = 0; i < entries.length; i += 2) row.set(entries[i] ?? 0, (row.get(entries[i] ?? 0) ?? 0) + (entries[i + 1] ?? 0));
  return [...row].flat();
}

/** Those of several without any one of which the others could hold: each is left out in turn, and stays out where the conflict stays without it. */
export function smallestConflict<T>(all: readonly T[], isBroken: (kept: readonly T[]) => boolean): readonly T[] {
  let kept = all;
  if (!isBroken(kept)) return [];
  for (const one of [...all].reverse()) {
    const without = kept.filter((other) => other !== one);
    if (isBroken(without)) kept = without;
  }
  return kept;
}
