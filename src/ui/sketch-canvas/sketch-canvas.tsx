'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import { findRecord, listRecords, type SketchDimension } from '@/core/document';
import { findInBox, findSnap, findUnder, readShape, type Place, type Snap } from '@/core/drawing';
import { DATUM_FRAMES, type Frame } from '@/core/geometry';
import type { BodyProperties } from '@/core/kernel-port';
import type { BodyOutcome } from '@/core/steps';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { findFormulaTarget } from '../state/workspace';
import { nearestBehind, type BackdropCurve } from './backdrop';
import { BackdropLayer, useBackdrop } from './backdrop-layer';
import { isChangeTool } from './change-tools';
import { KeyCursor, SelectionBox, stepCursor } from './canvas-marks';
import { ConstraintLayer } from './constraint-layer';
import { markBoxes, placeConstraints } from './constraint-places';
import { DimensionLayer } from './dimension-layer';
import { DraftLayer } from './draft-layer';
import { ShapeDrag, type SketchDrag } from './drag';
import { RepeatLayer } from './repeat-layer';
import { AxisLayer, ShapeLayer } from './shape-layer';
import { SketchStrip, TOOL_KEYS } from './sketch-strip';
import { fitView, panBy, toPlane } from './sketch-view';
import { TroublePanel } from './trouble-panel';
import { useSketchTools } from './use-sketch-tools';
import { useView } from './use-view';
import { ValueBoxes } from './value-boxes';

/** How near the pointer must come, in pixels. */
const REACH_PX = 9;
/** How far beside geometry the text of an offered dimension stands, in pixels. */
const LABEL_GAP_PX = 34;
const WIGGLE_MS = 1400;
const WIGGLE_PX = 16;

type Gesture =
  | { readonly kind: 'pan'; readonly x: number; readonly y: number }
  | { readonly kind: 'box'; readonly from: Place; readonly to: Place; readonly isAdding: boolean }
  | { readonly kind: 'geometry'; readonly id: string; readonly from: Place; readonly drag: ShapeDrag; readonly hasMoved: boolean }
  | { readonly kind: 'label'; readonly dimension: SketchDimension; readonly hasMoved: boolean };

