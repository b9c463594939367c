/** A body that is dragged: a point of it goes as near to where it is pulled as the mates let it. */
import { toOutside, type Stance } from '../instances';
import { SparseCholesky } from '../numeric';
import { pullEquations, type MateEquations } from './mate-equations';
import type { Pull } from './model';
import { assemble, BROKEN, columnsOf, couplings, moved, settle, STILL, type Group } from './settle';

const MOST_ROUNDS = 12;
/** Of the size of the assembly, or in radians. */
const LONGEST_STEP = 0.5;
const NEAR_ENOUGH = 1e-7;
const DAMPING = 1e-10;

/**
 * A body that nothing holds is shifted. Else each step is one of Gauss and Newton, in which the pull counts a little beside the mates: it goes along
 * what they leave open, and they are solved by themselves after it. It ends where no step brings the point nearer.
 */
export function drag(pull: Pull, body: number, mates: readonly MateEquations[], group: Group): void {
  const { stances, size } = group;
  const before = stances[body];
  if (!before) return;
  if (mates.length === 0) {
    const from = toOutside(before, pull.point);
    const [x, y, z] = before.origin;
    stances[body] = { ...before, origin: [x + pull.to[0] - from[0], y + pull.to[1] - from[1], z + pull.to[2] - from[2]] };
    return;
  }
  const all = [...mates.flatMap((one) => one.equations), ...pullEquations(pull, body, stances.length)];
  const column = columnsOf(group);
  const n = 6 * column.size;
  const matrix = new SparseCholesky(n, couplings(all, column));
  const farOff = (): number => distanceOf(pull, stances[body] ?? STILL);
  let best = farOff();
  for (let round = 0; round < MOST_ROUNDS && best > NEAR_ENOUGH * size; round++) {
    const step = assemble(matrix, all, column, { stances: [...stances, STILL], size });
    if (!matrix.factor(new Float64Array(n).fill(DAMPING))) return;
    matrix.solve(step);
    const longest = step.reduce((most, one) => Math.max(most, Math.abs(one)), 0);
    const kept = stances.slice();
    let isNearer = false;
    for (let share = Math.min(1, LONGEST_STEP / longest); !isNearer && share > 1e-3; share /= 4) {
      const part = step.map((value) => value * share);
      for (const [one, at] of column) stances[one] = moved(kept[one] ?? STILL, part, at, size);
      isNearer = settle(mates, group).worst <= BROKEN && farOff() < best * (1 - 1e-4);
      if (!isNearer) for (const one of column.keys()) stances[one] = kept[one] ?? STILL;
    }
    if (!isNearer) return;
    best = farOff();
  }
}

function distanceOf({ point, to }: Pull, stance: Stance): number {
  const [x, y, z] = toOutside(stance, point);
  return Math.hypot(to[0] - x, to[1] - y, to[2] - z);
}
