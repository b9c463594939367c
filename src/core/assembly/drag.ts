/** A body that is dragged: a point of it goes as near to where it is pulled as the mates let it. */
import { STANDING, toOutside, type Stance } from '../instances';
import { pullEquations, type MateEquations } from './mate-equations';
import type { Pull } from './model';
import { assemble, BROKEN, moved, settle, type Group, type System } from './settle';

const MOST_ROUNDS = 12;
/** Of the size of the assembly, or in radians. */
const LONGEST_STEP = 0.5;
const NEAR_ENOUGH = 1e-7;
/** The part of the way that is left which a step must bring, to be one. */
const WORTH = 1e-4;
/** Mates nearly hold at every step. */
const DAMPING = 1e-10;
/** On the way it is enough that they do not break: they are solved once more where it ends. */
const ON_THE_WAY = { damping: DAMPING, holds: BROKEN / 2 };

/**
 * A body that nothing holds is shifted. Else each step is one of Gauss and Newton, in which the pull counts a little beside the mates: it goes along
 * what they leave open, and they are solved by themselves after it. It ends where no step brings the point nearer.
 */
export function drag(pull: Pull, body: number, mates: readonly MateEquations[], group: Group, system: System): void {
  const { stances, size } = group;
  const before = stances[body];
  if (!before) return;
  if (mates.length === 0) {
    const from = toOutside(before, pull.point);
    const [x, y, z] = before.origin;
    stances[body] = { ...before, origin: [x + pull.to[0] - from[0], y + pull.to[1] - from[1], z + pull.to[2] - from[2]] };
    return;
  }
  // The pull joins no bodies: it has room in the matrix of the mates.
  const { column, matrix } = system;
  const all = [...system.equations, ...pullEquations(pull, body, stances.length)];
  const farOff = (): number => distanceOf(pull, stances[body] ?? STANDING);
  let best = farOff();
  for (let round = 0; round < MOST_ROUNDS && best > NEAR_ENOUGH * size; round++) {
    const step = assemble(matrix, all, column, { stances: [...stances, STANDING], size });
    if (!matrix.factor(DAMPING)) return;
    matrix.solve(step);
    const longest = step.reduce((most, one) => Math.max(most, Math.abs(one)), 0);
    const kept = stances.slice();
    let isNearer = false;
    for (let share = Math.min(1, LONGEST_STEP / longest); share > 1e-3; share /= 4) {
      const part = step.map((value) => value * share);
      for (const [one, at] of column) stances[one] = moved(kept[one] ?? STANDING, part, at, size);
      const holds = settle(mates, group, system, ON_THE_WAY).worst <= BROKEN;
      const now = farOff();
      isNearer = holds && now < best * (1 - WORTH);
      if (isNearer) break;
      for (const one of column.keys()) stances[one] = kept[one] ?? STANDING;
      // As near as it gets: a smaller step brings no more.
      if (holds && now < best * (1 + 10 * WORTH)) return;
    }
    if (!isNearer) return;
    best = farOff();
  }
}

function distanceOf({ point, to }: Pull, stance: Stance): number {
  const [x, y, z] = toOutside(stance, point);
  return Math.hypot(to[0] - x, to[1] - y, to[2] - z);
}
