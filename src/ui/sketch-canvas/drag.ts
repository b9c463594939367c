/** Pulling at a sketch while its constraints hold: by the pointer, and to show what is free. */
import { referencesOf } from '@/core/document';
import type { DrawnShape, Place } from '@/core/drawing';
import { dragSketch, type DragTarget } from '@/core/sketch';
import { readSketchModel } from '@/core/steps';
import type { DocumentSession } from '../state/document-session';

/** Places of points and radii while the drag goes on. */
export interface SketchDrag {
  readonly points: Readonly<Record<string, readonly [number, number]>>;
  readonly radii: Readonly<Record<string, number>>;
}

export function dragShape(session: DocumentSession, sketch: string, shape: DrawnShape, grabbed: string, from: Place, to: Place): SketchDrag | undefined {
  const targets = dragTargets(shape, grabbed, from, to);
  return targets.length === 0 ? undefined : pull(session, sketch, shape, targets);
}

/** A moment of the movement that shows what is free: `phase` from 0 to 1, `reach` in millimetres. */
export function wiggleShape(
  session: DocumentSession,
  sketch: string,
  shape: DrawnShape,
  free: ReadonlySet<string>,
  phase: number,
  reach: number,
): SketchDrag | undefined {
  const swing = Math.sin(phase * 4 * Math.PI) * (1 - phase) * reach;
  let n = 0;
  const targets = shape.entities.flatMap((entity): DragTarget[] => {
    if (!free.has(entity.id)) return [];
    // Directions of their own, so that what is free apart moves apart.
    const angle = 2.4 * n++;
    if (entity.type === 'circle') return [{ round: entity.id, radius: Math.max(shape.radius(entity.id) * 0.5, shape.radius(entity.id) + swing / 2) }];
    if (entity.type !== 'point') return [];
    const [x, y] = shape.point(entity.id);
    return [{ point: entity.id, x: x + swing * Math.cos(angle), y: y + swing * Math.sin(angle) }];
  });
  return targets.length === 0 ? undefined : pull(session, sketch, shape, targets);
}

function pull(session: DocumentSession, sketch: string, shape: DrawnShape, targets: readonly DragTarget[]): SketchDrag {
  const model = readSketchModel(session.document, sketch, session.values);
  const entities = model.entities.map((entity) => {
    if (entity.type === 'point') {
      const [x, y] = shape.point(entity.id);
      return { ...entity, x, y };
    }
    return entity.type === 'circle' ? { ...entity, radius: shape.radius(entity.id) } : entity;
  });
  const solution = dragSketch({ ...model, entities }, targets);
  return { points: Object.fromEntries(solution.points), radii: Object.fromEntries(solution.radii) };
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
