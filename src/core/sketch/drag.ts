/**
 * Dragging: some points pulled towards places, some circles towards radii, with all constraints held. Everything that
 * depends on the topology alone is made once for a drag, so that a step is two warm solves.
 */
import { buildEquations, type BuiltEquations } from './build-equations';
import { at, type Equation } from './equations/equation';
import type { SketchModel, SketchSolution } from './model';
import { describe } from './solve';
import { SketchSystem } from './system';

/** What is pulled: a point towards a place, or a circle towards a radius. */
export type DragTarget = { readonly point: string; readonly x: number; readonly y: number } | { readonly round: string; readonly radius: number };

/** Weight of a target: weak, so that constraints win. */
const PULL = 0.01;
/** A pull need not be followed closer than this, in millimetres. */
const LEAST_STEP = 0.01;

export class SketchDragger {
  private readonly built: BuiltEquations;
  private readonly held: SketchSystem;
  private readonly pulls = new Map<string, Equation>();
  private pulled: SketchSystem | undefined;
  private x: Float64Array;

  /** `model` has the shape that the drag starts from. */
  constructor(private readonly model: SketchModel) {
    this.built = buildEquations(model);
    const { variables, equations } = this.built;
    this.x = variables.start.slice();
    this.held = new SketchSystem(equations, variables.count, this.x.length);
  }

  /** The next shape: from the last one, towards the targets. The best that was found; freedom is not analysed. */
  move(targets: readonly DragTarget[]): SketchSolution {
    const wishes = targets.flatMap((target) => this.unknownsOf(target));
    this.pull(wishes);
    const trial = this.x.slice();
    this.pulled?.solve(trial, LEAST_STEP);
    // The pull is soft: what it bent is put right by a solve without it, starting from there.
    if (this.held.solve(trial)) this.x = trial;
    return describe(this.model, this.built, this.x, [], false, false);
  }

  /** Sets the targets; a new set of things that are pulled makes a new system. */
  private pull(wishes: readonly (readonly [index: number, target: number])[]): void {
    const keys = wishes.map(([index]) => String(index));
    const isSame = this.pulled !== undefined && keys.length === this.pulls.size && keys.every((key) => this.pulls.has(key));
    if (!isSame) {
      this.pulls.clear();
      for (const [index] of wishes) this.pulls.set(String(index), makePull(index));
      const { variables, equations } = this.built;
      this.pulled = new SketchSystem([...equations, ...this.pulls.values()], variables.count, this.x.length);
    }
    for (const [index, target] of wishes) {
      const equation = this.pulls.get(String(index));
      if (equation) equation.target = PULL * target;
    }
  }

  private unknownsOf(target: DragTarget): (readonly [index: number, target: number])[] {
    const { variables } = this.built;
    if ('round' in target) {
      const round = variables.round(target.round);
      return round ? [[round.radius, target.radius]] : [];
    }
    const index = variables.point(target.point);
    if (index === undefined || index >= variables.count) return [];
    return [
      [index, target.x],
      [index + 1, target.y],
    ];
  }
}

function makePull(index: number): Equation {
  return {
    source: 'drag',
    variables: [index],
    measure: (x) => PULL * at(x, index),
    differentiate: (_, out, start) => {
      out[start] = PULL;
    },
    target: 0,
    scale: 1,
  };
}
