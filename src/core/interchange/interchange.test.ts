/** Written drawings, read back by a reader of somebody else's: dxf-parser for DXF; the numbers of the paths for SVG. */
import DxfParser from 'dxf-parser';
import { SketchBench } from '../../../tests/support/sketch-bench';
import { toCurve } from '../drawing';
import type { Curve } from '../geometry';
import { boxOf } from './curve-box';
import { writeSketchDxf, writeSketchSvg } from '.';

function slotWithHole(): Curve[] {
  const bench = new SketchBench();
  const [head = ''] = bench.draw('slot', [[20, 20], [60, 20], [40, 30]]); // prettier-ignore
  bench.draw('circle', [[20, 20], [24, 20]]); // prettier-ignore
  bench.draw('line', [[0, 50], [10, 50]], { isConstruction: true }); // prettier-ignore
  bench.dimension('radius', [head], '10 mm');
  const { shape } = bench;
  return shape.entities.flatMap((entity) => ('isConstruction' in entity && entity.isConstruction === true ? [] : (toCurve(shape, entity) ?? [])));
}

/** Length of the outlines that a DXF file holds, from its own numbers. */
function lengthIn(text: string): { readonly kinds: string[]; readonly length: number } {
  const entities = new DxfParser().parseSync(text)?.entities ?? [];
  let length = 0;
  for (const entity of entities) {
    if ('vertices' in entity && Array.isArray(entity.vertices)) {
      const [a, b] = entity.vertices as { x: number; y: number }[];
      length += Math.hypot((b?.x ?? NaN) - (a?.x ?? NaN), (b?.y ?? NaN) - (a?.y ?? NaN));
    } else if ('radius' in entity && typeof entity.radius === 'number') {
      const { startAngle, endAngle } = entity as { startAngle?: number; endAngle?: number };
      const sweep = startAngle === undefined || endAngle === undefined ? 2 * Math.PI : (endAngle - startAngle + 4 * Math.PI) % (2 * Math.PI);
      length += entity.radius * sweep;
    }
  }
  return { kinds: entities.map(({ type }) => type).sort(), length };
}

test('a DXF file read by another reader has every curve, as long as it was drawn', () => {
  const { kinds, length } = lengthIn(writeSketchDxf(slotWithHole()));
  expect(kinds).toEqual(['ARC', 'ARC', 'CIRCLE', 'LINE', 'LINE']);
  // Two straight sides of 40, two half circles of radius 10, a hole of radius 4.
  expect(length).toBeCloseTo(2 * 40 + 2 * Math.PI * 10 + 2 * Math.PI * 4, 6);
});

test('arcs run counter-clockwise in the file as on the canvas', () => {
  const arc: Curve = { kind: 'arc', id: 'a', centre: [0, 0], radius: 10, start: [0, -10], end: [-10, 0] };
  const [entity] = new DxfParser().parseSync(writeSketchDxf([arc]))?.entities ?? [];
  const angles = ['startAngle', 'endAngle'].map((key) => Number(Reflect.get(entity ?? {}, key)));
  expect(angles.map((angle) => Math.round((angle * 180) / Math.PI))).toEqual([270, 180]);
});

test('an empty sketch is a readable file', () => {
  expect(new DxfParser().parseSync(writeSketchDxf([]))?.entities).toEqual([]);
  expect(writeSketchSvg('Nothing', [])).toContain('viewBox="0 0 2 2"');
});

test('an SVG is true to size, with the plane the right way up and names that cannot break it', () => {
  const svg = writeSketchSvg('Pawl <1> & 2', slotWithHole());
  expect(svg).toContain('width="62mm" height="22mm"');
  expect(svg).toContain('<title>Pawl &lt;1&gt; &amp; 2</title>');
  expect(svg.match(/<path /g)).toHaveLength(5);
  const up: Curve = { kind: 'line', id: 'up', start: [0, 0], end: [0, 10] };
  expect(writeSketchSvg('Up', [up])).toContain('d="M 1 11 L 1 1"');
});

test('the box of an arc reaches as far as the arc, not as its circle', () => {
  const quarter: Curve = { kind: 'arc', id: 'q', centre: [0, 0], radius: 10, start: [10, 0], end: [0, 10] };
  expect(boxOf([quarter])).toEqual({ min: [0, 0], max: [10, 10] });
  const over: Curve = { kind: 'arc', id: 'o', centre: [0, 0], radius: 10, start: [8, 6], end: [-8, 6] };
  expect(boxOf([over])).toEqual({ min: [-8, 6], max: [8, 10] });
});
