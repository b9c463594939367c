/** Copies and replaced components, as edits. */
import { findRecord, listRecords, type Document } from '@/core/document';
import { component, driven, shownIn, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { openValues } from '@/core/instances';
import { changePattern, followPattern, patternChoices, readSkipped, repeatEdit, replaceEdit, stopRepeating } from './pattern-edits';

const HOST = withComponents(withParameters('assembly', 'host', {}), component('rail', 'bar'), component('post', 'bar'));
const rail = (document: Document) => {
  const found = findRecord(document, 'rail', 'component');
  if (!found) throw new Error('no rail');
  return found;
};

test('a component is repeated, its copies turned from a row to a circle and taken away again', () => {
  let document = edited(HOST, repeatEdit(HOST, rail(HOST)));
  const values = (): string[] => listRecords(document, 'rail/values', 'parameter').map(({ name, formula }) => `${name} = ${formula.text}`);
  expect(values()).toEqual(['rail_count = 2', 'rail_spacing = 50 mm']);
  const round = changePattern(document, rail(document), { form: 'circular' });
  if (!round) throw new Error('no edit');
  document = edited(document, round);
  expect(values()).toEqual(['rail_count = 2', 'rail_angle = 90 deg']);
  const skipping = changePattern(document, rail(document), { skip: [3] });
  document = skipping ? edited(document, skipping) : document;
  expect(rail(document).pattern).toMatchObject({ form: 'circular', skip: [3] });
  expect(edited(document, stopRepeating(rail(document))).lists['rail/values']).toBeUndefined();
});

test('numbers of copies that are left out are read from what is typed', () => {
  expect([readSkipped('5, 3;3'), readSkipped(''), readSkipped('1'), readSkipped('a')]).toEqual([[3, 5], [], undefined, undefined]);
});

test('another document in its place: what is set goes to values of the same names, mates to the body of the same name', () => {
  const [bar, tube] = [withParameters('part', 'bar', { long: '1 m', thick: '9 mm' }), withParameters('part', 'tube', { long: '3 m', thick: '4 mm' })].map(
    (document) => ({
      ...document,
      records: { ...document.records, [`${document.id}-body`]: { type: 'body' as const, id: `${document.id}-body`, name: 'Body', material: '' } },
      lists: { ...document.lists, bodies: [`${document.id}-body`] },
    }),
  );
  if (!bar || !tube) throw new Error('no parts');
  let document = withComponents(
    withParameters('assembly', 'host', { far: 'rail.long', fine: 'rail.thick' }),
    component('rail', 'bar'),
    component('post', 'bar'),
  );
  document = driven(document, 'rail.long', '2 m');
  document = edited(document, {
    type: 'mate.put',
    mate: {
      type: 'mate',
      id: 'm',
      name: 'm',
      kind: 'coaxial',
      sense: 1,
      values: {},
      first: { path: ['post'], body: 'bar-body', name: 'a/side(b)' },
      second: { path: ['rail'], body: 'bar-body', name: 'a/side(b)' },
    },
    values: [],
  });
  const replaced = edited(document, replaceEdit(document, rail(document), bar, { document: tube, revision: 1, hash: '' }));
  expect(shownIn(replaced, [bar, tube])).toMatchObject({ far: '2000 mm', fine: '4 mm' });
  const mate = findRecord(replaced, 'm', 'mate');
  expect([mate?.first, mate?.second]).toMatchObject([{ body: 'bar-body' }, { body: 'tube-body' }]);
});

test('copies follow a pattern of a part beside them, and are spaced by values of their own again', () => {
  const holes = {
    ...withParameters('part', 'bar', {}),
    records: {
      holes: {
        type: 'pattern' as const,
        id: 'holes',
        name: 'Holes',
        body: 'b',
        of: [],
        form: 'linear' as const,
        along: 'x' as const,
        spread: 'spacing' as const,
        values: {},
      },
    },
    lists: { steps: ['holes'] },
  };
  const choices = patternChoices(openValues(HOST, sourceOf([holes])), 'rail');
  expect(choices).toEqual([{ along: { path: ['post'], step: 'holes' }, words: 'post: Holes' }]);
  let document = edited(HOST, repeatEdit(HOST, rail(HOST)));
  document = edited(document, followPattern(rail(document), { path: ['post'], step: 'holes' }));
  expect([rail(document).pattern?.form, document.lists['rail/values']]).toEqual(['followed', undefined]);
  const back = changePattern(document, rail(document), { form: 'circular' });
  document = back ? edited(document, back) : document;
  expect(listRecords(document, 'rail/values', 'parameter').map(({ name }) => name)).toEqual(['rail_count', 'rail_angle']);
});
