'use client';
/** The state of the sketch canvas: tool, figure being drawn, selection, dragging, the open value box. */
import { useState } from 'react';
import type { ConstraintKind, SketchDimension } from '@/core/document';
import { findAny, isEntity, referencesOf } from '@/core/document';
import { dragSketch, type DragTarget } from '@/core/sketch';
import { readSketchModel } from '@/core/steps';
import { useSession, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';
import { editOrAsk } from '../state/removal';
import { offerConstraints } from './constraint-offers';
import { planDimension, type DimensionPlan } from './dimension-plan';
import { clickToDraw, drawEdit, startDrawing, type DrawState, type DrawTool } from './draw-tools';
import { shapeToStore, type DrawnShape, type Place } from './drawn-shape';
import type { Snap } from './snapping';

export type SketchTool = 'select' | 'dimension' | DrawTool;

export interface SketchDrag {
  readonly points: Readonly<Record<string, readonly [number, number]>>;
  readonly radii: Readonly<Record<string, number>>;
}

export function useSketchTools(sketch: string, shape: DrawnShape) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [tool, setToolState] = useState<SketchTool>('select');
  const [draw, setDraw] = useState<DrawState>();
  const [selected, setSelected] = useState<readonly string[]>([]);
  const [picked, setPicked] = useState<readonly string[]>([]);
  const [pending, setPending] = useState<{ readonly plan: DimensionPlan; readonly at: Place }>();
  const [open, setOpen] = useState<SketchDimension>();

  const setTool = (next: SketchTool): void => {
    setToolState(next);
    setDraw(next === 'select' || next === 'dimension' ? undefined : startDrawing(next));
    setPicked([]);
    setPending(undefined);
  };

  return {
    tool,
    draw,
    selected,
    picked,
    pending,
    open,
    setTool,
    setOpen,
    offers: offerConstraints(shape, selected),

    select: (id: string | undefined, isAdding: boolean): void => {
      if (id === undefined) setSelected(isAdding ? selected : []);
      else if (!isAdding) setSelected([id]);
      else setSelected(selected.includes(id) ? selected.filter((other) => other !== id) : [...selected, id]);
    },

    click: (snap: Snap): void => {
      if (!draw) return;
      const { next, figure } = clickToDraw(draw, snap, sketch, newId);
      if (figure) session.edit(drawEdit(sketch, figure, shapeToStore(shape)));
      setDraw(next);
    },

    /** Ends a chain of lines, then the tool. */
    back: (): void => {
      if (draw && draw.points.length > 0) setDraw(startDrawing(draw.tool));
      else if (picked.length > 0) setPicked([]);
      else if (pending) setPending(undefined);
      else if (tool !== 'select') setTool('select');
      else setSelected([]);
    },

    pickForDimension: (id: string | undefined, at: Place): void => {
      if (id !== undefined && picked.length < 2 && !picked.includes(id)) {
        setPicked([...picked, id]);
        return;
      }
      const plan = planDimension(shape, picked, at);
      if (plan) setPending({ plan, at });
    },

    closePending: (): void => {
      setPending(undefined);
      setPicked([]);
    },

    constrain: (kind: ConstraintKind): void => {
      const failure = session.edit({
        type: 'sketch.draw',
        sketch,
        entities: [],
        constraints: [{ type: 'constraint', id: newId(), sketch, kind, on: [...selected] }],
        dimensions: [],
        values: [],
        shape: shapeToStore(shape),
      });
      if (!failure) setSelected([]);
    },

    toggleConstruction: (): void => {
      const ids = selected.filter((id) => {
        const record = findAny(session.document, id);
        return record !== undefined && isEntity(record) && record.type !== 'point';
      });
      const isConstruction = ids.some((id) => {
        const record = findAny(session.document, id);
        return record !== undefined && isEntity(record) && record.isConstruction !== true;
      });
      if (ids.length > 0) session.edit({ type: 'entity.setConstruction', ids, isConstruction });
    },

    remove: (): void => {
      const ids = [...selected];
      if (ids.length === 0) return;
      editOrAsk(session, workspace, `Delete ${ids.length === 1 ? 'it' : `${ids.length} things`} from the sketch`, (readers) => ({
        type: 'sketch.erase',
        sketch,
        ids,
        readers,
      }));
      setSelected([]);
    },

    /** The shape with some geometry pulled to the pointer. */
    dragTo: (grabbed: string, from: Place, to: Place): SketchDrag | undefined => {
      const targets = dragTargets(shape, grabbed, from, to);
      if (targets.length === 0) return undefined;
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
    },

    drop: (drag: SketchDrag): void => {
      const stored = shapeToStore({ entities: shape.entities, point: (id) => drag.points[id] ?? [0, 0], radius: (id) => drag.radii[id] ?? 0 });
      session.edit({ type: 'sketch.reshape', sketch, ...stored });
    },
  };
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
