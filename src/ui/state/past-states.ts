/** What values were before the latest edits. */
import { applyEdit, DocumentValues, type Document, type Edit } from '@/core/document';
import { readState, type PastValues } from '@/core/loose-ends';

/** States before the edits of a log, the newest first; at most so many, and only those in which a value was another. */
export function pastStates(present: Document, log: readonly { readonly inverse: Edit }[], most = 12): PastValues[] {
  const states: PastValues[] = [];
  let document = present;
  for (const { inverse } of [...log].reverse()) {
    if (states.length >= most) break;
    const before = applyEdit(document, inverse);
    if (!before.ok) break;
    const { records } = before.value.diff;
    ({ document } = before.value);
    if (records.some(({ before: was, after }) => [was, after].some((record) => record?.type === 'parameter' || record?.type === 'take'))) {
      states.push(readState(new DocumentValues(document)));
    }
  }
  return states;
}
