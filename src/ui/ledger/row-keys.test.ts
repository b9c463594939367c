import { readRowKey, rowAt, type KeyStroke, type RowTarget } from './row-keys';

function stroke(keys: string): KeyStroke {
  const parts = keys.split('+');
  const has = (name: string): boolean => parts.slice(0, -1).includes(name);
  return { key: parts.at(-1) ?? '', ctrlKey: has('Ctrl'), metaKey: false, shiftKey: has('Shift'), altKey: has('Alt') };
}

test.each([
  ['Enter', { kind: 'edit', what: 'formula' }],
  ['F2', { kind: 'edit', what: 'formula' }],
  ['Shift+F2', { kind: 'edit', what: 'name' }],
  ['Alt+Enter', { kind: 'details' }],
  ['ArrowDown', { kind: 'go', to: 'next', marks: false }],
  ['Shift+ArrowUp', { kind: 'go', to: 'previous', marks: true }],
  ['End', { kind: 'go', to: 'last', marks: false }],
  ['Alt+ArrowUp', { kind: 'move', by: -1 }],
  ['ArrowLeft', { kind: 'fold', isFolded: true }],
  ['Ctrl+d', { kind: 'fill-down' }],
  ['Ctrl+D', { kind: 'fill-down' }],
  ['Ctrl+a', { kind: 'mark-all' }],
  ['Ctrl+ ', { kind: 'mark' }],
  ['Delete', { kind: 'delete' }],
  ['7', { kind: 'type', text: '7' }],
  ['Shift+(', { kind: 'type', text: '(' }],
  ['直', { kind: 'type', text: '直' }],
  // An accent, or an input method.
  ['Dead', { kind: 'type', text: '' }],
  ['Process', { kind: 'type', text: '' }],
])('%s is the row’s', (keys, action) => {
  expect(readRowKey(stroke(keys))).toEqual(action);
});

test.each(['Tab', 'Ctrl+k', 'Ctrl+z', 'Ctrl+Enter', ' ', 'Shift', 'F10', 'Alt+ArrowLeft', 'Unidentified'])('%s is left to the page', (keys) => {
  expect(readRowKey(stroke(keys))).toBeUndefined();
});

test.each<[RowTarget, string | undefined, string | undefined]>([
  ['next', 'b', undefined],
  ['previous', undefined, 'b'],
  ['page-down', 'c', 'c'],
  ['page-up', 'a', 'a'],
  ['first', 'a', 'a'],
  ['last', 'c', 'c'],
])('%s of three rows', (to, fromFirst, fromLast) => {
  expect([rowAt(['a', 'b', 'c'], 'a', to), rowAt(['a', 'b', 'c'], 'c', to)]).toEqual([fromFirst, fromLast]);
});
