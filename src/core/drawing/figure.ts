/** What a drawing tool makes: geometry with the constraints that its snaps stand for. */
import type { ConstraintKind, Edit, EditOf, Entity, SketchConstraint } from '../document';
import type { Place } from './drawn-shape';
import type { Snap } from './snapping';

export interface Figure {
  readonly entities: readonly Entity[];
  readonly constraints: readonly SketchConstraint[];
}

/** A point of the figure being drawn: where it is, and the entity if it is there already. */
export interface DraftPoint {
  readonly snap: Snap;
  readonly id: string | undefined;
}

/** The edit that puts a figure into the sketch, on the shape as it is drawn. */
export function drawEdit(sketch: string, figure: Figure, shape: EditOf<'sketch.draw'>['shape']): Exclude<Edit, EditOf<'batch'>> {
  return {
    type: 'sketch.draw',
    sketch,
    entities: [...figure.entities],
    constraints: [...figure.constraints],
    dimensions: [],
    values: [],
    ...(shape ? { shape } : {}),
  };
}

/** Collects geometry and constraints; a point that is there already is used, not made again. */
export class FigureMaker {
  private readonly entities: Entity[] = [];
  private readonly constraints: SketchConstraint[] = [];

  constructor(
    private readonly sketch: string,
    private readonly newId: () => string,
    private readonly isConstruction = false,
  ) {}

  /** The point of a click, with what it snapped to. */
  point({ snap, id: known }: DraftPoint): string {
    if (known !== undefined) return known;
    const id = this.pointAt(snap.at);
    if (snap.on?.kind === 'midpoint') this.relate('midpoint', id, snap.on.id);
    else if (snap.on) this.relate('coincident', id, snap.on.id);
    return id;
  }

  pointAt([x, y]: Place): string {
    const id = this.newId();
    this.entities.push({ type: 'point', id, sketch: this.sketch, x, y });
    return id;
  }

  line(start: string, end: string, isConstruction = this.isConstruction): string {
    return this.curve({ type: 'line', id: this.newId(), sketch: this.sketch, start, end }, isConstruction);
  }

  circle(centre: string, radius: number, isConstruction = this.isConstruction): string {
    return this.curve({ type: 'circle', id: this.newId(), sketch: this.sketch, centre, radius }, isConstruction);
  }

  /** Counter-clockwise from start to end. */
  arc(centre: string, start: string, end: string, isConstruction = this.isConstruction): string {
    return this.curve({ type: 'arc', id: this.newId(), sketch: this.sketch, centre, start, end }, isConstruction);
  }

  relate(kind: ConstraintKind, ...on: string[]): void {
    this.constraints.push({ type: 'constraint', id: this.newId(), sketch: this.sketch, kind, on });
  }

  finish(): Figure {
    return { entities: this.entities, constraints: this.constraints };
  }

  private curve(entity: Exclude<Entity, { readonly type: 'point' }>, isConstruction: boolean): string {
    this.entities.push(isConstruction ? { ...entity, isConstruction } : entity);
    return entity.id;
  }
}
