import { sampleSheet } from '../network';
import type { DocumentValues } from './values';

/**
 * What a value comes to in many samples, by the formulas alone; not a number where it is refused. `set` has a column of `count` numbers for each value
 * that is set, by its id and in internal units, whatever it is computed from else.
 */
export function sampleValue({ sheet }: DocumentValues, set: ReadonlyMap<string, Float64Array>, of: string, count: number): Float64Array {
  return sampleSheet(sheet, set, [of], count)[0] ?? new Float64Array(count).fill(NaN);
}
