/**
 * Closed forms: second moments of rectangle, triangle, circle, semicircle and quarter circle as in any table of
 * section properties (common practice; the formulas are derived, not copied from a source).
 */
import { findProfiles, measureSection, type Curve, type Point2 } from '.';

const line = (id: string, start: Point2, end: Point2): Curve => ({ kind: 'line', id, start, end });
const polygon = (...points: Point2[]): Curve[] => points.map((point, i) => line(`l${i}`, point, points[(i + 1) % points.length] ?? point));
const measure = (curves: readonly Curve[]) => {
  const { profiles, problems } = findProfiles(curves);
  expect(problems).toEqual([]);
  return measureSection(profiles);
};

test('a rectangle: b h³ / 12 about its centroid, wherever it lies', () => {
  const [b, h, x, y] = [30, 8, 115, -42];
  const found = measure(polygon([x, y], [x + b, y], [x + b, y + h], [x, y + h]));
  expect(found.area).toBeCloseTo(b * h, 9);
  expect(found.perimeter).toBeCloseTo(2 * (b + h), 9);
  expect(found.centroid[0]).toBeCloseTo(x + b / 2, 9);
  expect(found.centroid[1]).toBeCloseTo(y + h / 2, 9);
  expect(found.secondMomentX / ((b * h ** 3) / 12)).toBeCloseTo(1, 9);
  expect(found.secondMomentY / ((h * b ** 3) / 12)).toBeCloseTo(1, 9);
  expect(found.productMoment).toBeCloseTo(0, 5);
});

test('a right triangle: b h³ / 36, and - b² h² / 72 for the product', () => {
  const [b, h] = [12, 9];
  const found = measure(polygon([0, 0], [b, 0], [0, h]));
  expect(found.secondMomentX).toBeCloseTo((b * h ** 3) / 36, 9);
  expect(found.secondMomentY).toBeCloseTo((h * b ** 3) / 36, 9);
  expect(found.productMoment).toBeCloseTo(-(b * b * h * h) / 72, 9);
});

test('a semicircle: centroid at 4 r / (3 pi)', () => {
  const r = 7;
  const arc: Curve = { kind: 'arc', id: 'arc', start: [r, 0], end: [-r, 0], centre: [0, 0], radius: r };
  const found = measure([arc, line('base', [-r, 0], [r, 0])]);
  expect(found.centroid[1]).toBeCloseTo((4 * r) / (3 * Math.PI), 12);
  expect(found.secondMomentX).toBeCloseTo(r ** 4 * (Math.PI / 8 - 8 / (9 * Math.PI)), 9);
  expect(found.secondMomentY).toBeCloseTo((Math.PI * r ** 4) / 8, 9);
});

test('a quarter of a circle off the origin keeps its product of moments', () => {
  const [r, cx, cy] = [5, 31, 17];
  const arc: Curve = { kind: 'arc', id: 'arc', start: [cx + r, cy], end: [cx, cy + r], centre: [cx, cy], radius: r };
  const found = measure([arc, line('up', [cx, cy + r], [cx, cy]), line('across', [cx, cy], [cx + r, cy])]);
  expect(found.secondMomentX).toBeCloseTo(r ** 4 * (Math.PI / 16 - 4 / (9 * Math.PI)), 8);
  expect(found.productMoment).toBeCloseTo(r ** 4 * (1 / 8 - 4 / (9 * Math.PI)), 8);
});

test('a ring: the difference of two circles', () => {
  const found = measure([
    { kind: 'circle', id: 'outer', centre: [3, 4], radius: 10 },
    { kind: 'circle', id: 'inner', centre: [3, 4], radius: 6 },
  ]);
  expect(found.area).toBeCloseTo(64 * Math.PI, 9);
  expect(found.perimeter).toBeCloseTo(32 * Math.PI, 9);
  expect(found.secondMomentX).toBeCloseTo((Math.PI / 4) * (10 ** 4 - 6 ** 4), 7);
});
