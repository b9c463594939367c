/** Where the lines of a dimension are drawn. Millimetres in the sketch plane. */
import type { SketchDimension } from '@/core/document';
import { angleAt, sweepBetween, type DrawnShape, type Place } from '@/core/drawing';

export interface DimensionFigure {
  /** Thin lines from the geometry to the dimension line. */
  readonly witness: readonly (readonly [Place, Place])[];
  /** The dimension line itself, with a tick at both ends. */
  readonly line: readonly Place[];
}

export function drawDimension(shape: DrawnShape, { kind, on, at }: Pick<SketchDimension, 'kind' | 'on' | 'at'>): DimensionFigure {
  const [first = '', second = ''] = on;
  const entity = shape.entities.find((candidate) => candidate.id === first);
  const ends = entity?.type === 'line' && on.length === 1 ? [entity.start, entity.end] : on;
  const [p, q] = [shape.point(ends[0] ?? ''), shape.point(ends[1] ?? '')];
  switch (kind) {
    case 'horizontal':
      return between(p, q, [p[0], at[1]], [q[0], at[1]]);
    case 'vertical':
      return between(p, q, [at[0], p[1]], [at[0], q[1]]);
    case 'radius':
    case 'diameter':
      return leader(shape, first, at, kind === 'diameter');
    case 'arc-length':
      return beside(shape, first, at);
    case 'angle':
      return angle(shape, first, second, at);
    case 'length': {
      if (second === 'x-axis') return along(p, [p[0], 0], at);
      if (second === 'y-axis') return along(p, [0, p[1]], at);
      const line = shape.entities.find((candidate) => candidate.id === second);
      if (line?.type === 'line') {
        const foot = footOn(p, shape.point(line.start), shape.point(line.end));
        return along(p, foot, at);
      }
      return along(p, q, at);
    }
  }
}

function between(p: Place, q: Place, a: Place, b: Place): DimensionFigure {
  return {
    witness: [
      [p, a],
      [q, b],
    ],
    line: [a, b],
  };
}

/** Beside the stretch from p to q, as far off as the text. */
function along(p: Place, q: Place, at: Place): DimensionFigure {
  const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
  const length = Math.hypot(dx, dy) || 1;
  const [nx, ny] = [-dy / length, dx / length];
  const off = (at[0] - p[0]) * nx + (at[1] - p[1]) * ny;
  return between(p, q, [p[0] + nx * off, p[1] + ny * off], [q[0] + nx * off, q[1] + ny * off]);
}

function leader(shape: DrawnShape, id: string, at: Place, isThrough: boolean): DimensionFigure {
  const round = shape.entities.find((candidate) => candidate.id === id);
  if (round?.type !== 'circle' && round?.type !== 'arc') return { witness: [], line: [] };
  const [cx, cy] = shape.point(round.centre);
  const r = shape.radius(id);
  const distance = Math.hypot(at[0] - cx, at[1] - cy);
  const [ux, uy] = distance > 1e-9 ? [(at[0] - cx) / distance, (at[1] - cy) / distance] : [Math.SQRT1_2, Math.SQRT1_2];
  const rim: Place = [cx + ux * r, cy + uy * r];
  const start: Place = isThrough ? [cx - ux * r, cy - uy * r] : [cx, cy];
  return { witness: distance > r ? [[rim, at]] : [], line: [start, rim] };
}

/** Along an arc, as far out as the text. */
function beside(shape: DrawnShape, id: string, at: Place): DimensionFigure {
  const arc = shape.entities.find((candidate) => candidate.id === id);
  if (arc?.type !== 'arc') return { witness: [], line: [] };
  const [cx, cy] = shape.point(arc.centre);
  const radius = Math.hypot(at[0] - cx, at[1] - cy);
  const from = angleAt(shape, arc.centre, arc.start);
  const sweep = sweepBetween(from, angleAt(shape, arc.centre, arc.end));
  const line = Array.from({ length: 25 }, (_, i): Place => {
    const direction = from + (sweep * i) / 24;
    return [cx + radius * Math.cos(direction), cy + radius * Math.sin(direction)];
  });
  const [first = at, last = at] = [line[0], line.at(-1)];
  return {
    witness: [
      [shape.point(arc.start), first],
      [shape.point(arc.end), last],
    ],
    line,
  };
}

function angle(shape: DrawnShape, first: string, second: string, at: Place): DimensionFigure {
  const ends = [first, second].map((id) => {
    if (id === 'x-axis') return [[0, 0], [1, 0]] as const; // oxfmt-ignore
    if (id === 'y-axis') return [[0, 0], [0, 1]] as const; // oxfmt-ignore
    const line = shape.entities.find((candidate) => candidate.id === id);
    return line?.type === 'line' ? ([shape.point(line.start), shape.point(line.end)] as const) : undefined;
  });
  const [a, b] = ends;
  if (!a || !b) return { witness: [], line: [] };
  const corner = meet(a[0], a[1], b[0], b[1]);
  if (!corner) return { witness: [], line: [] };
  const radius = Math.hypot(at[0] - corner[0], at[1] - corner[1]);
  const from = Math.atan2(a[1][1] - a[0][1], a[1][0] - a[0][0]);
  const turn = Math.atan2(b[1][1] - b[0][1], b[1][0] - b[0][0]) - from;
  const sweep = turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI));
  // The angle is measured at the corner between the two directions, or between both turned round.
  const toLabel = Math.atan2(at[1] - corner[1], at[0] - corner[0]);
  const isTurned = Math.cos(toLabel - (from + sweep / 2)) < 0;
  const start = isTurned ? from + Math.PI : from;
  const steps = 24;
  const line = Array.from({ length: steps + 1 }, (_, i): Place => {
    const direction = start + (sweep * i) / steps;
    return [corner[0] + radius * Math.cos(direction), corner[1] + radius * Math.sin(direction)];
  });
  return { witness: [], line };
}

function meet(a: Place, b: Place, c: Place, d: Place): Place | undefined {
  const cross = (b[0] - a[0]) * (d[1] - c[1]) - (b[1] - a[1]) * (d[0] - c[0]);
  if (Math.abs(cross) < 1e-9) return undefined;
  const t = ((c[0] - a[0]) * (d[1] - c[1]) - (c[1] - a[1]) * (d[0] - c[0])) / cross;
  return [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
}

function footOn(p: Place, a: Place, b: Place): Place {
  const squared = (b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2 || 1;
  const t = ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / squared;
  return [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
}
