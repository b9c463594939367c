import type { OfferedValue, OffersReply } from '@/contract';
import { applyEdit, DocumentValues, findNamed, listRecords } from '@/core/document';
import { demoDocument } from '../../../tests/support/demo';
import { isAlike } from '@/core/links';
import { chooseSource, repointEdit, startRepoint } from './repoint';

const side = demoDocument('Side frame');
const [link] = listRecords(side, 'links', 'link');
if (!link) throw new Error('no link');

const offer = (name: string, value: number): OfferedValue => ({
  id: `wide-${name}`,
  name,
  shown: '',
  value: { kind: 'quantity', dimension: 'length=1', value, unit: 'mm' },
  isOffered: true,
  isPinned: false,
});
const wide: OffersReply = {
  id: 'wide',
  name: 'Wide sizes',
  revision: 3,
  hash: 'h',
  unsavedEdits: 0,
  notSaved: [],
  values: [offer('frame_stock', 210_000), offer('tall', 3_000_000)],
};

test('values of the same name are matched, the others stay until they are chosen', () => {
  const draft = startRepoint(side, link, wide);
  expect([...draft.chosen.values()]).toEqual(['wide-frame_stock']);
  const height = findNamed(side, 'frame_height')?.id ?? '';
  const chosen = chooseSource(draft, height, 'wide-tall');
  const applied = applyEdit(
    side,
    repointEdit(chosen, side, () => 'fresh'),
  );
  if (!applied.ok) throw new Error(applied.failure.message);
  const values = new DocumentValues(applied.value.document);
  expect(values.show(height)?.shown).toBe('300 mm');
  // What reads it follows, under the same name.
  expect(values.show(findNamed(applied.value.document, 'height')?.id ?? '')?.shown).toBe('300 mm');
  expect(listRecords(applied.value.document, 'links', 'link').map(({ sourceName }) => sourceName)).toEqual(['Loom sizes', 'Wide sizes']);
  expect(findNamed(applied.value.document, 'frame_depth')).toMatchObject({ link: link.id });
  const undone = applyEdit(applied.value.document, applied.value.inverse);
  expect(undone.ok && undone.value.document).toEqual(side);
});

test('a link that has lost all its values is gone', () => {
  const takes = listRecords(side, `${link.id}/takes`, 'take');
  const all = takes.reduce((draft, take) => chooseSource(draft, take.id, 'wide-tall'), startRepoint(side, link, wide));
  const applied = applyEdit(
    side,
    repointEdit(all, side, () => 'fresh'),
  );
  expect(applied.ok && listRecords(applied.value.document, 'links', 'link').map(({ source }) => source)).toEqual(['wide']);
});

test('a choice is taken back, and kinds are told apart', () => {
  const draft = startRepoint(side, link, wide);
  const [take] = listRecords(side, `${link.id}/takes`, 'take');
  if (!take) throw new Error('no take');
  expect(chooseSource(draft, take.id, undefined).chosen.size).toBe(0);
  expect(isAlike(take, offer('x', 1))).toBe(true);
  expect(isAlike(take, { ...offer('x', 1), value: { kind: 'text', value: 'M5' } })).toBe(false);
});
