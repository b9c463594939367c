/**
 * Drawings in DXF, read by the `dxf-parser` package: lines, arcs, circles and polylines with straight and bulged
 * segments, in the plane. Everything else in the file is counted and left out.
 */
import DxfParser, { type IArcEntity, type ICircleEntity, type IEntity, type ILineEntity, type ILwpolylineEntity, type IPolylineEntity } from 'dxf-parser';
import type { Curve, Point2 } from '@/core/geometry';
import { fail, succeed, type Result } from '@/core/kit';

export interface ReadDrawing {
  /** Millimetres. */
  readonly curves: readonly Curve[];
  /** The unit that the file says it is in; undefined for a file that says none, which is read as millimetres. */
  readonly unit: string | undefined;
  /** How many things of each kind were left out. */
  readonly leftOut: Readonly<Record<string, number>>;
}

export const LARGEST_DXF = 20_000_000;
const MOST_CURVES = 4_000;

/** Group code 70 of $INSUNITS, as the public reference of the format numbers units; millimetres in one of each. */
const UNITS: Readonly<Record<number, readonly [name: string, millimetres: number]>> = {
  1: ['inches', 25.4],
  2: ['feet', 304.8],
  4: ['millimetres', 1],
  5: ['centimetres', 10],
  6: ['metres', 1000],
};

export function readDxf(text: string): Result<ReadDrawing, string> {
  if (text.length > LARGEST_DXF) return fail('This drawing is too large: at most 20 MB are read.');
  const parsed = parse(text);
  if (!parsed.ok) return parsed;
  const { header, entities } = parsed.value;
  const known = UNITS[Number(header['$INSUNITS'])];
  const [unit, scale] = known ?? [undefined, 1];
  const curves: Curve[] = [];
  const leftOut: Record<string, number> = {};
  for (const entity of entities) {
    const made = curvesOf(entity, scale, () => `c${curves.length}`);
    if (made.length === 0) leftOut[entity.type] = (leftOut[entity.type] ?? 0) + 1;
    for (const curve of made) curves.push({ ...curve, id: `c${curves.length}` });
    if (curves.length > MOST_CURVES) return fail(`This drawing has more than ${MOST_CURVES} curves; bring in a part of it.`);
  }
  if (curves.length === 0) return fail('This drawing has no lines, arcs, circles or polylines.');
  return succeed({ curves, unit, leftOut });
}

function parse(text: string): Result<{ readonly header: Readonly<Record<string, unknown>>; readonly entities: readonly IEntity[] }, string> {
  try {
    const drawing = new DxfParser().parseSync(text);
    if (!drawing || !Array.isArray(drawing.entities)) return fail('This is not a DXF drawing.');
    // A file without a header has none, whatever the types of the package say.
    const header: Readonly<Record<string, unknown>> | undefined = drawing.header;
    return succeed({ header: header ?? {}, entities: drawing.entities });
  } catch (problem) {
    return fail(`This is not a DXF drawing that can be read (${problem instanceof Error ? problem.message : String(problem)}).`);
  }
}

function curvesOf(entity: IEntity, scale: number, nextId: () => string): Curve[] {
  const at = (point: { readonly x: number; readonly y: number }): Point2 => [point.x * scale, point.y * scale];
  switch (entity.type) {
    case 'LINE': {
      const [start, end] = (entity as ILineEntity).vertices;
      return start && end ? keep([{ kind: 'line', id: nextId(), start: at(start), end: at(end) }]) : [];
    }
    case 'CIRCLE': {
      const { center, radius } = entity as ICircleEntity;
      return keep([{ kind: 'circle', id: nextId(), centre: at(center), radius: radius * scale }]);
    }
    case 'ARC': {
      // The package gives angles in radians, counter-clockwise.
      const { center, radius, startAngle, endAngle } = entity as IArcEntity;
      const centre = at(center);
      const end = (angle: number): Point2 => [centre[0] + radius * scale * Math.cos(angle), centre[1] + radius * scale * Math.sin(angle)];
      return keep([{ kind: 'arc', id: nextId(), centre, radius: radius * scale, start: end(startAngle), end: end(endAngle) }]);
    }
    case 'LWPOLYLINE':
    case 'POLYLINE': {
      const polyline = entity as ILwpolylineEntity & IPolylineEntity;
      const vertices = polyline.vertices.map((vertex) => ({ at: at(vertex), bulge: 'bulge' in vertex ? (vertex.bulge ?? 0) : 0 }));
      const isClosed = Boolean(polyline.shape);
      return keep(
        vertices.flatMap((vertex, i): Curve[] => {
          const next = vertices[i + 1] ?? (isClosed ? vertices[0] : undefined);
          return next ? [segment(vertex.at, next.at, vertex.bulge)] : [];
        }),
      );
    }
    default:
      return [];
  }
}

/** Without what has no size or is not a number. */
function keep(curves: readonly Curve[]): Curve[] {
  return curves.filter((curve) => {
    const numbers = curve.kind === 'circle' ? [...curve.centre, curve.radius] : [...curve.start, ...curve.end];
    if (!numbers.every((value) => Number.isFinite(value) && Math.abs(value) <= 1e7)) return false;
    return curve.kind === 'circle'
      ? curve.radius > 1e-6
      : curve.kind === 'arc' || Math.hypot(curve.end[0] - curve.start[0], curve.end[1] - curve.start[1]) > 1e-6;
  });
}

/** The bulge of a segment is the tangent of a quarter of the angle that it turns by; positive to the left. */
function segment(start: Point2, end: Point2, bulge: number): Curve {
  if (Math.abs(bulge) < 1e-9) return { kind: 'line', id: '', start, end };
  const [dx, dy] = [end[0] - start[0], end[1] - start[1]];
  // From the middle of the chord to the centre, along its left normal.
  const off = (1 - bulge * bulge) / (4 * bulge);
  const centre: Point2 = [(start[0] + end[0]) / 2 - dy * off, (start[1] + end[1]) / 2 + dx * off];
  const radius = Math.hypot(start[0] - centre[0], start[1] - centre[1]);
  const [from, to] = bulge > 0 ? [start, end] : [end, start];
  return { kind: 'arc', id: '', centre, radius, start: from, end: to };
}
