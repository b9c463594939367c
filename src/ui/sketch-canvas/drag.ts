/** Pulling at a sketch while its constraints hold: by the pointer, and to show what is free. */
import { referencesOf } from '@/core/document';
import type { DrawnShape, Place } from '@/core/drawing';
import { SketchDragger, type DragTarget } from '@/core/sketch';
import { readSketchModel } from '@/core/steps';
import type { DocumentSession } from '../state/document-session';

/** Places of points and radii while the drag goes on. */
export interface SketchDrag {
  readonly points: Readonly<Record<string, readonly [number, number]>>;
  readonly radii: Readonly<Record<string, number>>;
}

/** A drag of one sketch from the shape that it has: made once, moved often. */
export class ShapeDrag {
  private readonly dragger: SketchDragger;

  constructor(
    session: DocumentSession,
    sketch: string,
    private readonly shape: DrawnShape,
  ) {
    const model = readSketchModel(session.document, sketch, session.values);
    const entities = model.entities.map((entity) => {
      if (entity.type === 'point') {
        const [x, y] = shape.point(entity.id);
        return { ...entity, x, y };
      }
      return entity.type === 'circle' ? { ...entity, radius: shape.radius(entity.id) } : entity;
    });
    this.dragger = new SketchDragger({ ...model, entities });
  }

  /** `from` is where the drag began, `to` where the pointer is. */
  dragTo(grabbed: string, from: Place, to: Place): SketchDrag | undefined {
    return this.move(dragTargets(this.shape, grabbed, from, to));
  }

  /** A moment of the movement that shows what is free: `phase` from 0 to 1, `reach` in millimetres. */
  wiggle(free: ReadonlySet<string>, phase: number, reach: number): SketchDrag | undefined {
    const swing = Math.sin(phase * 4 * Math.PI) * (1 - phase) * reach;
    let n = 0;
    return this.move(
      this.shape.entities.flatMap((entity): DragTarget[] => {
        if (!free.has(entity.id)) return [];
        // Directions of their own, so that what is free apart moves apart.
        const angle = 2.4 * n++;
        if (entity.type === 'circle') {
          const radius = this.shape.radius(entity.id);
          return [{ round: entity.id, radius: Math.max(radius * 0.5, radius + swing / 2) }];
        }
        if (entity.type !== 'point') return [];
        const [x, y] = this.shape.point(entity.id);
        return [{ point: entity.id, x: x + swing * Math.cos(angle), y: y + swing * Math.sin(angle) }];
      }),
    );
  }

  private move(targets: readonly DragTarget[]): SketchDrag | undefined {
    if (targets.length === 0) return undefined;
    const { points, radii } = this.dragger.move(targets);
    return { points: Object.fromEntries(points), radii: Object.fromEntries(radii) };
  }
}

/** What pulling at a piece of geometry pulls: a point, both ends of a line, or a circle's radius. */
function dragTargets(shape: DrawnShape, grabbed: string, from: Place, to: Place): DragTarget[] {
  const entity = shape.entities.find((candidate) => candidate.id === grabbed);
  if (entity?.type === 'circle') {
    const [cx, cy] = shape.point(entity.centre);
    return [{ round: grabbed, radius: Math.hypot(to[0] - cx, to[1] - cy) }];
  }
  const points = entity?.type === 'point' ? [grabbed] : entity ? referencesOf(entity) : [];
  return points.map((id) => {
    const [x, y] = shape.point(id);
    return entity?.type === 'point' ? { point: id, x: to[0], y: to[1] } : { point: id, x: x + to[0] - from[0], y: y + to[1] - from[1] };
  });
}
