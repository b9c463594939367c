/** What a document asks of outside calculations, with all that stands in it. */
import { listRecords } from './access';
import { listOutside, type OutsideState, type Question } from './outside';
import type { DocumentValues } from './values';

/** The questions of a document and of all that stands in it, whether they are answered or not; without those whose inputs have errors. */
export function listQuestions(values: DocumentValues, within: readonly string[] = []): { readonly question: Question; readonly state: OutsideState['is'] }[] {
  const own = listOutside(values.document).flatMap(({ id }) => {
    const state = values.outside.stateOf(id);
    return state && state.is !== 'waiting' ? [{ question: { ...state.question, within }, state: state.is }] : [];
  });
  const inside = listRecords(values.document, 'components', 'component').flatMap(({ id }) => {
    const inner = values.components?.valuesOf(id);
    return inner ? listQuestions(inner, [...within, id]) : [];
  });
  return [...own, ...inside];
}
