import fc from 'fast-check';
import { crosses, placeLabels, type Pixel, type Room, type WishedLabel } from './place-labels';

const ROOM: Room = { left: 0, top: 60, right: 700, bottom: 640 };
const label = (x: number, y: number, width = 60): WishedLabel => ({ at: [x, y], width, height: 22 });

const overlapping = (labels: readonly WishedLabel[], at: readonly Pixel[]): number[] =>
  labels.flatMap((a, i) =>
    labels.slice(i + 1).flatMap((b, k) => {
      const [p = [0, 0], q = [0, 0]] = [at[i], at[i + 1 + k]];
      return Math.abs(p[0] - q[0]) < (a.width + b.width) / 2 && Math.abs(p[1] - q[1]) < (a.height + b.height) / 2 ? [i] : [];
    }),
  );

test('labels that are free stay where they are wished', () => {
  const labels = [label(100, 100), label(300, 100), label(100, 200)];
  expect(placeLabels(labels, ROOM)).toEqual(labels.map(({ at }) => at));
});

test('the second of two in one place gives way, and both give way to one that is held', () => {
  const [first, second] = placeLabels([label(100, 200), label(100, 200)], ROOM);
  expect(first).toEqual([100, 200]);
  expect(Math.hypot((second?.[0] ?? 0) - 100, (second?.[1] ?? 0) - 200)).toBeLessThan(60);
  const held = placeLabels([label(100, 200), { ...label(100, 200), isHeld: true }], ROOM);
  expect(held[1]).toEqual([100, 200]);
  expect(held[0]).not.toEqual([100, 200]);
});

test('a label beyond the edge is drawn at the edge', () => {
  expect(placeLabels([label(-500, 2000)], ROOM)).toEqual([[30, 629]]);
});

test('no label lies over another or beyond the edge, and the same wishes give the same places', () => {
  const wishes = fc.array(
    fc.record({ x: fc.integer({ min: -100, max: 800 }), y: fc.integer({ min: -100, max: 800 }), width: fc.integer({ min: 30, max: 140 }) }),
    { maxLength: 24 },
  );
  fc.assert(
    fc.property(wishes, (found) => {
      const labels = found.map(({ x, y, width }) => label(x, y, width));
      const at = placeLabels(labels, ROOM);
      expect(overlapping(labels, at)).toEqual([]);
      at.forEach(([x, y], i) => {
        const half = (labels[i]?.width ?? 0) / 2;
        expect(x - half >= ROOM.left && x + half <= ROOM.right && y - 11 >= ROOM.top && y + 11 <= ROOM.bottom).toBe(true);
      });
      expect(placeLabels(labels, ROOM)).toEqual(at);
    }),
    { numRuns: 300 },
  );
});

test('a label keeps off lines where there is room near by, and stays on them where there is none', () => {
  const line = [
    [0, 200],
    [700, 200],
  ] as const;
  const [off] = placeLabels([label(100, 200)], ROOM, { boxes: [], lines: [line] });
  expect(off?.[0]).toBe(100);
  expect(Math.abs((off?.[1] ?? 0) - 200)).toBeGreaterThan(11);
  const grid = Array.from({ length: 80 }, (_, i) => [[0, 8 * i] as const, [700, 8 * i] as const] as const);
  expect(placeLabels([label(100, 200)], ROOM, { boxes: [], lines: grid })).toEqual([[100, 200]]);
});

test('a label is never put over a mark', () => {
  const mark: WishedLabel = { at: [100, 200], width: 18, height: 18 };
  const [at] = placeLabels([label(100, 200)], ROOM, { boxes: [mark], lines: [] });
  expect(Math.abs((at?.[0] ?? 0) - 100) >= 39 || Math.abs((at?.[1] ?? 0) - 200) >= 20).toBe(true);
});

test('a line crosses a label exactly where it has a point within it', () => {
  const place = fc.tuple(fc.integer({ min: -60, max: 60 }), fc.integer({ min: -60, max: 60 }));
  fc.assert(
    fc.property(place, place, (a, b) => {
      const size = { width: 40, height: 20 };
      const isWithin = Array.from({ length: 2001 }, (_, i) => i / 2000).some(
        (t) => Math.abs(a[0] + t * (b[0] - a[0])) < 19.9 && Math.abs(a[1] + t * (b[1] - a[1])) < 9.9,
      );
      if (isWithin) expect(crosses(size, [0, 0], a, b)).toBe(true);
      if (!crosses({ width: 40.2, height: 20.2 }, [0, 0], a, b)) expect(isWithin).toBe(false);
    }),
  );
});
