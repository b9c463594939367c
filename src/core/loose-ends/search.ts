/** The search for loose ends as one call on plain data, so that it can run beside a page and not in it. */
import type { Edit, MeasuredValue } from '../document';
import { openComplete, type CompleteDocument } from '../instances';
import { findLooseEnds, type LooseEnd, type Surroundings } from './find';
import { pastStates } from './past-states';

export interface LooseEndSearch extends Surroundings {
  /** With what it uses. */
  readonly document: CompleteDocument;
  /** What the geometry measures, by value. */
  readonly measured: Readonly<Record<string, MeasuredValue>>;
  /** The edits made so far, the newest last. */
  readonly log: readonly { readonly inverse: Edit }[];
}

/** All loose ends, dismissed ones too; `past` stands behind what the log tells. */
export function searchLooseEnds({ document, measured, log, past = [], ...surroundings }: LooseEndSearch): LooseEnd[] {
  const values = openComplete(document);
  values.setMeasured(measured);
  return findLooseEnds(values, { ...surroundings, past: [...pastStates(values, log), ...past] });
}
