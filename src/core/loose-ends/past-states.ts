/** What values were before the latest edits. */
import { applyEdit, type DocumentValues, type Edit } from '../document';
import { readState, type PastValues } from './untied';

/** States before the edits of a log, the newest first; at most so many, and only those in which a value was another. */
export function pastStates(current: DocumentValues, log: readonly { readonly inverse: Edit }[], most = 12): PastValues[] {
  const states: PastValues[] = [];
  let { document } = current;
  // One set of values that goes back with the document: each step computes only what it changes.
  const values = current.openState(document);
  for (const { inverse } of [...log].reverse()) {
    if (states.length >= most) break;
    const before = applyEdit(document, inverse);
    if (!before.ok) break;
    const { diff } = before.value;
    ({ document } = before.value);
    values.apply(document, diff);
    if (diff.records.some(({ before: was, after }) => [was, after].some((record) => record?.type === 'parameter' || record?.type === 'take'))) {
      states.push(readState(values));
    }
  }
  return states;
}
