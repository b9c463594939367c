import { SketchBench } from '../../../tests/support/sketch-bench';
import { copyCurves, mirrorCurves, pasteClip } from './copies';
import { offsetCurves } from './offset';
import { chamferCorner, filletCorner, largestFillet } from './corners';
import { extendCurve, splitCurve, trimCurve } from './cutting';
import { findEntity, type Place } from './drawn-shape';

/** A rectangle of 60 by 40 with its corner at (10, 10), fully constrained. */
function box(): { bench: SketchBench; lines: readonly string[] } {
  const bench = new SketchBench();
  const lines = bench.draw('rectangle', [[10, 10], [70, 50]]); // prettier-ignore
  const [a = ''] = corners(bench, lines);
  bench
    .relate('fixed', a)
    .dimension('horizontal', [lines[0] ?? ''], '60 mm')
    .dimension('vertical', [lines[1] ?? ''], '40 mm');
  return { bench, lines };
}

function corners(bench: SketchBench, lines: readonly string[]): string[] {
  return lines.map((id) => {
    const line = bench.entity(id);
    return line?.type === 'line' ? line.start : '';
  });
}

describe('trim', () => {
  test('takes the end of a line up to what crosses it; the line keeps its id', () => {
    const bench = new SketchBench();
    const [long = ''] = bench.draw('line', [[10, 20], [90, 23]]); // prettier-ignore
    bench.draw('line', [[50, 5], [52, 60]]); // prettier-ignore
    bench.change(trimCurve(bench.context, long, [80, 22]));
    const line = bench.entity(long);
    const end = line?.type === 'line' ? bench.solve().points.get(line.end) : undefined;
    expect(bench.curves()).toEqual(['line', 'line']);
    expect(end?.[0]).toBeGreaterThan(50);
    expect(end?.[0]).toBeLessThan(52);
  });

  test('takes the middle out of a line, and both rests stay on one line', () => {
    const bench = new SketchBench();
    const [long = ''] = bench.draw('line', [[10, 20], [90, 24]]); // prettier-ignore
    bench.draw('line', [[40, 5], [41, 60]]); // prettier-ignore
    bench.draw('line', [[60, 5], [62, 60]]); // prettier-ignore
    bench.change(trimCurve(bench.context, long, [50, 22]));
    expect(bench.curves()).toEqual(['line', 'line', 'line', 'line']);
    expect(bench.solve()).toMatchObject({ status: 'solved', redundant: [] });
  });

  test('makes an arc of a circle, and closes the outline with the line that cuts it', () => {
    const bench = new SketchBench();
    const [circle = ''] = bench.draw('circle', [[40, 40], [50, 40]]); // prettier-ignore
    const [line = ''] = bench.draw('line', [[20, 42], [62, 42.3]]); // prettier-ignore
    bench.change(trimCurve(bench.context, circle, [40, 31]));
    const ends = [[22, 42], [61, 42]] as const; // prettier-ignore
    for (const end of ends) bench.change(trimCurve(bench.context, line, end));
    expect(bench.curves()).toEqual(['line', 'arc']);
    // The segment above a chord 2 mm over the centre: r^2 acos(d / r) - d sqrt(r^2 - d^2).
    expect(bench.area()).toBeCloseTo(100 * Math.acos(0.2) - 2 * Math.sqrt(96), 0);
  });

  test('with nothing across takes the whole curve; a circle crossed once is refused', () => {
    const bench = new SketchBench();
    const [line = ''] = bench.draw('line', [[10, 20], [90, 24]]); // prettier-ignore
    bench.change(trimCurve(bench.context, line, [50, 22]));
    expect(bench.curves()).toEqual([]);
    const [circle = ''] = bench.draw('circle', [[40, 40], [50, 40]]); // prettier-ignore
    bench.draw('line', [[40, 42], [40.5, 90]]); // prettier-ignore
    expect(trimCurve(bench.context, circle, [40, 31])).toEqual({ ok: false, failure: 'This circle is crossed in one place only; trimming needs two.' });
  });
});

