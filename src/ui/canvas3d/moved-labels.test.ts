import { withMoved, type Shift } from './moved-labels';

test('a text that is moved is remembered, and one that is put back stands by itself', () => {
  const once = withMoved({}, 'a', [40, -10]);
  expect(once).toEqual({ a: [40, -10] });
  expect(withMoved(once, 'a', [3, 4])).toEqual({});
  expect(withMoved(once, 'a', undefined)).toEqual({});
});

test('of very many, those that were moved last are remembered', () => {
  let by: Readonly<Record<string, Shift>> = {};
  for (let i = 0; i < 350; i++) by = withMoved(by, `label ${i}`, [20, 20]);
  expect(Object.keys(by)).toHaveLength(300);
  expect([by['label 49'], by['label 50']]).toEqual([undefined, [20, 20]]);
});
