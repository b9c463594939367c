/** The search for loose ends as one call on plain data, so that it can run beside a page and not in it. */
import { DocumentValues, type Document, type Edit, type MeasuredValue } from '../document';
import { findLooseEnds, type LooseEnd, type Surroundings } from './find';
import { pastStates } from './past-states';

export interface LooseEndSearch extends Surroundings {
  readonly document: Document;
  /** What the geometry measures, by value. */
  readonly measured: Readonly<Record<string, MeasuredValue>>;
  /** The edits made so far, the newest last. */
  readonly log: readonly { readonly inverse: Edit }[];
}

/** All loose ends, dismissed ones too; `past` stands behind what the log tells. */
export function searchLooseEnds({ document, measured, log, past = [], ...surroundings }: LooseEndSearch): LooseEnd[] {
  const values = new DocumentValues(document);
  values.setMeasured(measured);
  return findLooseEnds(values, { ...surroundings, past: [...pastStates(document, log), ...past] });
}
