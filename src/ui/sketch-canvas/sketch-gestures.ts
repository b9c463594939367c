/**
 * What a click, a key or a choice does in the sketcher, as pure functions from one state to the next; tested as tables.
 *
 * A gesture reads the sketch as it is drawn now (the room) and says what comes of it: a state, and an edit where the sketch is
 * to change. Nothing is edited here: whoever plays a gesture makes the edit, and takes the state that was refused where it failed.
 */
import { applyEdit, findAny, findRecord, isEntity, listRecords, type ConstraintKind, type Edit, type Readers } from '@/core/document';
import {
  canStart,
  chainOf,
  clickToDraw,
  drawEdit,
  findEntity,
  mirrorCurves,
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
import { sourceOf, type BackdropCurve } from './backdrop';
import { cutTool, isChangeTool, isCutTool, type ChangeTool, type ChangeWish } from './change-tools';

export type SketchTool = 'select' | 'dimension' | DrawTool | ChangeTool;

export interface DrawOptions {
  readonly isConstruction: boolean;
  readonly sides: number;
}

/** A figure that was just drawn and is asked for its sizes. */
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

/** What the sketcher holds between two gestures. */
export interface SketchState {
  readonly tool: SketchTool;
  readonly draw: DrawState | undefined;
  readonly options: DrawOptions;
  readonly selected: readonly string[];
  /** What the next dimension is to be between. */
  readonly picked: readonly string[];
  /** A dimension that waits for its value. */
  readonly pending: OfferedDimension | undefined;
  readonly wish: ChangeWish | undefined;
  readonly fresh: FreshShape | undefined;
  readonly open: OpenValue | undefined;
  /** What is asked for, or why nothing came of a gesture. */
  readonly word: string | undefined;
}

/** What a gesture is made in; places in millimetres in the plane of the sketch. */
export interface SketchRoom extends ChangeContext {
  /** How far beside geometry the text of an offered dimension stands. */
  readonly gap: number;
  /** What may be taken from behind the sketch at a place. */
  readonly findBehind: (at: Place) => BackdropCurve | undefined;
}

/** What comes of a gesture. */
export interface Turn {
  /** The state, once its edit is made where it has one. */
  readonly state: SketchState;
  readonly edit?: Edit;
  /** The state where the edit is refused. */
  readonly refused?: SketchState;
  /** An edit that may take something out that is read: made, or asked about. */
  readonly change?: { readonly title: string; readonly make: (readers: Readers) => Edit };
}

export type Gesture = (state: SketchState, room: SketchRoom) => Turn;

export const START: SketchState = {
  tool: 'select',
  draw: undefined,
  options: { isConstruction: false, sides: 6 },
  selected: [],
  picked: [],
  pending: undefined,
  wish: undefined,
  fresh: undefined,
  open: undefined,
  word: undefined,
};

/** The figure that is being drawn: a line goes on from where its end is now, whatever moved it since. */
export function drawNow({ draw }: SketchState, shape: DrawnShape): DrawState | undefined {
  const placeNow = ({ id, snap }: DrawState['points'][number]): Place =>
    id !== undefined && findEntity(shape, id)?.type === 'point' ? shape.point(id) : snap.at;
  return draw && { ...draw, points: draw.points.map((point) => ({ ...point, snap: { ...point.snap, at: placeNow(point) } })) };
}

/** The dimension that is asked for now: one that was placed, or the next of a figure just drawn. */
export function dimensionNow({ pending, fresh }: SketchState, { document, sketch, shape, gap }: SketchRoom): OfferedDimension | undefined {
  if (pending || !fresh) return pending;
  const offers = fresh.typed === undefined ? offerDimensions : offerTyped;
  return offers(fresh.tool, fresh.figure, readShape(document, sketch, shapeToStore(shape)), gap)[fresh.at];
}

export function chooseTool(tool: SketchTool): Gesture {
  return (state) => ({ state: withTool(state, tool) });
}

function withTool(state: SketchState, tool: SketchTool): SketchState {
  const draw = tool === 'select' || tool === 'dimension' || isChangeTool(tool) ? undefined : startDrawing(tool, state.options);
  return { ...state, tool, draw, picked: [], pending: undefined, wish: undefined, fresh: undefined, word: undefined };
}

export function setOptions(changes: Partial<DrawOptions>): Gesture {
  return (state) => {
    const options = { ...state.options, ...changes };
    return { state: { ...state, options, draw: state.draw && { ...state.draw, ...options } } };
  };
}

export function say(word: string | undefined): Gesture {
  return (state) => ({ state: { ...state, word } });
}

export function openValue(open: OpenValue | undefined): Gesture {
  return (state) => ({ state: { ...state, open } });
}

/** Selects what lies under a click; with `isAdding` beside what is selected, or takes it out of that. */
export function select(id: string | undefined, isAdding: boolean): Gesture {
  return (state) => {
    const { selected } = state;
    const next = id === undefined ? (isAdding ? selected : []) : isAdding ? toggled(selected, id) : [id];
    return { state: { ...state, selected: next, word: undefined } };
  };
}

export function selectAll(ids: readonly string[]): Gesture {
  return (state) => ({ state: { ...state, selected: ids } });
}

/** Selects a curve and all that hang together with it. */
export function selectChain(id: string): Gesture {
  return (state, { shape }) => ({ state: { ...state, selected: chainOf(shape, id) } });
}

/** A click with a tool that draws. */
export function click(snap: Snap): Gesture {
  return (state, room) => {
    const draw = drawNow(state, room.shape);
    if (!draw) return { state };
    const here = { ...state, fresh: undefined };
    if (draw.points.length === 0 && !canStart(draw.tool, snap, room.shape)) {
      return { state: { ...here, word: 'A tangent arc begins at the end of a line or arc.' } };
    }
    const { next, figure } = clickToDraw(draw, snap, room);
    const drawn = { ...here, draw: next, word: undefined };
    if (!figure) return { state: drawn };
    return { state: { ...drawn, fresh: { tool: draw.tool, figure, at: 0 } }, edit: drawEdit(room.sketch, figure, shapeToStore(room.shape)), refused: drawn };
  };
}

/** A size is typed while something is being drawn: it is drawn as it stands, and asked for its size. No edit comes of it where there is nothing to draw. */
export function typeOver(text: string, snap: Snap): Gesture {
  return (state, room) => {
    const draw = drawNow(state, room.shape);
    if (!draw || draw.points.length === 0) return { state };
    const { next, figure } = clickToDraw(draw, snap, room);
    if (!figure) return { state };
    const edit = drawEdit(room.sketch, figure, shapeToStore(room.shape));
    return { state: { ...state, draw: next, fresh: { tool: draw.tool, figure, at: 0, typed: text } }, edit, refused: state };
  };
}

/** A click with one of the tools that change what is there; `id` is what lies under it. */
export function clickToChange(id: string | undefined, at: Place): Gesture {
  return (state, room) => {
    const { tool, selected } = state;
    if (!isChangeTool(tool)) return { state };
    if (isCutTool(tool)) {
      if (id === undefined) return { state };
      const result = cutTool(tool)(room, id, at);
      if (!result.ok) return { state: { ...state, word: result.failure } };
      return { state: { ...state, word: undefined }, change: { title: `${tool} this curve`, make: result.value } };
    }
    switch (tool) {
      case 'mirror':
        return id === undefined ? { state } : mirrorIn(id, state, room);
      case 'repeat':
        return id === undefined ? { state } : repeatAt(id, state, room);
      case 'take':
        return takeAt(at, state, room).turn;
      case 'offset':
        if (selected.length > 0) return { state: { ...state, wish: { tool, ids: selected, at } } };
        return { state: { ...state, selected: id === undefined ? selected : chainOf(room.shape, id), word: 'Now a place on the side where the copy goes.' } };
      case 'fillet':
      case 'chamfer':
        if (id === undefined || findEntity(room.shape, id)?.type !== 'point') {
          return { state: { ...state, word: 'Choose a corner: a point where two lines meet.' } };
        }
        return { state: { ...state, wish: { tool, ids: [id], at: room.shape.point(id) } } };
    }
  };
}

function mirrorIn(id: string, state: SketchState, room: SketchRoom): Turn {
  const { selected } = state;
  const isAxis = id.endsWith('-axis') || (selected.length > 0 && findEntity(room.shape, id)?.type === 'line' && !selected.includes(id));
  if (!isAxis) return { state: { ...state, selected: [...selected, id], word: 'Now the line to mirror in.' } };
  const result = mirrorCurves(room, selected, id);
  if (!result.ok) return { state: { ...state, word: result.failure } };
  const said = { ...state, word: undefined };
  return { state: { ...said, selected: [] }, edit: result.value({ mode: 'refuse' }), refused: said };
}

/** Curves are collected until a line, an axis or a point says where the copies go. */
function repeatAt(id: string, state: SketchState, room: SketchRoom): Turn {
  const { selected } = state;
  const entity = findEntity(room.shape, id);
  const isTarget = id.endsWith('-axis') || id === 'origin' || entity?.type === 'point' || (entity?.type === 'line' && entity.isConstruction === true);
  if (selected.length === 0 || !isTarget) {
    return { state: { ...state, selected: toggled(selected, id), word: 'Now an axis or construction line to repeat along, or a point to turn about.' } };
  }
  const result = repeatCurvesOf(room, selected, id);
  if (!result.ok) return { state: { ...state, word: result.failure } };
  const edit = result.value({ mode: 'refuse' });
  const said = { ...state, word: undefined };
  const made = applyEdit(room.document, edit);
  const repeat = made.ok ? listRecords(made.value.document, `${room.sketch}/constraints`, 'repeat').at(-1) : undefined;
  const open = repeat && { id: `${repeat.id} count`, parameter: repeat.count, at: [...room.shape.point(id)] as const, kind: 'count', sketch: room.sketch };
  return { state: { ...said, selected: [], open: open ?? state.open }, edit, refused: said };
}

/** Takes the edge of a body, or the curve of another sketch, into this one; with what it is here, where that can be. */
function takeAt(at: Place, state: SketchState, room: SketchRoom): { readonly turn: Turn; readonly taken: string | undefined } {
  const behind = room.findBehind(at);
  if (!behind) return { turn: { state: { ...state, word: 'Click an edge of a body, or a curve of another sketch.' } }, taken: undefined };
  const edit = takeEdit(room.sketch, sourceOf(behind), behind.points, room.newId);
  if (!edit) return { turn: { state: { ...state, word: 'Only straight and round edges can be taken.' } }, taken: undefined };
  const said = { ...state, word: undefined };
  return { turn: { state: said, edit, refused: said }, taken: edit.entities.at(-1)?.id };
}

/** A click with the dimension tool. An edge of a body that nothing is drawn over is taken in as it is picked. */
export function pickForDimension(under: string | undefined, at: Place): Gesture {
  return (state, room) => {
    const { picked } = state;
    const take = under === undefined && picked.length < 2 && room.findBehind(at) ? takeAt(at, state, room) : undefined;
    if (take?.taken !== undefined) return { ...take.turn, state: { ...take.turn.state, picked: [...picked, take.taken] } };
    if (under !== undefined && picked.length < 2 && !picked.includes(under)) return { state: { ...state, picked: [...picked, under] } };
    const here = take?.turn.state ?? state;
    const plan: DimensionPlan | undefined = planDimension(room.shape, picked, at);
    return { state: plan ? { ...here, pending: { plan, at } } : here };
  };
}

/** The box of a dimension was closed, with its value taken or not: on to the next dimension of a figure just drawn, or back to the tool. */
export function closeDimension(isTaken: boolean): Gesture {
  return (state) => {
    const { fresh, pending } = state;
    const next = isTaken && fresh && !pending ? { ...fresh, at: fresh.at + 1 } : undefined;
    return { state: { ...state, pending: undefined, picked: [], fresh: next } };
  };
}

/** The box of a change was closed: with nothing made, or with the change. */
export function closeChange(isMade: boolean): Gesture {
  return (state) => ({
    state: { ...state, wish: undefined, ...(isMade && { word: undefined }), ...(isMade && state.tool === 'offset' && { selected: [] }) },
  });
}

/** Back by one: out of the question, the chain of lines, the picks, the tool, the selection. */
export const back: Gesture = (before, room) => {
  // A figure that no dimension is asked for any more is no question.
  const state = dimensionNow(before, room) ? before : { ...before, fresh: undefined };
  const said = { ...state, word: undefined };
  if (state.fresh) return { state: { ...said, fresh: undefined } };
  if (state.draw && state.draw.points.length > 0) return { state: { ...said, draw: startDrawing(state.draw.tool, state.options) } };
  if (state.wish) return { state: { ...said, wish: undefined } };
  if (state.picked.length > 0) return { state: { ...said, picked: [] } };
  if (state.pending) return { state: { ...said, pending: undefined } };
  return { state: state.tool === 'select' ? { ...said, selected: [] } : withTool(said, 'select') };
};

export function constrain(kind: ConstraintKind): Gesture {
  return (state, { sketch, shape, newId }) => {
    const on = kind === 'symmetric' ? axisLast(shape, state.selected) : [...state.selected];
    const edit: Edit = {
      type: 'sketch.draw',
      sketch,
      entities: [],
      constraints: [{ type: 'constraint', id: newId(), sketch, kind, on }],
      dimensions: [],
      values: [],
      shape: shapeToStore(shape),
    };
    return { state: { ...state, selected: [] }, edit, refused: state };
  };
}

/** Makes what is selected construction geometry, or all of it ordinary where all was. */
export const toggleConstruction: Gesture = (state, { document }) => {
  const curves = state.selected.flatMap((id) => {
    const record = findAny(document, id);
    return record !== undefined && isEntity(record) && record.type !== 'point' ? record : [];
  });
  if (curves.length === 0) return { state };
  const isConstruction = curves.some((curve) => curve.isConstruction !== true);
  return { state, edit: { type: 'entity.setConstruction', ids: curves.map(({ id }) => id), isConstruction } };
};

/** Makes each selected dimension a reference, or a driving one again. */
export const toggleReference: Gesture = (state, { document }) => {
  const edits = state.selected.flatMap((id) => {
    const dimension = findRecord(document, id, 'dimension');
    return dimension ? { type: 'dimension.update' as const, id, isReference: dimension.isReference !== true } : [];
  });
  const [only] = edits;
  if (!only) return { state };
  return { state, edit: edits.length === 1 ? only : { type: 'batch', edits } };
};

/** Deletes things of the sketch, or asks about what reads them. */
export function remove(ids: readonly string[]): Gesture {
  return (state, { document, sketch }) => {
    const mine = ids.filter((id) => findAny(document, id) !== undefined);
    if (mine.length === 0) return { state };
    const title = `Delete ${mine.length === 1 ? 'it' : `${mine.length} things`} from the sketch`;
    return { state: { ...state, selected: [] }, change: { title, make: (readers) => ({ type: 'sketch.erase', sketch, ids: mine, readers }) } };
  };
}

export const removeSelected: Gesture = (state, room) => remove(state.selected)(state, room);

function toggled(ids: readonly string[], id: string): readonly string[] {
  return ids.includes(id) ? ids.filter((other) => other !== id) : [...ids, id];
}

/** The line that two things are symmetric about is named last. */
function axisLast(shape: DrawnShape, ids: readonly string[]): string[] {
  const axis = ids.find((id) => id.endsWith('-axis') || findEntity(shape, id)?.type === 'line');
  return axis === undefined ? [...ids] : [...ids.filter((id) => id !== axis), axis];
}
