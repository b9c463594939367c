/**
 * A sketch as DXF, the exchange format whose reference its publisher makes public (release R12, ASCII): lines, arcs and
 * circles in millimetres, one entity for each curve, construction geometry left out. R12 knows no units of its own; the
 * comment at the head says which they are.
 */
import type { Curve } from '../geometry';

type Pair = readonly [code: number, value: string | number];

export function writeSketchDxf(curves: readonly Curve[]): string {
  const pairs: Pair[] = [
    [999, 'lengths in millimetres'],
    [0, 'SECTION'],
    [2, 'HEADER'],
    [9, '$ACADVER'],
    [1, 'AC1009'],
    [0, 'ENDSEC'],
    [0, 'SECTION'],
    [2, 'ENTITIES'],
    ...curves.flatMap(entityOf),
    [0, 'ENDSEC'],
    [0, 'EOF'],
  ];
  return pairs.map(([code, value]) => `${code}\r\n${typeof value === 'number' ? decimal(value) : value}\r\n`).join('');
}

/** Layer 0; group codes 10 and 20 the first point, 11 and 21 the second, 40 the radius, 50 and 51 the angles in degrees. */
function entityOf(curve: Curve): Pair[] {
  switch (curve.kind) {
    case 'line':
      return [...head('LINE'), [10, curve.start[0]], [20, curve.start[1]], [11, curve.end[0]], [21, curve.end[1]]];
    case 'circle':
      return [...head('CIRCLE'), [10, curve.centre[0]], [20, curve.centre[1]], [40, curve.radius]];
    case 'arc':
      return [...head('ARC'), [10, curve.centre[0]], [20, curve.centre[1]], [40, curve.radius], [50, angle(curve, curve.start)], [51, angle(curve, curve.end)]];
  }
}

function head(kind: string): Pair[] {
  return [
    [0, kind],
    [8, '0'],
  ];
}

function angle({ centre }: Extract<Curve, { readonly kind: 'arc' }>, [x, y]: readonly [number, number]): number {
  const degrees = (Math.atan2(y - centre[1], x - centre[0]) * 180) / Math.PI;
  return degrees < 0 ? degrees + 360 : degrees;
}

function decimal(value: number): string {
  const text = Number(value.toFixed(9)).toString();
  return text.includes('.') || text.includes('e') ? text : `${text}.0`;
}
