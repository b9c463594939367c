/** The equation of each kind of dimension. The same equation reads a reference dimension. */
import type { SketchMeasure } from '../model';
import type { SketchVariables } from '../variables';
import { angleBetween, arcLength } from './direction';
import { directedDifference, distance, lineDistance, multiple, signedLineDistance } from './distance';
import { at, type Equation } from './equation';

/** Undefined where the dimension does not apply to such geometry. */
export function measureEquation(measure: SketchMeasure, variables: SketchVariables): Equation | undefined {
  const { id, on, value } = measure;
  const [first, second] = on;
  const line = variables.line(first);
  const points = on.map((other) => variables.point(other)).filter((p) => p !== undefined);
  const [p, q] = line && on.length === 1 ? [line.a, line.b] : points;
  const { start } = variables;
  switch (measure.kind) {
    case 'length': {
      if (p !== undefined && q !== undefined) return distance(id, p, q, value);
      const base = line ?? variables.line(second);
      const from = points[0] ?? variables.line(base === line ? second : first)?.a;
      if (!base || from === undefined) return undefined;
      const sense = signedLineDistance(start, from, base.a, base.b) < 0 ? -1 : 1;
      return lineDistance(id, from, base.a, base.b, sense, value);
    }
    case 'horizontal':
    case 'vertical': {
      const axis = measure.kind === 'horizontal' ? 0 : 1;
      return p === undefined || q === undefined
        ? undefined
        : directedDifference(id, q + axis, p + axis, measure.sense ?? (at(start, q + axis) - at(start, p + axis) < 0 ? -1 : 1), value);
    }
    case 'radius':
    case 'diameter': {
      const round = variables.round(first);
      return round && multiple(id, round.radius, measure.kind === 'radius' ? 1 : 2, value);
    }
    case 'arc-length': {
      const round = variables.round(first);
      const [from, to] = round?.ends ?? [];
      if (!round || from === undefined || to === undefined) return undefined;
      return arcLength(id, round.centre, from, to, round.radius, sweepAt(start, round.centre, from, to), value);
    }
    case 'angle': {
      const other = variables.line(second);
      if (!line || !other) return undefined;
      const [dx, dy] = [at(start, line.b) - at(start, line.a), at(start, line.b + 1) - at(start, line.a + 1)];
      const [ex, ey] = [at(start, other.b) - at(start, other.a), at(start, other.b + 1) - at(start, other.a + 1)];
      const sense = dx * ey - dy * ex < 0 ? -1 : 1;
      const scale = (Math.hypot(dx, dy) + Math.hypot(ex, ey)) / 2 || 1;
      const near = Number.isFinite(value) ? value : Math.abs(Math.atan2(dx * ey - dy * ex, dx * ex + dy * ey));
      return angleBetween(id, [line.a, line.b, other.a, other.b], sense, scale, near);
    }
  }
}

/** Counter-clockwise turn of an arc, over 0 up to a full turn. */
function sweepAt(x: Float64Array, centre: number, from: number, to: number): number {
  const angle = (point: number): number => Math.atan2(at(x, point + 1) - at(x, centre + 1), at(x, point) - at(x, centre));
  const turn = (angle(to) - angle(from)) % (2 * Math.PI);
  return turn <= 0 ? turn + 2 * Math.PI : turn;
}