test('extend lengthens the nearer end to the next curve in its way', () => {
  const bench = new SketchBench();
  const [short = ''] = bench.draw('line', [[10, 20], [30, 22]]); // prettier-ignore
  bench.draw('line', [[60, 5], [61, 60]]); // prettier-ignore
  bench.draw('line', [[80, 5], [81, 60]]); // prettier-ignore
  bench.change(extendCurve(bench.context, short, [29, 22]));
  const line = bench.entity(short);
  expect(line?.type === 'line' ? bench.solve().points.get(line.end)?.[0] : NaN).toBeCloseTo(60.4, 0);
  expect(extendCurve(bench.context, short, [11, 20])).toMatchObject({ ok: false });
});

test('an arc is extended along its circle', () => {
  const bench = new SketchBench();
  const [arc = ''] = bench.draw('arc', [[40, 40], [60, 40], [54, 54]]); // prettier-ignore
  bench.draw('line', [[38, 45], [38.5, 90]]); // prettier-ignore
  bench.change(extendCurve(bench.context, arc, [54, 54]));
  const entity = bench.entity(arc);
  expect(entity?.type === 'arc' ? bench.solve().points.get(entity.end)?.[0] : NaN).toBeCloseTo(38.2, 0);
});

test('split makes two of one, in line with one another', () => {
  const bench = new SketchBench();
  const [line = ''] = bench.draw('line', [[10, 20], [90, 24]]); // prettier-ignore
  bench.change(splitCurve(bench.context, line, [50, 22.1]));
  expect(bench.curves()).toEqual(['line', 'line']);
  expect(bench.solve()).toMatchObject({ status: 'solved', degreesOfFreedom: 5, redundant: [] });
});

describe('corners', () => {
  test('a fillet is tangent to both lines; what was measured to the corner still is', () => {
    const { bench, lines } = box();
    const point = corners(bench, lines)[2] ?? '';
    bench.change(filletCorner(bench.context, point, 8));
    const arc = bench.shape.entities.find((entity) => entity.type === 'arc');
    bench.dimension('radius', [arc?.id ?? ''], '8 mm');
    expect(bench.solve()).toMatchObject({ status: 'solved', degreesOfFreedom: 0, redundant: [], conflicting: [] });
    // A rounded corner takes (1 - pi / 4) r^2 away.
    expect(bench.area()).toBeCloseTo(60 * 40 - (1 - Math.PI / 4) * 64, 6);
  });

  test('all four corners can be rounded, and sizes still change', () => {
    const { bench, lines } = box();
    for (const point of corners(bench, lines)) bench.change(filletCorner(bench.context, point, 5));
    for (const arc of bench.shape.entities.filter((entity) => entity.type === 'arc')) bench.dimension('radius', [arc.id], '5 mm');
    const width = Object.values(bench.document.records).find((record) => record.type === 'parameter' && record.formula.text === '60 mm');
    bench.edit({ type: 'parameter.setFormula', id: width?.id ?? '', formula: { text: '90 mm' } });
    expect(bench.solve()).toMatchObject({ status: 'solved', degreesOfFreedom: 0 });
    expect(bench.area()).toBeCloseTo(90 * 40 - (4 - Math.PI) * 25, 6);
  });

  test('a chamfer is equally far along both lines', () => {
    const { bench, lines } = box();
    bench.change(chamferCorner(bench.context, corners(bench, lines)[2] ?? '', 10, { name: 'bevel', formula: '10 mm' }));
    expect(bench.solve()).toMatchObject({ status: 'solved', degreesOfFreedom: 0, redundant: [] });
    expect(bench.area()).toBeCloseTo(60 * 40 - 50, 6);
  });

  test('too large a radius is refused with the limit', () => {
    const { bench, lines } = box();
    const point = corners(bench, lines)[2] ?? '';
    expect(largestFillet(bench.shape, point)).toBeCloseTo(40, 9);
    expect(filletCorner(bench.context, point, 41)).toEqual({ ok: false, failure: 'A radius between 0 and 40 mm fits this corner.' });
    expect(chamferCorner(bench.context, point, 0)).toMatchObject({ ok: false });
    expect(filletCorner(bench.context, 'nowhere', 1)).toEqual({ ok: false, failure: 'Choose a point where two lines meet.' });
  });
});

