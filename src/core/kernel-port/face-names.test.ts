import fc from 'fast-check';
import { facesIn, findPieces, mergeNames, presentFaces, readEdge, readPiece, tellApart, wholeName, writeEdge, writePiece, type PieceName } from '.';

const face = fc.constantFrom('block/end(a)', 'block/side(b)', 'row/3:groove/side(c)', 'holes/p-at1:holes/side(wall)', 'twin/1:block/side(b)', 'soft/round(k2)');
const piece: fc.Arbitrary<PieceName> = fc.record({
  whole: face,
  told: fc.uniqueArray(face, { maxLength: 3 }).map((names) => [...names].sort()),
  rank: fc.option(fc.nat({ max: 12 }), { nil: undefined }),
});

test('names are read as they are written, and are whole without what tells pieces', () => {
  fc.assert(
    fc.property(piece, piece, fc.uniqueArray(face, { maxLength: 2 }), (a, b, ends) => {
      expect(readPiece(writePiece(a))).toEqual(a);
      expect(wholeName(writePiece(a))).toBe(a.whole);
      const name = writeEdge({ faces: [a, b], ends: { whole: '', told: ends, rank: undefined } });
      expect(readEdge(name)?.ends.told).toEqual([...ends].sort());
      expect(new Set(readEdge(name)?.faces.map(writePiece))).toEqual(new Set([writePiece(a), writePiece(b)]));
      expect(wholeName(name)).toBe(
        writeEdge({ faces: [a, b].map(({ whole }) => ({ whole, told: [], rank: undefined })), ends: { whole: '', told: [], rank: undefined } }),
      );
    }),
  );
});

test('a face is no edge, and names of older references are ranks', () => {
  expect(readEdge('block/end(a)')).toBeUndefined();
  expect(readPiece('block/end(a)#2')).toEqual({ whole: 'block/end(a)', told: [], rank: 2 });
  expect(readEdge('edge[block/end(a)#1 | block/side(b)]')?.faces.map(({ rank }) => rank)).toEqual([1, undefined]);
});

const BLOCK = new Set(['block']);
const sets = (...lists: readonly (readonly string[])[]): ReadonlySet<string>[] => lists.map((list) => new Set(list));

test('pieces are told by what other steps made, where that is enough', () => {
  const [left, right] = [
    ['block/side(west)', 'block/side(south)', 'groove/side(1)'],
    ['block/side(east)', 'block/side(south)', 'groove/side(2)'],
  ];
  expect(tellApart(BLOCK, sets(left, right))).toEqual([['groove/side(1)'], ['groove/side(2)']]);
  // Where they are not, by the face's own step too; where nothing is, by nothing.
  expect(tellApart(BLOCK, sets(['block/side(west)', 'x/y'], ['block/side(east)', 'x/y']))).toEqual([['block/side(west)'], ['block/side(east)']]);
  expect(tellApart(BLOCK, sets(['x/y'], ['x/y']))).toEqual([[], []]);
  expect(tellApart(BLOCK, sets(['x/y'], ['x/y', 'z/w']))).toEqual([[], []]);
});

test('each of several pieces finds itself and no other by what tells it', () => {
  const neighbours = fc.array(fc.uniqueArray(face, { minLength: 1, maxLength: 5 }), { minLength: 2, maxLength: 5 });
  fc.assert(
    fc.property(neighbours, (lists) => {
      const told = tellApart(BLOCK, sets(...lists));
      fc.pre(told.some((names) => names.length > 0));
      const pieces = lists.map((list, index) => ({ index, neighbours: () => new Set(list) }));
      const present = presentFaces(lists.flat());
      told.forEach((names, index) => {
        expect(findPieces({ whole: 'block/top', told: names, rank: undefined }, pieces, present).map((one) => one.index)).toEqual([index]);
      });
    }),
  );
});

test('what several faces became answers to each of their names, to no more than a few', () => {
  const merged = mergeNames(['block/end(a)', 'boss/end(b){x/side(c)}', 'block/end(a)']);
  expect(merged).toBe('block/end(a) = boss/end(b)');
  expect(facesIn(writePiece({ whole: merged, told: ['x/side(c)'], rank: undefined }))).toEqual(['block/end(a)', 'boss/end(b)']);
  expect(mergeNames([merged, 'cap/end(d)'])).toBe('block/end(a) = boss/end(b) = cap/end(d)');
  expect(facesIn(mergeNames(Array.from({ length: 50 }, (_, i) => `row/${i}:boss/end(b)`)))).toHaveLength(8);
});