/** How a size begins that is typed while something is being drawn. */
const SIZE_BEGINS = /^[0-9.(]$/;

/** The open sketch, looked at straight: drawing, constraining, dimensioning, changing, dragging. */
export function SketchCanvas({ sketch }: { sketch: string }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const outcome = useSessionState((state) => state.regenerated?.steps.find((step) => step.id === sketch));
  const solved = outcome?.sketch;
  const step = findRecord(document, sketch, 'sketch');
  const [drag, setDrag] = useState<SketchDrag>();
  const [moved, setMoved] = useState<{ id: string; at: Place }>();
  const [gesture, setGesture] = useState<Gesture>();
  const [snap, setSnap] = useState<Snap>();
  /** Where the pointer is, or the cross of the keys: known at once, while what is shown may come a picture later. */
  const pointed = useRef<Place>(undefined);
  const shape = useMemo(() => readShape(document, sketch, drag ?? solved), [document, sketch, solved, drag]);
  const bodies = useSessionState((state) => state.regenerated?.bodies);
  const frame = solved?.frame ?? (typeof step?.plane === 'string' ? DATUM_FRAMES[step.plane] : DATUM_FRAMES.front);
  const corners = cornersIn(frame, bodies ?? []);
  const { host, view, setView } = useView(sketch, [...frame.origin, ...frame.normal].join(' '), shape, corners);
  const reach = REACH_PX / (view?.scale ?? 1);
  const [isTaking, setTaking] = useState(false);
  const backdrop = useBackdrop(sketch, frame, isTaking);
  const [cursor, setCursor] = useState<Place>();
  const [lit, setLit] = useState<BackdropCurve>();
  const tools = useSketchTools(sketch, shape, LABEL_GAP_PX / (view?.scale ?? 1), (at) => nearestBehind(backdrop, at, reach));
  if (isTaking !== (tools.tool === 'take')) setTaking(tools.tool === 'take');
  const free = useMemo(() => new Set(solved?.free ?? []), [solved]);
  const marked = useMemo(() => new Set([...(solved?.conflicting ?? []), ...(outcome?.problem?.about ?? [])]), [solved, outcome]);
  const selected = useMemo(() => new Set([...tools.selected, ...tools.picked]), [tools.selected, tools.picked]);
  // A dropped shape stays in sight until the solve that starts from it has come back.
  const [solvedBefore, setSolvedBefore] = useState(solved);
  if (solved !== solvedBefore) {
    setSolvedBefore(solved);
    if (gesture?.kind !== 'geometry') setDrag(undefined);
  }

  const wiggle = useWorkspace((state) => state.wiggle);
  useEffect(() => {
    // Asked for from the status line: what is free moves for a moment, and comes back.
    if (wiggle === 0 || matchMedia('(prefers-reduced-motion: reduce)').matches) return undefined;
    const rest = readShape(session.document, sketch, session.store.getState().regenerated?.steps.find((entry) => entry.id === sketch)?.sketch);
    const movement = new ShapeDrag(session, sketch, rest);
    const start = performance.now();
    let frame = 0;
    const move = (now: number): void => {
      const phase = (now - start) / WIGGLE_MS;
      setDrag(phase >= 1 ? undefined : movement.wiggle(free, phase, WIGGLE_PX / (view?.scale ?? 1)));
      if (phase < 1) frame = requestAnimationFrame(move);
    };
    frame = requestAnimationFrame(move);
    return () => cancelAnimationFrame(frame);
    // One wiggle for each press, whatever changes meanwhile.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [wiggle]);

  const placeOf = (event: React.PointerEvent | React.MouseEvent): Place => {
    const box = host.current?.getBoundingClientRect();
    const pixel: Place = [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
    return view ? toPlane(view, pixel) : [0, 0];
  };

  /** What a click does with the present tool, whether it comes from a pointer or from the keys; gives what lies there. */
  const press = (at: Place, isAdding: boolean): string | undefined => {
    if (tools.draw) {
      tools.click(findSnap(shape, at, reach, tools.snapFrom));
      return undefined;
    }
    const under = findUnder(shape, at, reach);
    if (tools.tool === 'dimension') tools.pickForDimension(under, at);
    else if (isChangeTool(tools.tool)) tools.clickToChange(under, at);
    else tools.select(under, isAdding);
    return under;
  };

  /** Arrow keys move a cross over the plane, in steps that one can see; it snaps like the pointer. */
  const moveCursor = (key: string, isFar: boolean): void => {
    if (!view) return;
    const moved = stepCursor(view, cursor, key, isFar);
    setCursor(moved);
    hover(moved);
  };

  const hover = (at: Place): void => {
    pointed.current = at;
    if (tools.draw) setSnap(findSnap(shape, at, reach, tools.snapFrom));
    else setSnap(tools.tool === 'dimension' ? { at } : undefined);
    const takes = tools.tool === 'take' || (tools.tool === 'dimension' && tools.picked.length < 2 && findUnder(shape, at, reach) === undefined);
    setLit(takes ? nearestBehind(backdrop, at, reach) : undefined);
  };

  const onPointerDown = (event: React.PointerEvent): void => {
    if (!view) return;
    if (findFormulaTarget()) event.preventDefault();
    if (event.button !== 0) {
      setGesture({ kind: 'pan', x: event.clientX, y: event.clientY });
      event.currentTarget.setPointerCapture(event.pointerId);
      return;
    }
    const at = placeOf(event);
    setCursor(undefined);
    // The keys are the canvas's from now on, whatever is done here; a formula that is being typed keeps them.
    if (!findFormulaTarget()) host.current?.focus();
    const isAdding = event.shiftKey || event.ctrlKey;
    const under = press(at, isAdding);
    if (tools.tool !== 'select') {
      // A value box may open and takes the focus: the canvas must not take it back.
      event.preventDefault();
      return;
    }
    if (under === undefined) setGesture({ kind: 'box', from: at, to: at, isAdding });
    else if (!isAdding) setGesture({ kind: 'geometry', id: under, from: at, drag: tools.startDrag(), hasMoved: false });
    event.currentTarget.setPointerCapture(event.pointerId);
  };

  const onPointerMove = (event: React.PointerEvent): void => {
    if (!view) return;
    const at = placeOf(event);
    if (gesture?.kind === 'pan') {
      setView(panBy(view, event.clientX - gesture.x, event.clientY - gesture.y));
      setGesture({ kind: 'pan', x: event.clientX, y: event.clientY });
    } else if (gesture?.kind === 'box') setGesture({ ...gesture, to: at });
    else if (gesture?.kind === 'geometry') {
      if (!gesture.hasMoved && Math.hypot(at[0] - gesture.from[0], at[1] - gesture.from[1]) < reach / 2) return;
      setDrag(gesture.drag.dragTo(gesture.id, gesture.from, at) ?? drag);
      setGesture({ ...gesture, hasMoved: true });
    } else if (gesture?.kind === 'label') {
      setMoved({ id: gesture.dimension.id, at });
      setGesture({ ...gesture, hasMoved: true });
    } else hover(at);
  };

  const onPointerUp = (): void => {
    if (gesture?.kind === 'geometry' && drag) tools.drop(drag);
    if (gesture?.kind === 'label' && moved) session.edit({ type: 'dimension.update', id: moved.id, at: [moved.at[0], moved.at[1]] });
    if (gesture?.kind === 'box') {
      const inside = findInBox(shape, gesture.from, gesture.to);
      if (inside.length > 0) tools.selectAll([...new Set([...(gesture.isAdding ? tools.selected : []), ...inside])]);
    }
    setGesture(undefined);
    setMoved(undefined);
  };

  const onKeyDown = (event: React.KeyboardEvent): void => {
    if (event.target !== event.currentTarget || event.altKey) return;
    const key = event.key.toLowerCase();
    if (event.ctrlKey || event.metaKey) {
      if (key === 'c') tools.copy();
      else if (key === 'v') tools.paste();
      else if (key === 'a') tools.selectAll(shape.entities.filter((entity) => entity.type !== 'point').map(({ id }) => id));
      else return;
      event.preventDefault();
      return;
    }
    if (pointed.current && SIZE_BEGINS.test(event.key) && tools.typeOver(event.key, findSnap(shape, pointed.current, reach, tools.snapFrom))) {
      event.preventDefault();
      return;
    }
    const tool = TOOL_KEYS.get(key);
    if (key.startsWith('arrow')) moveCursor(key, event.shiftKey);
    else if (key === 'home') {
      setCursor([0, 0]);
      hover([0, 0]);
    } else if (key === ' ') {
      // The first one shows where the cross stands.
      if (cursor) press(cursor, event.shiftKey);
      else moveCursor(key, false);
    } else if (tool) tools.setTool(tool);
    else if (key === 'escape' || key === 'enter') tools.back();
    else if (key === 'delete' || key === 'backspace') tools.remove();
    else if (key === 'f' && view) setView(fitView(shape, corners, view.widthPx, view.heightPx));
    else return;
    event.preventDefault();
  };

  const onPressLabel = (dimension: SketchDimension, event: React.PointerEvent): void => {
    // What was begun is gone on with, whatever text stands in its way.
    if (tools.picked.length > 0 || (tools.draw?.points.length ?? 0) > 0) return;
    event.stopPropagation();
    const target = findFormulaTarget();
    const name = findRecord(document, dimension.parameter, 'parameter')?.name;
    if (target && name !== undefined) {
      event.preventDefault();
      target.insert(name);
      return;
    }
    host.current?.focus();
    tools.select(dimension.id, event.shiftKey);
    workspace.setState({ selected: dimension.parameter });
    setGesture({ kind: 'label', dimension, hasMoved: false });
  };

  if (!step) return null;
  const marks = view ? placeConstraints(listRecords(document, `${sketch}/constraints`, 'constraint'), shape, view) : [];
  return (
    <div className="relative h-full w-full overflow-hidden bg-linen">
      <SketchStrip
        sketch={sketch}
        shape={shape}
        tool={tools.tool}
        options={tools.options}
        offers={tools.offers}
        selected={tools.selected}
        word={tools.word}
        onTool={(tool) => {
          tools.setTool(tool);
          host.current?.focus();
        }}
        onFocus={() => host.current?.focus()}
        onOptions={tools.setOptions}
        onConstrain={tools.constrain}
        onConstruction={tools.toggleConstruction}
        onReference={tools.toggleReference}
        onDelete={tools.remove}
        onWord={tools.say}
      />
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- a drawing worked on by pointer and keys */}
      <div
        ref={host}
        role="application"
        aria-label={`Sketch ${step.name}`}
        tabIndex={0} // oxlint-disable-line jsx-a11y/no-noninteractive-tabindex -- its keys choose tools
        className={`absolute inset-0 touch-none ${tools.tool === 'select' ? '' : 'cursor-crosshair'}`}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={onPointerUp}
        onDoubleClick={(event) => {
          const under = tools.tool === 'select' ? findUnder(shape, placeOf(event), reach) : undefined;
          if (under !== undefined) tools.selectChain(under);
        }}
        onContextMenu={(event) => event.preventDefault()}
        onKeyDown={onKeyDown}
      >
        {view && (
          <svg width={view.widthPx} height={view.heightPx} className="block select-none">
            <AxisLayer view={view} />
            <BackdropLayer view={view} curves={backdrop} lit={lit} />
            <ShapeLayer view={view} shape={shape} free={free} conflicting={marked} selected={selected} />
            <ConstraintLayer places={marks} selected={selected} marked={marked} onSelect={(id) => tools.select(id, false)} />
            <RepeatLayer sketch={sketch} view={view} shape={shape} selected={selected} onSelect={(id) => tools.select(id, false)} onOpen={tools.setOpen} />
            <DimensionLayer
              sketch={sketch}
              view={view}
              shape={shape}
              solved={solved}
              conflicting={marked}
              marks={markBoxes(marks)}
              moved={moved}
              onPress={onPressLabel}
              onOpen={tools.setOpen}
              onDelete={({ id }) => {
                tools.removeAll([id]);
                host.current?.focus();
              }}
            />
            <DraftLayer view={view} shape={shape} draw={tools.draw} snap={snap} />
            {cursor && <KeyCursor view={view} at={cursor} />}
            {gesture?.kind === 'box' && <SelectionBox view={view} from={gesture.from} to={gesture.to} />}
          </svg>
        )}
      </div>
      {shape.entities.length === 0 && tools.tool === 'select' && (
        <p className="pointer-events-none absolute inset-x-0 top-1/2 mt-6 text-center text-walnut-soft">
          Draw about right first: L lines, R rectangle, C circle, S slot. Then D dimensions it. Arrow keys and space work like the pointer.
        </p>
      )}
      <TroublePanel sketch={sketch} solved={solved} problem={outcome?.problem?.message} />
      {view && <ValueBoxes view={view} tools={tools} onDone={() => host.current?.focus()} />}
    </div>
  );
}

/** Corners of the boxes of the bodies, in the plane of the sketch: what should be in view behind it. */
function cornersIn({ origin, x, y }: Frame, bodies: readonly BodyOutcome[]): Place[] {
  const along = (axis: readonly number[], corner: readonly number[]): number =>
    axis.reduce((sum, part, i) => sum + part * ((corner[i] ?? 0) - (origin[i] ?? 0)), 0);
  return bodies.flatMap(({ properties }) => (properties ? cornersOf(properties.box).map((corner): Place => [along(x, corner), along(y, corner)]) : []));
}

function cornersOf({ min, max }: BodyProperties['box']): (readonly number[])[] {
  return Array.from({ length: 8 }, (_, corner) => min.map((low, axis) => ((corner >> axis) & 1 ? (max[axis] ?? low) : low)));
}