describe('mirror', () => {
  test('the image follows when the original changes', () => {
    const bench = new SketchBench();
    const [circle = ''] = bench.draw('circle', [[30, 20], [35, 20]]); // prettier-ignore
    bench.dimension('diameter', [circle], '10 mm');
    bench.change(mirrorCurves(bench.context, [circle], 'y-axis'));
    bench.dimension('horizontal', ['origin', (bench.entity(circle) as { centre: string }).centre], '45 mm');
    const image = bench.shape.entities.filter((entity) => entity.type === 'circle').at(-1);
    const [x] = image?.type === 'circle' ? bench.shape.point(image.centre) : [NaN];
    expect([x, bench.shape.radius(image?.id ?? '')].map((value) => Math.round(value * 1e6) / 1e6)).toEqual([-45, 5]);
  });

  test('half an outline becomes a whole one; points on the line are shared', () => {
    const bench = new SketchBench();
    const half = bench.draw('line', [[0, 10], [30, 10.2], [30.1, 40], [0.3, 40.1]]); // prettier-ignore
    bench.change(mirrorCurves(bench.context, half, 'y-axis'));
    expect(bench.curves()).toHaveLength(6);
    expect(bench.solve().status).toBe('solved');
    expect(bench.area()).toBeCloseTo(60 * 30, -1);
  });

  test('an arc keeps its bulge', () => {
    const bench = new SketchBench();
    const [arc = ''] = bench.draw('arc', [[30, 20], [40, 20], [30, 30]]); // prettier-ignore
    bench.change(mirrorCurves(bench.context, [arc], 'y-axis'));
    const image = bench.shape.entities.filter((entity) => entity.type === 'arc').at(-1);
    if (image?.type !== 'arc') throw new Error('no image');
    expect([bench.shape.point(image.start), bench.shape.point(image.end)].map((p) => p.map(Math.round))).toEqual([[-30, 30], [-40, 20]]); // prettier-ignore
  });

  test('without a line to mirror in is refused', () => {
    const { bench, lines } = box();
    expect(mirrorCurves(bench.context, lines, 'nowhere')).toMatchObject({ ok: false });
    expect(mirrorCurves(bench.context, [], lines[0] ?? '')).toMatchObject({ ok: false });
  });
});

describe('offset', () => {
  test.each<[string, Place, number]>([
    ['outside', [5, 30], 70 * 50],
    ['inside', [40, 30], 50 * 30],
  ])('of a rectangle to the %s is a rectangle that stays beside it', (_, towards, area) => {
    const { bench, lines } = box();
    const before = bench.area();
    bench.change(offsetCurves(bench.context, { ids: lines, towards, distance: 5, value: { name: 'rim', formula: '5 mm' } }));
    expect(bench.solve()).toMatchObject({ status: 'solved', degreesOfFreedom: 0, redundant: [] });
    // Two nested rectangles: the region between them.
    expect(bench.area()).toBeCloseTo(Math.abs(area - before), 6);
    const rim = Object.values(bench.document.records).find((record) => record.type === 'parameter' && record.name === 'rim');
    bench.edit({ type: 'parameter.setFormula', id: rim?.id ?? '', formula: { text: '3 mm' } });
    expect(bench.solve()).toMatchObject({ status: 'solved', conflicting: [] });
  });

  test.each<[string, Place, number]>([
    ['outside', [40, -30], 10 + 4],
    ['inside', [40, 20], 10 - 4],
  ])('of a slot to the %s is a slot about the same centres, held by one value', (_, towards, radius) => {
    const bench = new SketchBench();
    bench.draw('slot', [[20, 20], [60, 20], [60, 30]]); // prettier-ignore
    const slot = bench.curveIds();
    const arc = slot.find((id) => bench.entity(id)?.type === 'arc') ?? '';
    bench.dimension('radius', [arc], '10 mm');
    const before = Object.keys(bench.document.records).length;
    bench.change(offsetCurves(bench.context, { ids: slot, towards, distance: 4, value: { name: 'wall', formula: '4 mm' } }));
    expect(Object.keys(bench.document.records).length).toBeGreaterThan(before);
    const solution = bench.solve();
    expect(solution).toMatchObject({ status: 'solved', redundant: [], conflicting: [] });
    const radii = bench.curveIds().flatMap((id) => (bench.entity(id)?.type === 'arc' && !slot.includes(id) ? [solution.radii.get(id) ?? NaN] : []));
    expect(radii).toHaveLength(2);
    for (const found of radii) expect(found).toBeCloseTo(radius, 6);
    const area = (r: number): number => 2 * r * 40 + Math.PI * r * r;
    expect(bench.area()).toBeCloseTo(Math.abs(area(radius) - area(10)), 5);
  });

  test('of a lone arc keeps its ends on the rays through the ends of the original', () => {
    const bench = new SketchBench();
    const [arc = ''] = bench.draw('arc', [[0, 0], [30, 0], [0, 30]]); // prettier-ignore
    bench.change(offsetCurves(bench.context, { ids: [arc], towards: [40, 40], distance: 5, value: { name: 'gap', formula: '5 mm' } }));
    const copy = bench.curveIds().find((id) => id !== arc && bench.entity(id)?.type === 'arc') ?? '';
    expect(bench.solve().radii.get(copy)).toBeCloseTo(35, 6);
    expect(bench.solve()).toMatchObject({ redundant: [], conflicting: [] });
    expect(offsetCurves(bench.context, { ids: [arc], towards: [3, 3], distance: 31, value: { name: 'x', formula: '31 mm' } })).toMatchObject({ ok: false });
  });

  test('of a circle is a circle about the same centre', () => {
    const bench = new SketchBench();
    const [circle = ''] = bench.draw('circle', [[40, 40], [50, 40]]); // prettier-ignore
    bench.dimension('diameter', [circle], '20 mm');
    bench.change(offsetCurves(bench.context, { ids: [circle], towards: [40, 60], distance: 4, value: { name: 'wall', formula: '4 mm' } }));
    expect(bench.area()).toBeCloseTo(Math.PI * (14 ** 2 - 10 ** 2), 6);
    expect(offsetCurves(bench.context, { ids: [circle], towards: [40, 41], distance: 12, value: { name: 'x', formula: '12 mm' } })).toMatchObject({
      ok: false,
    });
  });
});

