import { demoDocument } from '../../../tests/support/demo';
import { previewRename } from './preview-rename';

test('a rename tells every formula that it rewrites, before it is made', () => {
  const { refusal, changes } = previewRename(demoDocument('Loom sizes'), 'weaving-width', 'weave');
  expect(refusal).toBeUndefined();
  expect(changes.find(({ name }) => name === 'inner_width')).toMatchObject({ before: 'weaving_width + 2 * side_gap', after: 'weave + 2 * side_gap' });
});

test('a name that cannot be had is refused with its reason, and a rename that nothing reads changes nothing else', () => {
  expect(previewRename(demoDocument('Loom sizes'), 'weaving-width', 'teeth').refusal).toContain('teeth');
  expect(previewRename(demoDocument('Loom sizes'), 'weaving-width', 'a b').refusal).toBeDefined();
  const { changes } = previewRename(demoDocument('Loom sizes'), 'dents', 'slits');
  expect(changes).toEqual([]);
});
