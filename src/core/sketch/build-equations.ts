/** The system of equations of a sketch model. */
import { onCircle } from './equations/distance';
import type { Equation } from './equations/equation';
import { measureEquation } from './equations/measure-equations';
import { relationEquations, type Meeting } from './equations/relation-equations';
import type { SketchModel } from './model';
import { SketchVariables } from './variables';

export interface BuiltEquations {
  readonly variables: SketchVariables;
  /** Of arcs (without a source), constraints and driving dimensions. */
  readonly equations: readonly Equation[];
  /** An equation for every dimension, references too: its measure is what the dimension reads. */
  readonly readings: ReadonlyMap<string, Equation>;
  /** Sources of equations whose targets are moved to: values of dimensions, and places where fixed geometry is held. */
  readonly moving: ReadonlySet<string>;
  /** Pairs of points whose direction tells the branch: lines, lengths, and radii of arcs at their ends. */
  readonly directed: readonly (readonly [number, number])[];
  readonly radii: readonly number[];
  /** Constraints and dimensions that do not apply to what they name. */
  readonly invalid: readonly string[];
}

export function buildEquations(model: SketchModel): BuiltEquations {
  const variables = new SketchVariables(model);
  const equations: Equation[] = [];
  const directed: (readonly [number, number])[] = [];
  const radii: number[] = [];
  const invalid: string[] = [];
  for (const entity of model.entities) {
    const line = entity.type === 'line' ? variables.line(entity.id) : undefined;
    if (line) directed.push([line.a, line.b]);
    const round = variables.round(entity.id);
    if (!round) continue;
    radii.push(round.radius);
    for (const end of round.ends) {
      equations.push(onCircle('', end, round.centre, round.radius));
      directed.push([round.centre, end]);
    }
  }
  const meeting = findMeetings(model, variables);
  for (const relation of model.constraints) {
    const made = relationEquations(relation, variables, meeting);
    if (made) equations.push(...made);
    else invalid.push(relation.id);
  }
  const readings = new Map<string, Equation>();
  const moving = new Set(model.held ? model.constraints.flatMap(({ id, kind }) => (kind === 'fixed' ? [id] : [])) : []);
  for (const measure of model.dimensions) {
    const equation = measureEquation(measure, variables);
    if (!equation) {
      invalid.push(measure.id);
      continue;
    }
    readings.set(measure.id, equation);
    if (measure.isReference || !Number.isFinite(measure.value)) continue;
    // A length between two points keeps its direction as a line between them would.
    const [p, q] = measure.on.map((id) => variables.point(id));
    if (measure.kind === 'length' && p !== undefined && q !== undefined) directed.push([p, q]);
    equations.push(equation);
    moving.add(measure.id);
  }
  return { variables, equations, readings, moving, directed, radii, invalid };
}

/** Points joined by coincident constraints (disjoint sets), and points held on a circle or arc. */
function findMeetings(model: SketchModel, variables: SketchVariables): Meeting {
  const parent = new Map<number, number>();
  const onRounds = new Map<number, Set<number>>();
  const root = (point: number): number => {
    let at = point;
    for (let up = parent.get(at); up !== undefined; up = parent.get(at)) at = up;
    return at;
  };
  for (const { kind, on } of model.constraints) {
    if (kind !== 'coincident') continue;
    const [p, q] = on.flatMap((id) => variables.point(id) ?? []);
    const [round] = on.flatMap((id) => variables.round(id) ?? []);
    if (p === undefined) continue;
    if (q !== undefined) {
      if (root(p) !== root(q)) parent.set(root(p), root(q));
    } else if (round) onRounds.set(round.centre, (onRounds.get(round.centre) ?? new Set<number>()).add(p));
  }
  return {
    isSame: (p, q) => root(p) === root(q),
    isOn: (p, centre) => [...(onRounds.get(centre) ?? [])].some((other) => root(other) === root(p)),
  };
}
