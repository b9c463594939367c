/** Copies of components: with what is set in them, their patterns and the mates between them. */
import { component, driven, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { face, floor, leverShapes, mated } from '../../../tests/support/levers';
import { placeComponents } from '@/core/assembly';
import { findRecord, listRecords, type Document } from '@/core/document';
import { listPlaced, openValues, relativeTo, type Stance } from '@/core/instances';
import { copyComponents } from './component-edits';

function arm(): Document {
  let made = withComponents(
    withParameters('assembly', 'arm', { reach: '12 mm' }),
    component('base', 'lever', { isAnchored: true, at: { origin: [-200, 5, 0], turn: [1, 0, 0, 0] } }),
    component('low', 'lever', { at: { origin: [10, 0, 0], turn: [1, 0, 0, 0] } }),
    component('high', 'lever', { at: { origin: [40, 3, 0], turn: [1, 0, 0, 0] } }),
  );
  made = driven(made, 'low.size', 'reach');
  made = edited(made, {
    type: 'component.repeat',
    id: 'high',
    pattern: { form: 'linear', along: { path: ['low'], body: 'b', name: 'tip' }, values: { count: 'high-count', span: 'high-span' } },
    values: [
      { type: 'parameter', id: 'high-count', owner: 'high', name: 'high_count', formula: { text: '3' }, kind: 'count' },
      { type: 'parameter', id: 'high-span', owner: 'high', name: 'high_spacing', formula: { text: 'reach * 2' }, kind: 'length' },
    ],
  });
  made = mated(made, 'stand', 'coplanar', [floor(['base']), floor(['low'])], '7 mm');
  made = mated(made, 'flat', 'coplanar', [floor(['low']), floor(['high'])], 'reach');
  return mated(made, 'pin', 'coaxial', [face(['low'], 'tip'), face(['high#2'], 'hub')]);
}

const part = { ...withParameters('part', 'lever', { size: '3 mm' }), name: 'lever' };
const stand = (document: Document): ReadonlyMap<string, Stance> => {
  const values = openValues(document, sourceOf([part]));
  return new Map(listPlaced(values, placeComponents(values, leverShapes).standing).map(({ name, at }) => [name, at]));
};

test('two with the mate between them, their pattern and what is set in them; those to others stay behind', () => {
  const before = arm();
  const copies = copyComponents(before, ['low', 'high'], 500);
  if (!copies) throw new Error('nothing copied');
  const document = edited(before, copies.edit);
  const [low = '', high = ''] = copies.ids;
  expect(copies.ids.map((id) => findRecord(document, id, 'component')?.name)).toEqual(['low_2', 'high_2']);
  expect(listRecords(document, 'mates', 'mate').map(({ name, first, second }) => [name, first.path, second.path])).toEqual([
    ['stand', ['base'], ['low']],
    ['flat', ['low'], ['high']],
    ['pin', ['low'], ['high#2']],
    ['flat 2', [low], [high]],
    ['pin 2', [low], [`${high}#2`]],
  ]);
  expect(listRecords(document, `${low}/drives`, 'drive')).toMatchObject([{ formula: { text: 'reach' } }]);
  expect(findRecord(document, high, 'component')?.pattern?.along).toMatchObject({ path: [low] });
  expect(findRecord(document, low, 'component')?.at?.origin[0]).toBe(500);
  // They stand to one another as the originals do, copies of the pattern too, and follow the same value.
  for (const now of [document, edited(document, { type: 'parameter.setFormula', id: 'arm-reach', formula: { text: '31 mm' } })]) {
    const at = stand(now);
    for (const name of ['high[1]', 'high[2]', 'high[3]']) {
      const [was, is] = [
        relativeTo(at.get('low') as Stance, at.get(name) as Stance),
        relativeTo(at.get('low_2') as Stance, at.get(name.replace('high', 'high_2')) as Stance),
      ];
      // About the pin they are free to turn: how high they stand, and how far from it, is what the mates say.
      expect(is.origin[2]).toBeCloseTo(was.origin[2], 6);
    }
  }
});

test('one by itself stands beside everything, with its own pattern', () => {
  const copies = copyComponents(arm(), ['high'], 300);
  if (!copies) throw new Error('nothing copied');
  const document = edited(arm(), copies.edit);
  const copy = findRecord(document, copies.ids[0] ?? '', 'component');
  expect([copy?.name, copy?.at?.origin]).toEqual(['high_2', [300, 3, 0]]);
  expect(listRecords(document, `${copy?.id ?? ''}/values`, 'parameter').map(({ name }) => name)).toEqual(['high_count_2', 'high_spacing_2']);
  expect(copyComponents(arm(), ['nobody'], 0)).toBeUndefined();
});
