/** Curves that come from a drawing: joined at their ends, and on request with the constraints that they happen to meet. */
import type { ConstraintKind, EditOf, Entity, SketchConstraint } from '../document';
import type { Curve, Point2 } from '../geometry';
import { solveSketch } from '../sketch';
import { distance } from './circles';

/** Ends nearer than this are one point, and what is met to within it is taken as meant; in millimetres. */
const NEAR = 1e-3;

/** The edit that puts the curves into a sketch. `infer`: with constraints for what they meet already, none of them redundant. */
export function importCurves(sketch: string, curves: readonly Curve[], infer: boolean, newId: () => string): EditOf<'sketch.draw'> {
  const importer = new Importer(sketch, newId);
  for (const curve of curves) importer.add(curve);
  const entities = importer.entities();
  const constraints = infer ? dropRedundant(entities, importer.infer()) : [];
  return { type: 'sketch.draw', sketch, entities, constraints, dimensions: [], values: [] };
}

type Drawn = { readonly entity: Exclude<Entity, { readonly type: 'point' }>; readonly curve: Curve };

class Importer {
  private readonly points: { readonly id: string; readonly at: Point2 }[] = [];
  private readonly cells = new Map<string, string[]>();
  private readonly places = new Map<string, Point2>();
  private readonly drawn: Drawn[] = [];
  private readonly constraints: SketchConstraint[] = [];

  constructor(
    private readonly sketch: string,
    private readonly newId: () => string,
  ) {}

  add(curve: Curve): void {
    const { sketch } = this;
    const id = this.newId();
    switch (curve.kind) {
      case 'line': {
        const [start, end] = [this.pointAt(curve.start), this.pointAt(curve.end)];
        if (start !== end) this.drawn.push({ curve, entity: { type: 'line', id, sketch, start, end } });
        break;
      }
      case 'arc':
        this.drawn.push({
          curve,
          entity: { type: 'arc', id, sketch, centre: this.pointAt(curve.centre), start: this.pointAt(curve.start), end: this.pointAt(curve.end) },
        });
        break;
      case 'circle':
        this.drawn.push({ curve, entity: { type: 'circle', id, sketch, centre: this.pointAt(curve.centre), radius: curve.radius } });
        break;
    }
  }

  entities(): Entity[] {
    const { sketch } = this;
    return [...this.points.map(({ id, at: [x, y] }): Entity => ({ type: 'point', id, sketch, x, y })), ...this.drawn.map(({ entity }) => entity)];
  }

  infer(): readonly SketchConstraint[] {
    for (const { id, at } of this.points) if (Math.hypot(...at) < NEAR) this.relate('coincident', id, 'origin');
    for (const { entity, curve } of this.drawn) {
      if (curve.kind !== 'line') continue;
      if (Math.abs(curve.end[1] - curve.start[1]) < NEAR) this.relate('horizontal', entity.id);
      else if (Math.abs(curve.end[0] - curve.start[0]) < NEAR) this.relate('vertical', entity.id);
    }
    this.inferAtJoints();
    this.inferEqual();
    return this.constraints;
  }

  /** Tangent where a curve runs on smoothly; square where two slanted lines meet so. */
  private inferAtJoints(): void {
    const meeting = new Map<string, Drawn[]>();
    for (const one of this.drawn) {
      if (one.entity.type === 'circle') continue;
      for (const point of [one.entity.start, one.entity.end]) meeting.set(point, [...(meeting.get(point) ?? []), one]);
    }
    for (const [point, drawn] of meeting) {
      const [a, b] = drawn;
      if (!a || !b || drawn.length !== 2 || a === b) continue;
      const [p, q] = [this.directionAt(a, point), this.directionAt(b, point)];
      const [turn, along] = [Math.abs(p[0] * q[1] - p[1] * q[0]), Math.abs(p[0] * q[0] + p[1] * q[1])];
      if (a.entity.type === 'line' && b.entity.type === 'line') {
        const isSlanted = Math.min(Math.abs(p[0]), Math.abs(p[1])) > 1e-6;
        if (isSlanted && along < 1e-5) this.relate('perpendicular', a.entity.id, b.entity.id);
      } else if (turn < 1e-4) this.relate('tangent', a.entity.id, b.entity.id);
    }
  }

  private inferEqual(): void {
    const firsts: { readonly id: string; readonly radius: number }[] = [];
    for (const { entity, curve } of this.drawn) {
      if (curve.kind === 'line') continue;
      const same = firsts.find(({ radius }) => Math.abs(radius - curve.radius) < NEAR);
      if (same) this.relate('equal', same.id, entity.id);
      else firsts.push({ id: entity.id, radius: curve.radius });
    }
  }

  /** Unit vector along a curve at one of its ends. */
  private directionAt({ entity, curve }: Drawn, point: string): Point2 {
    const at = this.places.get(point) ?? [0, 0];
    if (curve.kind === 'line') {
      const length = distance(curve.start, curve.end);
      return [(curve.end[0] - curve.start[0]) / length, (curve.end[1] - curve.start[1]) / length];
    }
    const centre = entity.type === 'line' ? at : (this.places.get(entity.centre) ?? at);
    const radius = distance(centre, at) || 1;
    return [-(at[1] - centre[1]) / radius, (at[0] - centre[0]) / radius];
  }

  private relate(kind: ConstraintKind, ...on: string[]): void {
    this.constraints.push({ type: 'constraint', id: this.newId(), sketch: this.sketch, kind, on });
  }

  private pointAt(at: Point2): string {
    const [cx, cy] = [Math.round(at[0] / NEAR), Math.round(at[1] / NEAR)];
    for (const dx of [0, -1, 1]) {
      for (const dy of [0, -1, 1]) {
        const known = this.cells.get(`${cx + dx} ${cy + dy}`)?.find((id) => distance(this.places.get(id) ?? [NaN, NaN], at) < NEAR);
        if (known !== undefined) return known;
      }
    }
    const id = this.newId();
    this.points.push({ id, at });
    this.places.set(id, at);
    this.cells.set(`${cx} ${cy}`, [...(this.cells.get(`${cx} ${cy}`) ?? []), id]);
    return id;
  }
}

/** What the solver finds to say nothing new is left out, and so is what it cannot hold together with the rest. */
function dropRedundant(entities: readonly Entity[], constraints: readonly SketchConstraint[]): SketchConstraint[] {
  let kept = [...constraints];
  for (let round = 0; round < 8; round++) {
    const { redundant, conflicting, invalid } = solveSketch({ entities, constraints: kept, dimensions: [] });
    const drop = new Set([...redundant, ...conflicting.slice(-1), ...invalid]);
    if (drop.size === 0) return kept;
    kept = kept.filter(({ id }) => !drop.has(id));
  }
  return kept;
}
