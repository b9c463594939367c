import type { OffersReply } from '@/contract';
import { applyEdit, DocumentValues, findNamed, listNamed, listRecords, showTaken } from '@/core/document';
import { publishValues } from '@/core/links';
import { demoDocument, edited } from '../../../tests/support/demo';
import { findAliasProblems, linkEdit, linkOneEdit, listNear, listNotOffered, setAlias, startLinkDraft, toggleChosen } from './link-draft';

const sizes = demoDocument('Loom sizes');
const side = demoDocument('Side frame');
const rail = demoDocument('Cross rail');
let counter = 0;
const newId = () => `fresh${++counter}`;

function offersOf(document: typeof sizes): OffersReply {
  const published = publishValues(new DocumentValues(document));
  return {
    id: document.id,
    name: document.name,
    revision: 3,
    hash: 'h',
    unsavedEdits: 0,
    notSaved: [],
    values: listNamed(document).flatMap((record) => {
      const value = published[record.id];
      if (record.type === 'table' || !value) return [];
      return [
        {
          id: record.id,
          name: record.name,
          shown: showTaken(value),
          value,
          isOffered: record.type === 'parameter' && record.offered === true,
          isPinned: false,
        },
      ];
    }),
  };
}

test('a link that is there is where the choices start', () => {
  const draft = startLinkDraft(side, offersOf(sizes));
  const [link] = listRecords(side, 'links', 'link');
  expect(draft.link).toBe(link?.id);
  expect([...draft.chosen.values()].sort()).toEqual(
    listRecords(side, `${link?.id ?? ''}/takes`, 'take')
      .map(({ name }) => name)
      .sort(),
  );
  expect(
    linkEdit(draft, side, newId)
      .takes.map(({ id }) => id)
      .sort(),
  ).toEqual([...(side.lists[`${link?.id ?? ''}/takes`] ?? [])].sort());
});

test('a value more keeps the ids of those that were taken before, and can be read', () => {
  const draft = toggleChosen(startLinkDraft(side, offersOf(sizes)), 'teeth');
  const after = edited(side, linkEdit(draft, side, newId));
  expect(new DocumentValues(after).show(findNamed(after, 'teeth')?.id ?? '')?.shown).toBe('24');
  expect(new DocumentValues(after).show(findNamed(after, 'frame_stock')?.id ?? '')?.shown).toBe('18 mm');
});

test('a name that is taken here is a problem with an offer, never a silent suffix', () => {
  const start = startLinkDraft(side, offersOf(rail));
  const tenon = start.source.values.find(({ name }) => name === 'end_hole');
  if (!tenon) throw new Error('no end_hole');
  const other = edited(side, {
    type: 'parameter.add',
    parameter: { type: 'parameter', id: 'mine', name: 'end_hole', formula: { text: '5 mm' }, kind: 'length' },
  });
  const draft = toggleChosen(start, tenon.id);
  expect(findAliasProblems(draft, other).get(tenon.id)).toEqual({ message: 'There is a value named end_hole here already.', offer: 'rail_end_hole' });
  const renamed = setAlias(draft, tenon.id, 'rail_end_hole');
  expect(findAliasProblems(renamed, other).size).toBe(0);
  expect(findNamed(edited(other, linkEdit(renamed, other, newId)), 'rail_end_hole')?.type).toBe('take');
});

test('two values under one name, and a name that is none, are told', () => {
  const [first, second] = offersOf(rail).values;
  let draft = startLinkDraft(side, offersOf(rail));
  draft = setAlias(setAlias(draft, first?.id ?? '', 'twin'), second?.id ?? '', 'twin');
  expect([...findAliasProblems(draft, side).keys()]).toEqual([second?.id]);
  draft = setAlias(draft, second?.id ?? '', 'two words');
  expect(findAliasProblems(draft, side).get(second?.id ?? '')?.message).toBe('A name has no spaces; _ stands for them.');
});

test('what is ticked without being offered is named, so that it can be offered', () => {
  const offers = offersOf(rail);
  const closed = { ...offers, values: offers.values.map((value) => ({ ...value, isOffered: false })) };
  const [first] = closed.values;
  expect(listNotOffered(toggleChosen(startLinkDraft(side, closed), first?.id ?? ''))).toEqual([first?.id]);
});

test('a value that the source has no more stays until it is unticked', () => {
  const offers = offersOf(sizes);
  const fewer = { ...offers, values: offers.values.filter(({ name }) => name !== 'frame_stock') };
  const draft = startLinkDraft(side, fewer);
  expect(linkEdit(draft, side, newId).takes.map(({ name }) => name)).toContain('frame_stock');
});

test('a value that is picked while a formula is typed comes under a free name, with those that are taken already', () => {
  const side = demoDocument('Side frame');
  const value = { kind: 'quantity', dimension: 'length=1', value: 120_000, unit: 'mm' } as const;
  const linkable = { documentName: 'Loom sizes', revision: 1, hash: '', shown: '12 mm', value, isOffered: true };
  const source = listRecords(side, 'links', 'link')[0]?.source ?? '';
  const near = listNear(side, [
    { ...linkable, document: source, parameter: 'side-gap', name: 'side_gap' },
    // Taken already, and a name that is taken here.
    { ...linkable, document: source, parameter: 'frame-stock', name: 'frame_stock' },
    { ...linkable, document: 'rail', documentName: 'Cross rail', parameter: 'd', name: 'depth' },
  ]);
  expect(near.map(({ alias }) => alias)).toEqual(['side_gap', 'rail_depth']);
  const [gap] = near;
  if (!gap) throw new Error('no gap');
  const applied = applyEdit(
    side,
    linkOneEdit(side, gap, () => 'fresh'),
  );
  if (!applied.ok) throw new Error(applied.failure.message);
  expect(listRecords(applied.value.document, 'links', 'link')).toHaveLength(1);
  expect(findNamed(applied.value.document, 'side_gap')).toMatchObject({ parameter: 'side-gap' });
  expect(findNamed(applied.value.document, 'frame_depth')).toBeDefined();
});
