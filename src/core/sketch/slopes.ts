/**
 * How fast what a sketch reads moves when one of its dimensions does, by the implicit function theorem.
 *
 * At a solution f(x) = t, with t what the constraints and dimensions are to come to and J = ∂f/∂x. A reading m(x) moves by ∇m·dx where J dx = dt. Where ∇m is a
 * combination of the rows of J, ∇m = Jᵀλ, it moves by λ·dt, however what is free moves: λ are the slopes (the adjoint form). λ solves J Jᵀ λ = J ∇m.
 */
import { analyseRowSpace, SparseCholesky } from '../numeric';
import { buildEquations } from './build-equations';
import type { SketchEntity, SketchModel, SketchSolution } from './model';
import { SketchSystem } from './system';

/** Of a gradient, what the rows do not reach: more of it is free. */
const FREE = 1e-7;

/**
 * By the ids of driving dimensions: how much the reading of a dimension changes by one of each, millimetres or radians both. Undefined where there are no
 * such slopes: where the sketch does not hold, where something holds twice, or where what is free moves the reading.
 */
export function readingSlopes(model: SketchModel, solution: SketchSolution, reading: string): ReadonlyMap<string, number> | undefined {
  if (solution.status !== 'solved') return undefined;
  const built = buildEquations({ ...model, entities: model.entities.map((entity) => solved(entity, solution)) });
  const { variables, equations } = built;
  const read = built.readings.get(reading);
  if (!read) return undefined;
  const x = variables.start;
  const rows = new SketchSystem(equations, variables.count, x.length).rows(x);
  const { dependentRows } = analyseRowSpace(rows, variables.count);
  if (dependentRows.length > 0) return undefined;
  const gradient = new Float64Array(variables.count);
  const by = new Float64Array(read.variables.length);
  read.differentiate(x, by, 0);
  read.variables.forEach((column, i) => {
    if (column < variables.count) gradient[column] = by[i] ?? 0;
  });
  const factors = combine(rows, gradient);
  if (!factors) return undefined;
  return new Map(
    equations.flatMap(({ source, scale }, row) => {
      if (!built.readings.has(source)) return [];
      return [[source, ((factors[row] ?? 0) * scale) / read.scale] as const];
    }),
  );
}

function solved(entity: SketchEntity, { points, radii }: SketchSolution): SketchEntity {
  if (entity.type === 'point') {
    const [x, y] = points.get(entity.id) ?? [entity.x, entity.y];
    return { ...entity, x, y };
  }
  return entity.type === 'circle' ? { ...entity, radius: radii.get(entity.id) ?? entity.radius } : entity;
}

/** What of each row comes to the gradient together; undefined where it is no combination of them. */
function combine(rows: readonly (readonly number[])[], gradient: Float64Array): Float64Array | undefined {
  const byColumn = new Map<number, [row: number, value: number][]>();
  rows.forEach((row, i) => {
    for (let p = 0; p < row.length; p += 2) byColumn.set(row[p] ?? 0, [...(byColumn.get(row[p] ?? 0) ?? []), [i, row[p + 1] ?? 0]]);
  });
  const matrix = new SparseCholesky(rows.length, pairsOf(byColumn));
  matrix.values.fill(0);
  const factors = new Float64Array(rows.length);
  for (const [column, entries] of byColumn) {
    entries.forEach(([i, a], m) => {
      factors[i] = (factors[i] ?? 0) + a * (gradient[column] ?? 0);
      for (const [j, b] of entries.slice(0, m + 1)) {
        const place = matrix.place(Math.max(i, j), Math.min(i, j));
        matrix.values[place] = (matrix.values[place] ?? 0) + a * b;
      }
    });
  }
  if (!matrix.factor(new Float64Array(rows.length))) return undefined;
  matrix.solve(factors);
  const left = gradient.slice();
  rows.forEach((row, i) => {
    for (let p = 0; p < row.length; p += 2) left[row[p] ?? 0] = (left[row[p] ?? 0] ?? 0) - (row[p + 1] ?? 0) * (factors[i] ?? 0);
  });
  return Math.hypot(...left) > FREE * Math.max(1, Math.hypot(...gradient)) ? undefined : factors;
}

function* pairsOf(byColumn: ReadonlyMap<number, readonly (readonly [row: number, value: number])[]>): Generator<readonly [number, number]> {
  const seen = new Set<string>();
  for (const entries of byColumn.values()) {
    for (const [i] of entries) {
      for (const [j] of entries) {
        if (i <= j || seen.has(`${i} ${j}`)) continue;
        seen.add(`${i} ${j}`);
        yield [i, j];
      }
    }
  }
}
