import { findUndoStacks, type RevertibleEdit } from './undo';

const edit = (key: string, reverts?: string, author = 'ann'): RevertibleEdit => ({
  key,
  author,
  inverse: { type: 'document.rename', name: key },
  ...(reverts === undefined ? {} : { reverts }),
});
const stacks = (...log: RevertibleEdit[]): [string, string] => {
  const { undo, redo } = findUndoStacks(log, 'ann');
  return [undo.map(({ key }) => key).join(), redo.map(({ key }) => key).join()];
};

test.each<[string, readonly RevertibleEdit[], string, string]>([
  ['nothing done', [], '', ''],
  ['two edits', [edit('a'), edit('b')], 'a,b', ''],
  ['an undo', [edit('a'), edit('b'), edit('u', 'b')], 'a', 'u'],
  ['an undo and a redo', [edit('a'), edit('u', 'a'), edit('r', 'u')], 'r', ''],
  ['two undos and one redo', [edit('a'), edit('b'), edit('u', 'b'), edit('v', 'a'), edit('r', 'v')], 'r', 'u'],
  ['a new edit after an undo', [edit('a'), edit('u', 'a'), edit('c')], 'c', ''],
  ['somebody else in between', [edit('a'), edit('x', undefined, 'ben'), edit('b')], 'a,b', ''],
  ['an undo of what is not on top', [edit('a'), edit('b'), edit('u', 'a')], 'a,b', ''],
])('%s', (_, log, undo, redo) => {
  expect(stacks(...log)).toEqual([undo, redo]);
});
