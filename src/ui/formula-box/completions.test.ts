import { DocumentValues, findNamed } from '@/core/document';
import { demoDocument, edited } from '../../../tests/support/demo';
import { findCompletions } from './completions';

const sizes = demoDocument('Loom sizes');
const values = new DocumentValues(sizes);
const labels = (word: string, isAfterNumber = false, of = values) => findCompletions(of, word, isAfterNumber).map(({ label }) => label);

test('names match inside too, with their present values', () => {
  expect(labels('width')).toEqual(expect.arrayContaining(['weaving_width', 'inner_width']));
  expect(findCompletions(values, 'inner_w', false)[0]).toMatchObject({ label: 'inner_width', detail: '424 mm', insert: 'inner_width' });
});

test('pinned values come first, but a name that is typed out comes before them', () => {
  const pinned = edited(
    sizes,
    { type: 'parameter.update', id: 'beam-dia', changes: { pinned: true } },
    { type: 'parameter.add', parameter: { type: 'parameter', id: 'b', name: 'b', formula: { text: '5 mm' }, kind: 'length' } },
  );
  const now = new DocumentValues(pinned);
  expect(labels('be', false, now)[0]).toBe('beam_dia');
  expect(labels('b', false, now)[0]).toBe('b');
});

test('functions come with their signature, constants after what is asked for', () => {
  expect(findCompletions(values, 'sqr', false).find(({ label }) => label === 'sqrt')).toMatchObject({ kind: 'function', insert: 'sqrt(' });
  expect(labels('p')).toContain('pi');
  expect(labels('')).not.toContain('pi');
});

test('after a number units are offered, the one typed out first', () => {
  expect(labels('m', true)[0]).toBe('m');
  expect(labels('mm', true)[0]).toBe('mm');
  expect(labels('in', true)).not.toContain('inner_width');
});

test('of names that match alike, those near in use come first', () => {
  const side = new DocumentValues(demoDocument('Side frame'));
  const mortise = findNamed(side.document, 'mortise_height')?.id;
  const ranked = (forId?: string) => findCompletions(side, 'de', false, undefined, forId).map(({ label }) => label);
  // Beside the mortise's height stands its depth; without a place, the outline's depth comes first.
  expect(ranked().indexOf('depth')).toBeLessThan(ranked().indexOf('mortise_depth'));
  const byWord = findCompletions(side, 'mort', false, undefined, mortise).map(({ label }) => label);
  expect(byWord.indexOf('mortise_depth')).toBeGreaterThanOrEqual(0);
  const near = findCompletions(side, 'frame', false, undefined, findNamed(side.document, 'depth')?.id).map(({ label }) => label);
  expect(near[0]).toBe('frame_depth');
});

test('values of other documents come after one’s own, under the name that they would have, and only once something is typed', () => {
  const value = {
    document: 'rail',
    documentName: 'Cross rail',
    revision: 1,
    hash: '',
    parameter: 'p',
    name: 'end_hole',
    shown: '6.6 mm',
    isOffered: true,
  } as const;
  const near = () => [{ value: { ...value, value: { kind: 'quantity', dimension: 'length=1', value: 66_000, unit: 'mm' } as const }, alias: 'rail_end_hole' }];
  expect(findCompletions(values, 'end_h', false, near).at(-1)).toMatchObject({ label: 'rail_end_hole', detail: '6.6 mm, links Cross rail' });
  expect(findCompletions(values, '', false, near).some(({ near: link }) => link)).toBe(false);
});