test('a copy is pasted beside, with its constraints and dimensions under free names', () => {
  const { bench, lines } = box();
  const clip = copyCurves(bench.context, lines);
  if (!clip) throw new Error('nothing copied');
  const { edit, ids } = pasteClip(bench.context, clip, [100, 0]);
  bench.edit(edit);
  expect(ids).toHaveLength(4);
  expect(bench.area()).toBeCloseTo(2 * 60 * 40, 6);
  const names = Object.values(bench.document.records).flatMap((record) => (record.type === 'parameter' ? record.name : []));
  expect(new Set(names).size).toBe(names.length);
  // The copy is as wide and high as the original, and can be moved.
  expect(bench.solve()).toMatchObject({ status: 'solved', degreesOfFreedom: 2 });
  expect(findEntity(bench.shape, ids[0] ?? '')).toBeDefined();
  expect(copyCurves(bench.context, [])).toBeUndefined();
});

test('symmetric points, and an arc of a given length', () => {
  const bench = new SketchBench();
  const [a = ''] = bench.draw('line', [[10, 20], [44, 29]]); // prettier-ignore
  const line = bench.entity(a);
  if (line?.type !== 'line') throw new Error('no line');
  bench.relate('symmetric', line.start, line.end, 'y-axis');
  const { points } = bench.solve();
  const [p, q] = [points.get(line.start) ?? [NaN, NaN], points.get(line.end) ?? [NaN, NaN]];
  expect(p[0] + q[0]).toBeCloseTo(0, 9);
  expect(p[1]).toBeCloseTo(q[1], 9);

  const round = new SketchBench();
  const [arc = ''] = round.draw('arc', [[40, 40], [60, 40], [40, 61]]); // prettier-ignore
  round.dimension('radius', [arc], '20 mm').dimension('arc-length', [arc], '20 mm * pi');
  const entity = round.entity(arc);
  if (entity?.type !== 'arc') throw new Error('no arc');
  const [s, e, c] = [entity.start, entity.end, entity.centre].map((id) => round.shape.point(id)[0]);
  // Half a turn: the ends face one another across the centre.
  expect(((s ?? NaN) + (e ?? NaN)) / 2).toBeCloseTo(c ?? NaN, 6);
});
