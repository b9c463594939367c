import { isFound, likelyGeometry } from './likely-geometry';

const EDGES = [
  'edge[block/end(l0) | block/side(l1)]',
  'edge[block/end(l0) | block/side(l2)]',
  'edge[block/side(l1) | block/side(l2)]',
  'edge[hole/wall(p1) | lid/end(q0)]',
];

test('an edge whose one face is gone is looked for along the other', () => {
  expect(likelyGeometry('edge[block/end(l0) | block/side(l9)]', EDGES)).toEqual(EDGES.slice(0, 3));
  expect(likelyGeometry('edge[block/side(l2) | gone/side(x)]', EDGES)).toEqual([EDGES[1], EDGES[2]]);
});

test('a face is looked for among faces of the same step, pieces of it first', () => {
  const faces = ['block/side(l1)#1', 'block/side(l2)', 'block/end(l0)', 'lid/side(l1)'];
  expect(likelyGeometry('block/side(l1)', [...faces, ...EDGES])).toEqual(['block/side(l1)#1', 'block/side(l2)']);
});

test('what has nothing in common is not offered', () => {
  expect(likelyGeometry('edge[gone/end(a) | gone/side(b)]', EDGES)).toEqual([]);
});

test('a piece is found by its whole and the other way round, another face is not', () => {
  expect(isFound('block/side(l1)', ['block/side(l1)#0'])).toBe(true);
  expect(isFound('edge[block/side(l1)#1 | lid/end(q0)]', ['edge[block/side(l1) | lid/end(q0)]'])).toBe(true);
  expect(isFound('block/side(l1)', ['block/side(l12)'])).toBe(false);
});
