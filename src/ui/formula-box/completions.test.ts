import { DocumentValues } from '@/core/document';
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
