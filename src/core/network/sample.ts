import { evaluateLanes, type LaneTier } from './lanes';
import type { Sheet } from './sheet';

/**
 * What values of a sheet come to in many samples: a column for each of `wanted`, not a number where it is refused. `set` has a column of as many numbers
 * for each value that is set, in internal units, whatever it is computed from else. What comes from outside stays as it is. Apart from the sheet, so
 * that what only edits and shows does not bring along the code for it.
 */
export function sampleSheet(sheet: Sheet, set: ReadonlyMap<string, Float64Array>, wanted: readonly string[], count: number, tier?: LaneTier): Float64Array[] {
  const { program, state, indexOf } = sheet.standing;
  const indexes = new Map<number, Float64Array>();
  for (const [id, samples] of set) {
    const index = indexOf(id);
    if (index !== undefined) indexes.set(index, samples);
  }
  return evaluateLanes(
    program,
    state,
    indexes,
    wanted.map((id) => indexOf(id) ?? -1),
    count,
    tier,
  );
}
