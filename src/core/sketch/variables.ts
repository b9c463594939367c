/**
 * The unknowns of a sketch in one flat array.
 *
 * Layout: x and y of every point, in the order of the entities; then one radius for every circle and arc;
 * then, past `count`, constants that equations read but that never move: the origin and a point on each axis.
 */
import { ORIGIN, X_AXIS, Y_AXIS, type SketchEntity, type SketchModel } from './model';

export interface LineVariables {
  /** Indices of the x of its two points; y is the next one. */
  readonly a: number;
  readonly b: number;
}

export interface RoundVariables {
  readonly centre: number;
  readonly radius: number;
  /** Indices of the x of the end points of an arc. */
  readonly ends: readonly number[];
}

export class SketchVariables {
  readonly count: number;
  /** Index of the first radius: before it, x and y take turns. */
  readonly radiiFrom: number;
  /** Start values, constants included. */
  readonly start: Float64Array;
  /** What each is where it is fixed: its start, or the place where it is held. */
  readonly held: Float64Array;
  readonly entities: readonly SketchEntity[];
  private readonly points = new Map<string, number>();
  private readonly lines = new Map<string, LineVariables>();
  private readonly rounds = new Map<string, RoundVariables>();

  constructor({ entities, held = { points: {}, radii: {} } }: Pick<SketchModel, 'entities' | 'held'>) {
    this.entities = entities;
    const values: number[] = [];
    for (const entity of entities) {
      if (entity.type !== 'point') continue;
      this.points.set(entity.id, values.length);
      values.push(entity.x, entity.y);
    }
    this.radiiFrom = values.length;
    for (const entity of entities) {
      const round = this.placeRound(entity, values);
      if (round) this.rounds.set(entity.id, round);
    }
    this.count = values.length;
    const [origin, onX, onY] = [values.length, values.length + 2, values.length + 4];
    values.push(0, 0, 1, 0, 0, 1);
    this.points.set(ORIGIN, origin);
    this.lines.set(X_AXIS, { a: origin, b: onX });
    this.lines.set(Y_AXIS, { a: origin, b: onY });
    for (const entity of entities) {
      if (entity.type !== 'line') continue;
      const [a, b] = [this.points.get(entity.start), this.points.get(entity.end)];
      if (a !== undefined && b !== undefined) this.lines.set(entity.id, { a, b });
    }
    this.start = Float64Array.from(values);
    this.held = this.start.slice();
    for (const [id, place] of Object.entries(held.points)) this.hold(place, this.points.get(id));
    for (const [id, radius] of Object.entries(held.radii)) this.hold([radius], this.rounds.get(id)?.radius);
  }

  point(id: string | undefined): number | undefined {
    return id === undefined ? undefined : this.points.get(id);
  }

  line(id: string | undefined): LineVariables | undefined {
    return id === undefined ? undefined : this.lines.get(id);
  }

  round(id: string | undefined): RoundVariables | undefined {
    return id === undefined ? undefined : this.rounds.get(id);
  }

  /** Indices of the unknowns that an entity's own place depends on. */
  unknownsOf(entity: SketchEntity): number[] {
    switch (entity.type) {
      case 'point':
        return pair(this.points.get(entity.id));
      case 'line':
        return [...pair(this.points.get(entity.start)), ...pair(this.points.get(entity.end))];
      case 'circle':
      case 'arc': {
        const round = this.rounds.get(entity.id);
        return round ? [...pair(round.centre), round.radius, ...round.ends.flatMap((end) => pair(end))] : [];
      }
    }
  }

  private hold(values: readonly number[], index: number | undefined): void {
    if (index !== undefined) this.held.set(values, index);
  }

  private placeRound(entity: SketchEntity, values: number[]): RoundVariables | undefined {
    if (entity.type !== 'circle' && entity.type !== 'arc') return undefined;
    const centre = this.points.get(entity.centre);
    if (centre === undefined) return undefined;
    if (entity.type === 'circle') return { centre, radius: values.push(entity.radius) - 1, ends: [] };
    const ends = [this.points.get(entity.start), this.points.get(entity.end)].filter((end) => end !== undefined);
    const distances = ends.map((end) => Math.hypot((values[end] ?? 0) - (values[centre] ?? 0), (values[end + 1] ?? 0) - (values[centre + 1] ?? 0)));
    return { centre, radius: values.push(distances.reduce((a, b) => a + b, 0) / Math.max(1, distances.length)) - 1, ends };
  }
}

function pair(index: number | undefined): number[] {
  return index === undefined ? [] : [index, index + 1];
}
