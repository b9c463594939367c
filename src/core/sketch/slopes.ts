/**
 * How fast what a sketch reads moves when one of its dimensions does, by the implicit function theorem.
 *
 * At a solution f(x) = t, with t what the constraints and dimensions are to come to and J = ∂f/∂x. A reading m(x) moves by ∇m·dx where J dx = dt. Where ∇m is a
 * combination of the rows of J, ∇m = Jᵀλ, it moves by λ·dt, however what is free moves: λ are the slopes (the adjoint form). λ solves J Jᵀ λ = J ∇m.
 */
import { analyseRowSpace, combinationOf } from '../numeric';
import { buildEquations } from './build-equations';
import type { SketchEntity, SketchModel, SketchSolution } from './model';
import { SketchSystem } from './system';

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
  const factors = combinationOf(rows, gradient);
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
