import { createDocument, DocumentValues, type Edit } from '@/core/document';
import { edited } from '../../../tests/support/demo';
import { findLooseEnds } from '.';

const add = (name: string, text: string, kind = 'length'): Edit => ({
  type: 'parameter.add',
  parameter: { type: 'parameter', id: name, name, formula: { text }, kind, offered: true },
});
const ends = (edits: readonly Edit[], surroundings = {}) =>
  findLooseEnds(new DocumentValues(edited(createDocument('d', 'master', 'D'), ...edits)), surroundings).map(({ kind, message }) => `${kind}: ${message}`);

test('a tie that suggests itself but would make a circle is told as one', () => {
  // The gap is typed; the width comes back to it through others.
  const values = [add('width', '424 mm'), add('half', 'width / 2'), add('whole', 'half * 2')];
  expect(ends(values)).toContain('near-circle: width equals whole, which follows from it through others: tied to it, it would depend on itself.');
});

test('a plain copy of a value is no circle', () => {
  expect(ends([add('width', '424 mm'), add('length', 'width')]).filter((end) => end.startsWith('near-circle'))).toEqual([]);
});

test('a value that is behind and a guard that is broken are loose ends', () => {
  const guard: Edit = {
    type: 'guard.put',
    guard: { type: 'guard', id: 'g', condition: { text: 'width >= 500 mm' }, message: 'Too narrow.', severity: 'error' },
  };
  const behind = [{ id: 'width', name: 'width', before: '424 mm', after: '504 mm' }];
  const found = ends([add('width', '424 mm'), guard], { behind });
  expect(found).toContain('behind: width is 424 mm here and 504 mm at its source.');
  expect(found).toContain('broken-guard: A guard is broken: Too narrow.');
});
