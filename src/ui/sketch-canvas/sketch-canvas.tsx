'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import { findRecord, listRecords, slotOf, type PlaneName, type SketchDimension } from '@/core/document';
import { DATUM_FRAMES } from '@/core/geometry';
import type { BodyOutcome } from '@/core/steps';
import { FormulaBox } from '../formula-box/formula-box';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';
import { editValue, splitNamed } from '../state/value-edits';
import { findFormulaTarget } from '../state/workspace';
import { BodyLayer } from './body-layer';
import { ConstraintLayer } from './constraint-layer';
import { DimensionLayer } from './dimension-layer';
import { dimensionEdit, suggestedText } from './dimension-plan';
import { DraftLayer } from './draft-layer';
import { readShape, shapeToStore, type Place } from './drawn-shape';
import { AxisLayer, ShapeLayer } from './shape-layer';
import { SketchStrip } from './sketch-strip';
import { fitView, panBy, toPlane, toScreen, zoomAt, type SketchView } from './sketch-view';
import { findSnap, findUnder, type Snap } from './snapping';
import { useSketchTools, type SketchDrag } from './use-sketch-tools';

/** How near the pointer must come, in pixels. */
const REACH_PX = 9;

type Gesture =
  | { readonly kind: 'pan'; readonly x: number; readonly y: number }
  | { readonly kind: 'geometry'; readonly id: string; readonly from: Place; readonly hasMoved: boolean }
  | { readonly kind: 'label'; readonly dimension: SketchDimension; readonly hasMoved: boolean };

