import { applyEdit, createDocument, DocumentValues, type Document, type Edit } from '@/core/document';
import { pastStates } from './past-states';

function after(...edits: Edit[]): { readonly document: Document; readonly log: { readonly inverse: Edit }[] } {
  let document = createDocument('d', 'part', 'D');
  const log = edits.map((edit) => {
    const result = applyEdit(document, edit);
    if (!result.ok) throw new Error(result.failure.message);
    ({ document } = result.value);
    return { inverse: result.value.inverse };
  });
  return { document, log };
}

const ADD: Edit = { type: 'parameter.add', parameter: { type: 'parameter', id: 'a', name: 'span', formula: { text: '400 mm' }, kind: 'length' } };
const set = (text: string): Edit => ({ type: 'parameter.setFormula', id: 'a', formula: { text } });

test('values are read back, the newest state first; edits that change none are passed over', () => {
  const { document, log } = after(ADD, set('420 mm'), { type: 'document.rename', name: 'E' }, set('480 mm'));
  expect(pastStates(new DocumentValues(document), log).map((state) => state.get('a'))).toEqual([4_200_000, 4_000_000, undefined]);
  expect(pastStates(new DocumentValues(document), log, 1)).toHaveLength(1);
});

test('what cannot be taken back ends the look', () => {
  const { document } = after(ADD, set('420 mm'));
  expect(pastStates(new DocumentValues(document), [{ inverse: { type: 'parameter.setFormula', id: 'gone', formula: { text: '1 mm' } } }])).toEqual([]);
});
