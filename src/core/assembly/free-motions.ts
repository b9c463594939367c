/**
 * The ways in which each body can still move where everything stands: what is left of a small shift or turn of it once it is made to go across all
 * equations of the mates (an orthogonal projection onto the null space of their derivatives). Other bodies go along as the mates have them.
 */
import type { Point3 } from '../geometry';
import { analyseRowSpace, RowSpan } from '../numeric';
import { rowsOf } from './freedom';
import { bodiesOf, equationsOf } from './mate-equations';
import type { Mate, MatedBody } from './model';
import { columnsOf, type Group } from './settle';
import { sizeOf } from './solve';

/** A small motion of a body: of its origin, in millimetres, and about it, in radians, both in the space of the assembly. One of the two is a unit vector. */
export interface FreeMotion {
  readonly shift: Point3;
  readonly turn: Point3;
}

/** Smaller than this is a rounding. */
const NOTHING = 1e-7;

/** By body, of those that can move: independent motions, turns before slides. `bodies` stand where their mates hold. */
export function freeMotions(bodies: readonly MatedBody[], mates: readonly Mate[]): ReadonlyMap<string, readonly FreeMotion[]> {
  const index = new Map(bodies.map(({ id }, i) => [id, i]));
  const stances = bodies.map(({ at }) => at);
  const group: Group = { bodies: bodies.map((_, i) => i), held: bodies.map(({ isHeld }) => isHeld), stances, size: sizeOf(bodies, mates) };
  const equations = mates.flatMap((mate) => {
    const placed = bodiesOf(mate, index);
    return (placed && equationsOf(mate, placed)?.equations) ?? [];
  });
  const column = columnsOf(group);
  const count = 6 * column.size;
  const rows = rowsOf(equations, group);
  const { dependentRows } = analyseRowSpace(rows, count);
  const dependent = new Set(dependentRows);
  const span = new RowSpan(rows.filter((_, i) => !dependent.has(i)));
  const motions = new Map<string, readonly FreeMotion[]>();
  for (const [body, at] of column) {
    const left = [0, 1, 2, 3, 4, 5].flatMap((k) => {
      const unit = new Float64Array(count);
      unit[at + k] = 1;
      const across = span.split(unit)?.across;
      // A shift counts in sizes of the assembly.
      return across ? [Array.from(across.subarray(at, at + 6), (value, i) => (i < 3 ? value * group.size : value))] : [];
    });
    const found = [...reduce(left, [3, 4, 5], 1), ...reduce(left, [0, 1, 2], group.size)].map(toMotion);
    if (found.length > 0) motions.set(bodies[body]?.id ?? '', found);
  }
  return motions;
}

/** Takes independent rows out that have something in these places, the largest first, and leaves the others without. */
function reduce(rows: number[][], places: readonly number[], scale: number): number[][] {
  const taken: number[][] = [];
  for (;;) {
    let [best, place, size] = [-1, 0, NOTHING * scale];
    rows.forEach((row, i) => {
      for (const k of places) if (Math.abs(row[k] ?? 0) > size) [best, place, size] = [i, k, Math.abs(row[k] ?? 0)];
    });
    const [pivot] = best < 0 ? [] : rows.splice(best, 1);
    if (!pivot) return taken;
    const rest = [...rows, ...taken];
    for (const row of rest) {
      const factor = (row[place] ?? 0) / (pivot[place] ?? 1);
      for (let k = 0; k < 6; k++) row[k] = (row[k] ?? 0) - factor * (pivot[k] ?? 0);
    }
    taken.push(pivot);
  }
}

function toMotion(row: readonly number[]): FreeMotion {
  const part = (from: number): Point3 => [row[from] ?? 0, row[from + 1] ?? 0, row[from + 2] ?? 0];
  const [shift, turn] = [part(0), part(3)];
  const isTurn = Math.hypot(...turn) > NOTHING;
  const length = isTurn ? Math.hypot(...turn) : Math.hypot(...shift);
  const scaled = ([x, y, z]: Point3): Point3 => [x / length, y / length, z / length];
  return { shift: scaled(shift), turn: isTurn ? scaled(turn) : [0, 0, 0] };
}