/** The open sketch, looked at straight: drawing, constraining, dimensioning, dragging. */
export function SketchCanvas({ sketch }: { sketch: string }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const host = useRef<HTMLDivElement>(null);
  const document = useSessionState((state) => state.document);
  const outcome = useSessionState((state) => state.regenerated?.steps.find((step) => step.id === sketch));
  const solved = outcome?.sketch;
  const step = findRecord(document, sketch, 'sketch');
  const [drag, setDrag] = useState<SketchDrag>();
  const [moved, setMoved] = useState<{ id: string; at: Place }>();
  const [gesture, setGesture] = useState<Gesture>();
  const [snap, setSnap] = useState<Snap>();
  const [view, setView] = useState<SketchView>();
  const shape = useMemo(() => readShape(document, sketch, drag ?? solved), [document, sketch, solved, drag]);
  const tools = useSketchTools(sketch, shape);
  const free = useMemo(() => new Set(solved?.free ?? []), [solved]);
  const marked = useMemo(() => new Set([...(solved?.conflicting ?? []), ...(outcome?.problem?.about ?? [])]), [solved, outcome]);
  const selected = useMemo(() => new Set([...tools.selected, ...tools.picked]), [tools.selected, tools.picked]);
  // A dropped shape stays in sight until the solve that starts from it has come back.
  const [solvedBefore, setSolvedBefore] = useState(solved);
  if (solved !== solvedBefore) {
    setSolvedBefore(solved);
    if (gesture?.kind !== 'geometry') setDrag(undefined);
  }
  const bodies = useSessionState((state) => state.regenerated?.bodies);
  const corners = cornersIn(step?.plane ?? 'front', bodies ?? []);
  const latest = useRef({ shape, sketch, corners });
  useEffect(() => {
    latest.current = { shape, sketch, corners };
  });

  useEffect(() => {
    // The size of the canvas is the browser's; the first size also chooses what is in view.
    const element = host.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(() => {
      const { clientWidth, clientHeight } = element;
      if (clientWidth === 0) return;
      setView((before) => {
        if (before) return { ...before, widthPx: clientWidth, heightPx: clientHeight };
        const labels = listRecords(session.document, `${latest.current.sketch}/constraints`, 'dimension').map((dimension) => dimension.at);
        return fitView(latest.current.shape, [...labels, ...latest.current.corners], clientWidth, clientHeight);
      });
    });
    observer.observe(element);
    element.focus();
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      setView((before) => before && zoomAt(before, [event.clientX - box.left, event.clientY - box.top], Math.exp(-event.deltaY * 0.0015)));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => {
      observer.disconnect();
      element.removeEventListener('wheel', onWheel);
    };
  }, [session]);

  const placeOf = (event: React.PointerEvent | React.MouseEvent): Place => {
    const box = host.current?.getBoundingClientRect();
    const pixel: Place = [event.clientX - (box?.left ?? 0), event.clientY - (box?.top ?? 0)];
    return view ? toPlane(view, pixel) : [0, 0];
  };
  const reach = REACH_PX / (view?.scale ?? 1);

  const onPointerDown = (event: React.PointerEvent): void => {
    if (!view) return;
    if (findFormulaTarget()) event.preventDefault();
    if (event.button === 1 || event.button === 2) {
      setGesture({ kind: 'pan', x: event.clientX, y: event.clientY });
      return;
    }
    const at = placeOf(event);
    if (tools.draw) {
      tools.click(findSnap(shape, at, reach, tools.draw.tool === 'line' ? tools.draw.points.at(-1)?.snap.at : undefined));
      return;
    }
    const under = findUnder(shape, at, reach);
    if (tools.tool === 'dimension') {
      // The value box that may open takes the focus; the canvas must not take it back.
      event.preventDefault();
      tools.pickForDimension(under, at);
      return;
    }
    tools.select(under, event.shiftKey || event.ctrlKey);
    if (under === undefined) setGesture({ kind: 'pan', x: event.clientX, y: event.clientY });
    else if (!event.shiftKey && !event.ctrlKey) setGesture({ kind: 'geometry', id: under, from: at, hasMoved: false });
    event.currentTarget.setPointerCapture(event.pointerId);
  };

  const onPointerMove = (event: React.PointerEvent): void => {
    if (!view) return;
    const at = placeOf(event);
    if (gesture?.kind === 'pan') {
      setView(panBy(view, event.clientX - gesture.x, event.clientY - gesture.y));
      setGesture({ kind: 'pan', x: event.clientX, y: event.clientY });
    } else if (gesture?.kind === 'geometry') {
      if (!gesture.hasMoved && Math.hypot(at[0] - gesture.from[0], at[1] - gesture.from[1]) < reach / 2) return;
      setDrag(tools.dragTo(gesture.id, gesture.from, at) ?? drag);
      setGesture({ ...gesture, from: at, hasMoved: true });
    } else if (gesture?.kind === 'label') {
      setMoved({ id: gesture.dimension.id, at });
      setGesture({ ...gesture, hasMoved: true });
    } else if (tools.draw) {
      setSnap(findSnap(shape, at, reach, tools.draw.tool === 'line' ? tools.draw.points.at(-1)?.snap.at : undefined));
    } else setSnap(tools.tool === 'dimension' ? { at } : undefined);
  };

  const onPointerUp = (): void => {
    if (gesture?.kind === 'geometry' && drag) tools.drop(drag);
    if (gesture?.kind === 'label' && moved) session.edit({ type: 'dimension.update', id: moved.id, at: [moved.at[0], moved.at[1]] });
    setGesture(undefined);
    setMoved(undefined);
  };

  const onKeyDown = (event: React.KeyboardEvent): void => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
    const keys = { l: 'line', r: 'rectangle', c: 'circle', a: 'arc', d: 'dimension' } as const;
    const key = event.key.toLowerCase();
    if (key in keys) tools.setTool(keys[key as keyof typeof keys]);
    else if (key === 'escape' || key === 'enter') tools.back();
    else if (key === 'delete' || key === 'backspace') tools.remove();
    else if (key === 'f' && view) setView(fitView(shape, corners, view.widthPx, view.heightPx));
    else return;
    event.preventDefault();
  };

  const onPressLabel = (dimension: SketchDimension, event: React.PointerEvent): void => {
    event.stopPropagation();
    const target = findFormulaTarget();
    const name = findRecord(document, dimension.parameter, 'parameter')?.name;
    if (target && name !== undefined) {
      event.preventDefault();
      target.insert(name);
      return;
    }
    tools.select(dimension.id, event.shiftKey);
    workspace.setState({ selected: dimension.parameter });
    setGesture({ kind: 'label', dimension, hasMoved: false });
  };

  if (!step) return null;
  const { open, pending } = tools;
  return (
    <div className="relative h-full w-full overflow-hidden bg-linen">
      <SketchStrip
        sketch={sketch}
        tool={tools.tool}
        offers={tools.offers}
        selected={tools.selected}
        onTool={(tool) => {
          tools.setTool(tool);
          host.current?.focus();
        }}
        onConstrain={tools.constrain}
        onConstruction={tools.toggleConstruction}
        onDelete={tools.remove}
      />
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- a drawing worked on by pointer and keys */}
      <div
        ref={host}
        role="application"
        aria-label={`Sketch ${step.name}`}
        tabIndex={0} // eslint-disable-line jsx-a11y/no-noninteractive-tabindex -- its keys choose tools
        className={`absolute inset-0 touch-none ${tools.tool === 'select' ? '' : 'cursor-crosshair'}`}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={onPointerUp}
        onContextMenu={(event) => event.preventDefault()}
        onKeyDown={onKeyDown}
      >
        {view && (
          <svg width={view.widthPx} height={view.heightPx} className="block select-none">
            <AxisLayer view={view} />
            <BodyLayer view={view} plane={step.plane} />
            <ConstraintLayer sketch={sketch} view={view} shape={shape} selected={selected} marked={marked} onSelect={(id) => tools.select(id, false)} />
            <ShapeLayer view={view} shape={shape} free={free} conflicting={marked} selected={selected} />
            <DimensionLayer
              sketch={sketch}
              view={view}
              shape={shape}
              solved={solved}
              conflicting={marked}
              moved={moved}
              onPress={onPressLabel}
              onOpen={tools.setOpen}
            />
            <DraftLayer view={view} draw={tools.draw} snap={snap} />
          </svg>
        )}
      </div>
      {outcome?.problem && <p className="absolute inset-x-0 bottom-0 border-t border-madder bg-madder-wash px-3 py-1 text-madder">{outcome.problem.message}</p>}
      {view && open && (
        <BoxAt place={toScreen(view, open.at)}>
          <FormulaBox
            key={open.id}
            values={session.values}
            initial={findRecord(document, open.parameter, 'parameter')?.formula.text ?? ''}
            label={`Value of ${findRecord(document, open.parameter, 'parameter')?.name ?? 'the dimension'}`}
            slot={slotOf({ kind: open.kind === 'angle' ? 'angle' : 'length', name: 'the dimension', owner: sketch })}
            forId={open.parameter}
            onCancel={() => tools.setOpen(undefined)}
            onAccept={(text) => {
              const edit = editValue(session.document, open.parameter, text);
              const failure = edit && session.edit(edit);
              if (!failure) tools.setOpen(undefined);
              return failure?.message;
            }}
          />
        </BoxAt>
      )}
      {view && pending && (
        <BoxAt place={toScreen(view, pending.at)}>
          <FormulaBox
            values={session.values}
            initial={suggestedText(pending.plan)}
            label="Value of the new dimension"
            slot={slotOf({ kind: pending.plan.kind === 'angle' ? 'angle' : 'length', name: 'the dimension', owner: sketch })}
            onCancel={tools.closePending}
            onAccept={(text) => {
              const { name, formula } = splitNamed(text);
              const failure = session.edit(
                dimensionEdit(session.document, { sketch, plan: pending.plan, at: pending.at, name, formula }, newId, shapeToStore(shape)),
              );
              if (!failure) {
                tools.closePending();
                host.current?.focus();
              }
              return failure?.message;
            }}
          />
        </BoxAt>
      )}
    </div>
  );
}

/** Corners of the boxes of the bodies, in the plane of the sketch: what should be in view behind it. */
function cornersIn(plane: PlaneName, bodies: readonly BodyOutcome[]): Place[] {
  const { x, y } = DATUM_FRAMES[plane];
  const along = (axis: readonly number[], corner: readonly number[]): number => axis.reduce((sum, part, i) => sum + part * (corner[i] ?? 0), 0);
  return bodies.flatMap(({ properties }) =>
    properties ? [properties.box.min, properties.box.max].map((corner): Place => [along(x, corner), along(y, corner)]) : [],
  );
}

/** A value box over a place of the canvas, kept inside its right edge. */
function BoxAt({ place: [x, y], children }: { place: Place; children: React.ReactNode }) {
  return (
    <div className="absolute z-30 flex w-64" style={{ left: `clamp(4px, ${x - 128}px, calc(100% - 260px))`, top: Math.max(90, y - 14) }}>
      {children}
    </div>
  );
}
