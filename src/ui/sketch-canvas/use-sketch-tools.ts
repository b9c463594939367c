'use client';
/** The state of the sketch canvas: tool, figure being drawn, selection, dragging, the open value box. */
import { useState } from 'react';
import { findAny, findRecord, isEntity, listRecords, type ConstraintKind } from '@/core/document';
import {
  canStart,
  chainOf,
  clickToDraw,
  drawEdit,
  findEntity,
  mirrorCurves,
  offerConstraints,
  offerDimensions,
  offerTyped,
  planDimension,
  readShape,
  repeatCurvesOf,
  shapeToStore,
  startDrawing,
  takeEdit,
  type ChangeContext,
  type DimensionPlan,
  type DrawnShape,
  type DrawState,
  type DrawTool,
  type Figure,
  type OfferedDimension,
  type Place,
  type Snap,
} from '@/core/drawing';
import { useSession, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';
import { editOrAsk } from '../state/removal';
import { cutTool, isChangeTool, isCutTool, type ChangeTool, type ChangeWish } from './change-tools';
import { sourceOf, type BackdropCurve } from './backdrop';
import { copySelection, pasteBeside } from './clipboard';
import { ShapeDrag, type SketchDrag } from './drag';

export type SketchTool = 'select' | 'dimension' | DrawTool | ChangeTool;

interface FreshShape {
  readonly tool: DrawTool;
  readonly figure: Figure;
  /** Which of the offered dimensions is asked for. */
  readonly at: number;
  /** What was typed of the first of them while it was being drawn. */
  readonly typed?: string;
}

/** A value of the sketch whose box is open on the canvas. */
export interface OpenValue {
  readonly id: string;
  readonly parameter: string;
  readonly at: readonly [number, number];
  /** What it is: a kind of dimension, or of quantity. */
  readonly kind: string;
  readonly sketch: string;
}

export interface DrawOptions {
  readonly isConstruction: boolean;
  readonly sides: number;
}

export function useSketchTools(sketch: string, shape: DrawnShape, gap: number, findBehind: (at: Place) => BackdropCurve | undefined) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [tool, setToolState] = useState<SketchTool>('select');
  const [begun, setDraw] = useState<DrawState>();
  // What was drawn may have moved since: a line goes on from where its end is now.
  const draw = begun && { ...begun, points: begun.points.map((point) => ({ ...point, snap: { ...point.snap, at: placeOf(shape, point) } })) };
  const [options, setOptionsState] = useState<DrawOptions>({ isConstruction: false, sides: 6 });
  const [selected, setSelected] = useState<readonly string[]>([]);
  const [picked, setPicked] = useState<readonly string[]>([]);
  const [pending, setPending] = useState<{ readonly plan: DimensionPlan; readonly at: Place }>();
  const [wish, setWish] = useState<ChangeWish>();
  const [fresh, setFresh] = useState<FreshShape>();
  const [open, setOpen] = useState<OpenValue>();
  const [word, setWord] = useState<string>();

  const context = (): ChangeContext => ({ document: session.document, sketch, shape, newId });

  const setTool = (next: SketchTool): void => {
    setToolState(next);
    setDraw(next === 'select' || next === 'dimension' || isChangeTool(next) ? undefined : startDrawing(next, options));
    setPicked([]);
    setPending(undefined);
    setWish(undefined);
    setFresh(undefined);
    setWord(undefined);
  };

  const remove = (ids: readonly string[]): void => {
    const mine = ids.filter((id) => findAny(session.document, id) !== undefined);
    if (mine.length === 0) return;
    editOrAsk(session, workspace, `Delete ${mine.length === 1 ? 'it' : `${mine.length} things`} from the sketch`, (readers) => ({
      type: 'sketch.erase',
      sketch,
      ids: [...mine],
      readers,
    }));
    setSelected([]);
  };

  /** Takes the edge of a body, or the curve of another sketch, into this one, and gives what it is here. */
  const takeAt = (at: Place): string | undefined => {
    const behind = findBehind(at);
    if (!behind) {
      setWord('Click an edge of a body, or a curve of another sketch.');
      return undefined;
    }
    const edit = takeEdit(sketch, sourceOf(behind), behind.points, newId);
    setWord(edit ? undefined : 'Only straight and round edges can be taken.');
    return edit && !session.edit(edit) ? edit.entities.at(-1)?.id : undefined;
  };

  /** Curves are collected until a line, an axis or a point says where the copies go. */
  const repeatWith = (id: string | undefined): void => {
    if (id === undefined) return;
    const entity = findEntity(shape, id);
    const isTarget = id.endsWith('-axis') || id === 'origin' || entity?.type === 'point' || (entity?.type === 'line' && entity.isConstruction === true);
    if (selected.length === 0 || !isTarget) {
      setSelected(selected.includes(id) ? selected.filter((other) => other !== id) : [...selected, id]);
      setWord('Now an axis or construction line to repeat along, or a point to turn about.');
      return;
    }
    const result = repeatCurvesOf(context(), selected, id);
    setWord(result.ok ? undefined : result.failure);
    if (!result.ok || session.edit(result.value({ mode: 'refuse' }))) return;
    setSelected([]);
    const repeat = listRecords(session.document, `${sketch}/constraints`, 'repeat').at(-1);
    if (repeat) setOpen({ id: `${repeat.id} count`, parameter: repeat.count, at: [...shape.point(id)], kind: 'count', sketch });
  };

  const offered = (): OfferedDimension | undefined => {
    if (!fresh) return undefined;
    const offers = fresh.typed === undefined ? offerDimensions : offerTyped;
    return offers(fresh.tool, fresh.figure, readShape(session.document, sketch, shapeToStore(shape)), gap)[fresh.at];
  };

  return {
    tool,
    draw,
    options,
    selected,
    picked,
    pending: pending ?? offered(),
    wish,
    open,
    word,
    say: setWord,
    setTool,
    setOpen,
    setWish,
    context,
    offers: offerConstraints(shape, selected),
    /** Where a line being drawn comes from, for its snaps. */
    snapFrom: draw && (draw.tool === 'line' || draw.tool === 'arc-tangent') ? lastPoint(draw) : undefined,

    setOptions: (changes: Partial<DrawOptions>): void => {
      const next = { ...options, ...changes };
      setOptionsState(next);
      if (draw) setDraw({ ...draw, ...next });
    },

    select: (id: string | undefined, isAdding: boolean): void => {
      setWord(undefined);
      if (id === undefined) setSelected(isAdding ? selected : []);
      else if (!isAdding) setSelected([id]);
      else setSelected(selected.includes(id) ? selected.filter((other) => other !== id) : [...selected, id]);
    },
    selectAll: setSelected,
    selectChain: (id: string): void => setSelected(chainOf(shape, id)),

    /** What stands in the box of the next dimension already. */
    typed: pending ? undefined : fresh?.at === 0 ? fresh.typed : undefined,

    /** A size is typed while something is being drawn: it is drawn as it stands, and asked for its size. Whether there was anything to draw. */
    typeOver: (text: string, snap: Snap): boolean => {
      if (!draw || draw.points.length === 0) return false;
      const { next, figure } = clickToDraw(draw, snap, { sketch, shape, newId });
      if (!figure || session.edit(drawEdit(sketch, figure, shapeToStore(shape)))) return false;
      setDraw(next);
      setFresh({ tool: draw.tool, figure, at: 0, typed: text });
      return true;
    },

    click: (snap: Snap): void => {
      if (!draw) return;
      setFresh(undefined);
      if (draw.points.length === 0 && !canStart(draw.tool, snap, shape)) {
        setWord('A tangent arc begins at the end of a line or arc.');
        return;
      }
      setWord(undefined);
      const { next, figure } = clickToDraw(draw, snap, { sketch, shape, newId });
      setDraw(next);
      if (!figure) return;
      if (!session.edit(drawEdit(sketch, figure, shapeToStore(shape)))) setFresh({ tool: draw.tool, figure, at: 0 });
    },

    /** A click with one of the tools that change what is there. */
    clickToChange: (id: string | undefined, at: Place): void => {
      if (!isChangeTool(tool)) return;
      if (isCutTool(tool)) {
        if (id === undefined) return;
        const result = cutTool(tool)(context(), id, at);
        setWord(result.ok ? undefined : result.failure);
        if (result.ok) editOrAsk(session, workspace, `${tool} this curve`, result.value);
        return;
      }
      if (tool === 'mirror') {
        if (id === undefined) return;
        const isAxis = id.endsWith('-axis') || (selected.length > 0 && findEntity(shape, id)?.type === 'line' && !selected.includes(id));
        if (!isAxis) {
          setSelected([...selected, id]);
          setWord('Now the line to mirror in.');
          return;
        }
        const result = mirrorCurves(context(), selected, id);
        setWord(result.ok ? undefined : result.failure);
        if (result.ok && !session.edit(result.value({ mode: 'refuse' }))) setSelected([]);
        return;
      }
      if (tool === 'take') {
        takeAt(at);
        return;
      }
      if (tool === 'repeat') {
        repeatWith(id);
        return;
      }
      if (tool === 'offset') {
        if (selected.length === 0) {
          if (id !== undefined) setSelected(chainOf(shape, id));
          setWord('Now a place on the side where the copy goes.');
        } else setWish({ tool, ids: selected, at });
        return;
      }
      if (id === undefined || findEntity(shape, id)?.type !== 'point') setWord('Choose a corner: a point where two lines meet.');
      else setWish({ tool, ids: [id], at: shape.point(id) });
    },

    finishChange: (failure: string | undefined): void => {
      setWord(failure);
      if (failure !== undefined) return;
      setWish(undefined);
      if (tool === 'offset') setSelected([]);
    },

    /** Ends a chain of lines, then the tool. */
    back: (): void => {
      setWord(undefined);
      if (fresh) setFresh(undefined);
      else if (draw && draw.points.length > 0) setDraw(startDrawing(draw.tool, options));
      else if (wish) setWish(undefined);
      else if (picked.length > 0) setPicked([]);
      else if (pending) setPending(undefined);
      else if (tool !== 'select') setTool('select');
      else setSelected([]);
    },

    /** An edge of a body that nothing is drawn over is taken in as it is picked. */
    pickForDimension: (under: string | undefined, at: Place): void => {
      const id = under ?? (picked.length < 2 && findBehind(at) ? takeAt(at) : undefined);
      if (id !== undefined && picked.length < 2 && !picked.includes(id)) {
        setPicked([...picked, id]);
        return;
      }
      const plan = planDimension(shape, picked, at);
      if (plan) setPending({ plan, at });
    },

    /** The value was taken: on to the next dimension of a fresh shape, or back to the tool. */
    closePending: (isTaken: boolean): void => {
      setPending(undefined);
      setPicked([]);
      setFresh(isTaken && fresh && !pending ? { ...fresh, at: fresh.at + 1 } : undefined);
    },

    constrain: (kind: ConstraintKind): void => {
      const on = kind === 'symmetric' ? axisLast(shape, selected) : [...selected];
      const failure = session.edit({
        type: 'sketch.draw',
        sketch,
        entities: [],
        constraints: [{ type: 'constraint', id: newId(), sketch, kind, on }],
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

    toggleReference: (): void => {
      for (const id of selected) {
        const dimension = findRecord(session.document, id, 'dimension');
        if (dimension) session.edit({ type: 'dimension.update', id, isReference: dimension.isReference !== true });
      }
    },

    remove: (): void => remove(selected),
    removeAll: remove,

    copy: (): void => setWord(copySelection(context(), selected) ? 'Copied.' : 'Select what to copy.'),
    paste: (): void => {
      const pasted = pasteBeside(context());
      if (pasted && !session.edit(pasted.edit)) setSelected(pasted.ids);
    },

    startDrag: (): ShapeDrag => new ShapeDrag(session, sketch, shape),

    drop: (drag: SketchDrag): void => {
      const stored = shapeToStore({ entities: shape.entities, point: (id) => drag.points[id] ?? [0, 0], radius: (id) => drag.radii[id] ?? 0 });
      session.edit({ type: 'sketch.reshape', sketch, ...stored });
    },
  };
}

export type SketchTools = ReturnType<typeof useSketchTools>;

function placeOf(shape: DrawnShape, { id, snap }: DrawState['points'][number]): Place {
  return id !== undefined && findEntity(shape, id)?.type === 'point' ? shape.point(id) : snap.at;
}

function lastPoint(draw: DrawState): { readonly at: Place; readonly id: string | undefined } | undefined {
  const last = draw.points.at(-1);
  return last && { at: last.snap.at, id: last.id };
}

/** The line that two things are symmetric about is named last. */
function axisLast(shape: DrawnShape, ids: readonly string[]): string[] {
  const axis = ids.find((id) => id.endsWith('-axis') || findEntity(shape, id)?.type === 'line');
  return axis === undefined ? [...ids] : [...ids.filter((id) => id !== axis), axis];
}
