/**
 * Drawings in DXF, read by the `dxf` package: lines, arcs, circles and polylines with straight and bulged
 * segments, in the plane. Everything else in the file is counted and left out.
 */
import { parseString } from 'dxf';
import type { Curve, Point2 } from '@/core/geometry';
import { fail, succeed, type Result } from '@/core/kit';
import { LARGEST_DXF } from './limits';

export interface ReadDrawing {
  /** Millimetres. */
  readonly curves: readonly Curve[];
  /** The unit that the file says it is in; undefined for a file that says none, which is read as millimetres. */
  readonly unit: string | undefined;
  /** How many things of each kind were left out. */
  readonly leftOut: Readonly<Record<string, number>>;
}

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
  const [unit, scale] = UNITS[Number(header['insUnits'])] ?? [undefined, 1];
  const curves: Curve[] = [];
  const leftOut: Record<string, number> = {};
  for (const entity of entities) {
    const made = curvesOf(entity, scale);
    if (made.length === 0) leftOut[entity.type] = (leftOut[entity.type] ?? 0) + 1;
    for (const curve of made) curves.push({ ...curve, id: `c${curves.length}` });
    if (curves.length > MOST_CURVES) return fail(`This drawing has more than ${MOST_CURVES} curves; import a part of it.`);
  }
  if (curves.length === 0) return fail('This drawing has no lines, arcs, circles or polylines.');
  return succeed({ curves, unit, leftOut });
}

/** The public reference of the format has every file end with it: without it, half a drawing would look like a whole one. */
const LAST_GROUP = /(^|[\r\n])\s*0\s*[\r\n]+\s*EOF\s/;
/** Characters from the end in which it is looked for: some programs write a comment or an end-of-file mark after it. */
const TAIL = 400;

/** An entity as the package gives it: which fields there are depends on the file. */
type Entity = Readonly<Record<string, unknown>> & { readonly type: string };

function parse(text: string): Result<{ readonly header: Readonly<Record<string, unknown>>; readonly entities: readonly Entity[] }, string> {
  try {
    const drawing = parseString(text);
    const found = drawing.entities.filter((entity): entity is Entity => typeof entity['type'] === 'string');
    if (!/^\s*0\s*[\r\n]+\s*SECTION/m.test(text)) return fail('This is not a DXF drawing.');
    if (!LAST_GROUP.test(text.slice(-TAIL))) return fail('This DXF drawing is cut off: its last group, EOF, is missing. Save or copy it again.');
    return succeed({ header: drawing.header, entities: found });
  } catch (problem) {
    return fail(`This is not a DXF drawing that can be read (${problem instanceof Error ? problem.message : String(problem)}).`);
  }
}

/** Curves without an id; angles come in radians, counter-clockwise. */
function curvesOf(entity: Entity, scale: number): Curve[] {
  const at = (point: unknown): Point2 => [numberOf(point, 'x') * scale, numberOf(point, 'y') * scale];
  const radius = numberOf(entity, 'r') * scale;
  switch (entity.type) {
    case 'LINE':
      return keep([{ kind: 'line', id: '', start: at(entity['start']), end: at(entity['end']) }]);
    case 'CIRCLE':
      return keep([{ kind: 'circle', id: '', centre: at(entity), radius }]);
    case 'ARC': {
      const centre = at(entity);
      const end = (angle: number): Point2 => [centre[0] + radius * Math.cos(angle), centre[1] + radius * Math.sin(angle)];
      return keep([{ kind: 'arc', id: '', centre, radius, start: end(numberOf(entity, 'startAngle')), end: end(numberOf(entity, 'endAngle')) }]);
    }
    case 'LWPOLYLINE':
    case 'POLYLINE': {
      const given: unknown = entity['vertices'];
      const vertices = (Array.isArray(given) ? given : []).map((vertex: unknown) => ({ at: at(vertex), bulge: numberOf(vertex, 'bulge') || 0 }));
      const isClosed = entity['closed'] === true;
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

/** NaN where there is none: what is made of it is left out. */
function numberOf(data: unknown, key: string): number {
  const value = typeof data === 'object' && data !== null ? (data as Readonly<Record<string, unknown>>)[key] : undefined;
  return typeof value === 'number' ? value : NaN;
}

/** Without what has no size or is not a number. */
function keep(curves: readonly Curve[]): Curve[] {
  return curves.filter((curve) => {
    const numbers = curve.kind === 'circle' ? [...curve.centre, curve.radius] : [...curve.start, ...curve.end, ...(curve.kind === 'arc' ? [curve.radius] : [])];
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
