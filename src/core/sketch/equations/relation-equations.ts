/** The equations of each geometric constraint, for the kinds of geometry that it takes. */
import type { SketchRelation } from '../model';
import type { LineVariables, RoundVariables, SketchVariables } from '../variables';
import { crossProduct, dotProduct, middleOnLine, touchingCircles } from './direction';
import { difference, equalLengths, lineDistance, midpoint, onCircle, place, signedLineDistance } from './distance';
import { at, type Equation } from './equation';

/** What meets by coincident constraints. */
export interface Meeting {
  /** Whether two points are one, by coincidence or by being shared. */
  readonly isSame: (p: number, q: number) => boolean;
  /** Whether a point is held on the circle or arc with that centre. */
  readonly isOn: (p: number, centre: number) => boolean;
}

/** Undefined where the constraint does not apply to such geometry. */
export function relationEquations(relation: SketchRelation, variables: SketchVariables, meeting: Meeting): Equation[] | undefined {
  const { id, on } = relation;
  const [first, second] = on;
  const points = on.map((other) => variables.point(other)).filter((p) => p !== undefined);
  const lines = on.map((other) => variables.line(other)).filter((l) => l !== undefined);
  const rounds = on.map((other) => variables.round(other)).filter((r) => r !== undefined);
  const { start } = variables;
  switch (relation.kind) {
    case 'coincident':
      return coincident(id, points, lines, rounds);
    case 'horizontal':
    case 'vertical': {
      const axis = relation.kind === 'horizontal' ? 1 : 0;
      const [a, b] = lines.length === 1 ? [lines[0]?.a, lines[0]?.b] : points;
      return a === undefined || b === undefined ? undefined : [difference(id, a + axis, b + axis)];
    }
    case 'parallel':
    case 'perpendicular': {
      const [l, m] = lines;
      if (!l || !m) return undefined;
      const make = relation.kind === 'parallel' ? crossProduct : dotProduct;
      return [make(id, l.a, l.b, m.a, m.b, meanLength(start, l, m))];
    }
    case 'equal':
      return equal(id, lines, rounds);
    case 'concentric': {
      const centres = on.map((other) => variables.round(other)?.centre ?? variables.point(other)).filter((c) => c !== undefined);
      const [c, d] = centres;
      return c === undefined || d === undefined ? undefined : [difference(id, c, d), difference(id, c + 1, d + 1)];
    }
    case 'tangent':
      return tangent(id, lines, rounds, start, meeting);
    case 'fixed': {
      const fixed = on.flatMap((other) => {
        const entity = variables.entities.find((candidate) => candidate.id === other);
        return entity ? variables.unknownsOf(entity) : [];
      });
      return fixed.length === 0 ? undefined : fixed.map((index) => place(id, index, at(variables.held, index)));
    }
    case 'symmetric':
      return symmetric(id, points, lines, rounds, start);
    case 'midpoint': {
      const p = variables.point(first) ?? variables.point(second);
      const line = lines[0];
      return p === undefined || !line ? undefined : [midpoint(id, p, line.a, line.b, 0), midpoint(id, p, line.a, line.b, 1)];
    }
  }
}

function coincident(id: string, [p, q]: readonly number[], [line]: readonly LineVariables[], [round]: readonly RoundVariables[]): Equation[] | undefined {
  if (p === undefined) return undefined;
  if (q !== undefined) return [difference(id, p, q), difference(id, p + 1, q + 1)];
  if (line) return [lineDistance(id, p, line.a, line.b, 1, 0)];
  return round ? [onCircle(id, p, round.centre, round.radius)] : undefined;
}

function equal(id: string, [l, m]: readonly LineVariables[], [c, d]: readonly RoundVariables[]): Equation[] | undefined {
  if (l && m) return [equalLengths(id, l.a, l.b, m.a, m.b)];
  return c && d ? [difference(id, c.radius, d.radius)] : undefined;
}

/**
 * Where the two meet in a common end point, or an end of the line is held on the circle, the distance of the centre would have no slope at the tangent
 * position; there the radius at that point is made square to the line, or in line with the other radius.
 */
function tangent(
  id: string,
  [line]: readonly LineVariables[],
  [c, d]: readonly RoundVariables[],
  start: Float64Array,
  meeting: Meeting,
): Equation[] | undefined {
  if (!c) return undefined;
  if (line) {
    const { isSame, isOn } = meeting;
    const end = c.ends.find((other) => isSame(other, line.a) || isSame(other, line.b));
    const shared = end ?? [line.a, line.b].find((other) => isOn(other, c.centre));
    if (shared !== undefined) {
      const scale = (lengthOf(start, line) + at(start, c.radius)) / 2 || 1;
      return [dotProduct(id, line.a, line.b, c.centre, shared, scale)];
    }
    const sense = signedLineDistance(start, c.centre, line.a, line.b) < 0 ? -1 : 1;
    return [lineDistance(id, c.centre, line.a, line.b, sense, 0, c.radius)];
  }
  if (!d) return undefined;
  const shared = c.ends.find((end) => d.ends.some((other) => meeting.isSame(end, other)));
  if (shared !== undefined) {
    const scale = (at(start, c.radius) + at(start, d.radius)) / 2 || 1;
    const other = d.ends.find((end) => meeting.isSame(end, shared)) ?? shared;
    return [crossProduct(id, c.centre, shared, d.centre, other, scale)];
  }
  const [r1, r2] = [at(start, c.radius), at(start, d.radius)];
  const gap = Math.hypot(at(start, c.centre) - at(start, d.centre), at(start, c.centre + 1) - at(start, d.centre + 1));
  const isOutside = gap > Math.max(r1, r2);
  const sense = r1 >= r2 ? 1 : -1;
  return [touchingCircles(id, c.centre, c.radius, d.centre, d.radius, isOutside ? 1 : sense, isOutside ? 1 : -sense)];
}

/** The middle of both lies on the line, and the way from one to the other is square to it; circles are equal, too. */
function symmetric(
  id: string,
  points: readonly number[],
  [line]: readonly LineVariables[],
  rounds: readonly RoundVariables[],
  start: Float64Array,
): Equation[] | undefined {
  const [p, q] = rounds.length === 2 ? rounds.map((round) => round.centre) : points;
  if (!line || p === undefined || q === undefined) return undefined;
  const scale = lengthOf(start, line) || 1;
  const [c, d] = rounds;
  return [middleOnLine(id, p, q, line.a, line.b, scale), dotProduct(id, line.a, line.b, p, q, scale), ...(c && d ? [difference(id, c.radius, d.radius)] : [])];
}

function lengthOf(x: Float64Array, line: LineVariables): number {
  return Math.hypot(at(x, line.b) - at(x, line.a), at(x, line.b + 1) - at(x, line.a + 1));
}

function meanLength(x: Float64Array, l: LineVariables, m: LineVariables): number {
  return (lengthOf(x, l) + lengthOf(x, m)) / 2 || 1;
}
