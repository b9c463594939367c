/**
 * Drawing as state machines: a tool, the clicks so far, and what a click makes. Pure; tested as tables.
 */
import type { ConstraintKind, Edit, EditOf, Entity, SketchConstraint } from '@/core/document';
import type { Place } from './drawn-shape';
import type { Snap } from './snapping';

export type DrawTool = 'line' | 'rectangle' | 'circle' | 'arc';

/** A point of the figure being drawn: where it is, and the entity if it is there already. */
export interface DraftPoint {
  readonly snap: Snap;
  readonly id: string | undefined;
}

export interface DrawState {
  readonly tool: DrawTool;
  readonly points: readonly DraftPoint[];
}

export interface Drawn {
  readonly next: DrawState;
  /** What the click made, to be put into the sketch; undefined while the figure is not complete. */
  readonly figure: Figure | undefined;
}

export interface Figure {
  readonly entities: readonly Entity[];
  readonly constraints: readonly SketchConstraint[];
}

export function startDrawing(tool: DrawTool): DrawState {
  return { tool, points: [] };
}

/** One click. `newId` makes ids; `sketch` owns what is made. */
export function clickToDraw(state: DrawState, snap: Snap, sketch: string, newId: () => string): Drawn {
  const figure = new FigureMaker(sketch, newId);
  const here: DraftPoint = { snap, id: snap.on?.kind === 'point' && snap.on.id !== 'origin' ? snap.on.id : undefined };
  const points = [...state.points, here];
  const [first, second] = points;
  if (!first || !second) return { next: { ...state, points }, figure: undefined };
  switch (state.tool) {
    case 'line': {
      if (isSamePlace(first.snap.at, second.snap.at)) return { next: state, figure: undefined };
      const [a, b] = [figure.point(first), figure.point(second)];
      figure.line(a, b, second.snap.direction);
      // The chain goes on from the new end, unless that met something that was there.
      const next = here.id === undefined ? [{ snap: { at: snap.at, on: { id: b, kind: 'point' as const } }, id: b }] : [];
      return { next: { ...state, points: next }, figure: figure.finish() };
    }
    case 'rectangle': {
      const [[ax, ay], [bx, by]] = [first.snap.at, second.snap.at];
      if (ax === bx || ay === by) return { next: state, figure: undefined };
      const corner = (x: number, y: number): string => figure.point({ snap: { at: [x, y] }, id: undefined });
      const [a, c] = [figure.point(first), figure.point(second)];
      const [b, d] = [corner(bx, ay), corner(ax, by)];
      figure.line(a, b, 'horizontal');
      figure.line(b, c, 'vertical');
      figure.line(c, d, 'horizontal');
      figure.line(d, a, 'vertical');
      return { next: startDrawing('rectangle'), figure: figure.finish() };
    }
    case 'circle': {
      const radius = distance(first.snap.at, second.snap.at);
      if (radius === 0) return { next: state, figure: undefined };
      figure.circle(figure.point(first), radius);
      return { next: startDrawing('circle'), figure: figure.finish() };
    }
    case 'arc': {
      const third = points[2];
      if (!third) return { next: { ...state, points }, figure: undefined };
      const radius = distance(first.snap.at, second.snap.at);
      const reach = distance(first.snap.at, third.snap.at);
      if (radius === 0 || reach === 0) return { next: state, figure: undefined };
      const onArc: Place = [
        first.snap.at[0] + ((third.snap.at[0] - first.snap.at[0]) * radius) / reach,
        first.snap.at[1] + ((third.snap.at[1] - first.snap.at[1]) * radius) / reach,
      ];
      const end = third.id === undefined ? { ...third, snap: { ...third.snap, at: onArc } } : third;
      figure.arc(figure.point(first), figure.point(second), figure.point(end));
      return { next: startDrawing('arc'), figure: figure.finish() };
    }
  }
}

/** The edit that puts a figure into the sketch, on the shape as it is drawn. */
export function drawEdit(sketch: string, figure: Figure, shape: EditOf<'sketch.draw'>['shape']): Edit {
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

/** Collects what a click makes; a point that is there already is used, not made again. */
class FigureMaker {
  private readonly entities: Entity[] = [];
  private readonly constraints: SketchConstraint[] = [];

  constructor(
    private readonly sketch: string,
    private readonly newId: () => string,
  ) {}

  point({ snap, id: known }: DraftPoint): string {
    if (known !== undefined) return known;
    const id = this.newId();
    this.entities.push({ type: 'point', id, sketch: this.sketch, x: snap.at[0], y: snap.at[1] });
    if (snap.on?.kind === 'midpoint') this.relate('midpoint', id, snap.on.id);
    else if (snap.on) this.relate('coincident', id, snap.on.id);
    return id;
  }

  line(start: string, end: string, direction: Snap['direction']): void {
    const id = this.newId();
    this.entities.push({ type: 'line', id, sketch: this.sketch, start, end });
    if (direction) this.relate(direction, id);
  }

  circle(centre: string, radius: number): void {
    this.entities.push({ type: 'circle', id: this.newId(), sketch: this.sketch, centre, radius });
  }

  arc(centre: string, start: string, end: string): void {
    this.entities.push({ type: 'arc', id: this.newId(), sketch: this.sketch, centre, start, end });
  }

  finish(): Figure {
    return { entities: this.entities, constraints: this.constraints };
  }

  private relate(kind: ConstraintKind, ...on: string[]): void {
    this.constraints.push({ type: 'constraint', id: this.newId(), sketch: this.sketch, kind, on });
  }
}

function isSamePlace(a: Place, b: Place): boolean {
  return a[0] === b[0] && a[1] === b[1];
}

function distance(a: Place, b: Place): number {
  return Math.hypot(b[0] - a[0], b[1] - a[1]);
}
