'use client';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Point3 } from '@/core/geometry';
import { followPointer } from '../state/follow-pointer';
import { AxesCorner } from './axes-corner';
import type { PickBox } from './pick-box';
import { PickList, usePointedAt } from './pointed-at';
import type { ShownPlane } from './plane-figures';
import { SpaceLabels, ToScreenContext, type SpaceLabel, type ToScreen } from './space-labels';
import type { PickedGeometry, PickKind, SectionPlane, ShownBody } from '../state/shown-body';
import { FitButton, ViewBar, VIEWS } from './view-bar';
import { useViewSettings } from './view-settings';
import { Viewport } from './viewport';

interface Canvas3dProps {
  readonly bodies: readonly ShownBody[];
  readonly highlighted?: ReadonlySet<string>;
  /** Faces and edges that are offered, lit in another colour. */
  readonly hints?: ReadonlySet<string>;
  /** What a click looks for. */
  readonly wants?: PickKind;
  /** Whether what a click takes can be chosen in the menu of views. */
  readonly hasFilter?: boolean;
  /** What was clicked, and a place in space that is seen there: on it where it is a face. */
  readonly onPick?: (picked: PickedGeometry | undefined, place?: Point3) => void;
  /** What was caught by a box that was drawn with Shift; without it, none is drawn. */
  readonly onPickBox?: ((picked: readonly PickedGeometry[]) => void) | undefined;
  /** What is under the pointer in words, shown beside it; without it, nothing is told of what is pointed at. */
  readonly nameOf?: (picked: PickedGeometry) => string | undefined;
  /** Planes to choose from. */
  readonly planes?: readonly ShownPlane[];
  readonly onPickPlane?: ((id: string) => void) | undefined;
  /** What a body that is pressed does when the pointer is dragged; undefined for one that is not dragged: then the view turns. */
  readonly onGrab?: ((picked: PickedGeometry, place: Point3) => Grab | undefined) | undefined;
  /** Cuts what is shown. */
  readonly section?: SectionPlane | undefined;
  /** Splits the picture at this part of its width: see {@link ShownBody.side}. */
  readonly split?: number | undefined;
  /** Words and boxes that stay at places of the solid. */
  readonly labels?: readonly SpaceLabel[];
  /** Without the menu of views, for small pictures; their keys still work. */
  readonly isSmall?: boolean;
  /** In words, for those who do not see the picture. */
  readonly description: string;
  /** Beside the menu of views. */
  readonly children?: React.ReactNode;
}

/** A drag of a body: where the place that was pressed is to come, and its end. */
export interface Grab {
  readonly move: (to: Point3) => void;
  readonly end: (isKept: boolean) => void;
}

const NOTHING: ReadonlySet<string> = new Set();
const NO_LABELS: readonly SpaceLabel[] = [];
/** An edge against the sky is met where nothing is: its place is told in the plane through here. */
const ORIGIN: Point3 = [0, 0, 0];
const NO_PLANES: readonly ShownPlane[] = [];

/**
 * Bodies in space. Drag turns about what is under the pointer, right drag moves, wheel zooms, a double click fits a body; Alt and click
 * lists what lies behind; keys 1 to 6 and 0 give views, F fits, + and - zoom.
 */
export function Canvas3d(props: Canvas3dProps) {
  const { bodies, highlighted = NOTHING, hints = NOTHING, wants = 'face', onPick, nameOf, planes = NO_PLANES, onPickPlane, onGrab, onPickBox } = props;
  const { description, section, labels = NO_LABELS, split, isSmall = false, hasFilter = false, children } = props;
  const [viewport, setViewport] = useState<Viewport>();
  const mount = useCallback((host: HTMLDivElement | null) => {
    // Three draws outside React, into its own canvas.
    if (!host) return undefined;
    const created = new Viewport(host);
    setViewport(created);
    return () => {
      created.destroy();
      setViewport(undefined);
    };
  }, []);
  const pointed = usePointedAt(viewport, { wants, nameOf, planes: onPickPlane ? planes : NO_PLANES });
  useShown(viewport, { bodies, highlighted, hints, section, split, planes, pointed: pointed.lit });
  const toScreen = useCallback<ToScreen>((place) => viewport?.project(place), [viewport]);
  const [box, setBox] = useState<PickBox>();
  const pressed = useRef<{ x: number; y: number }>(null);

  const click = (viewport: Viewport, x: number, y: number): void => {
    const plane = onPickPlane && viewport.pickPlane(x, y);
    if (plane !== undefined) onPickPlane?.(plane);
    else onPick?.(viewport.pick(x, y, wants), viewport.hit(x, y)?.place ?? viewport.across(x, y, ORIGIN));
  };
  return (
    <div className="relative h-full w-full overflow-hidden bg-linen">
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- a picture that is turned by keys and mouse */}
      <div
        ref={mount}
        role="img"
        aria-label={description}
        tabIndex={0} // oxlint-disable-line jsx-a11y/no-noninteractive-tabindex -- its keys turn the picture
        className="absolute inset-0"
        onKeyDown={(event) => {
          if (viewport && doKey(viewport, event.key)) event.preventDefault();
        }}
        onMouseDown={(event) => {
          // Who types into a form and picks what it is about goes on typing.
          if (document.activeElement?.closest('form')) event.preventDefault();
        }}
        onPointerDown={(event) => {
          pressed.current = { x: event.clientX, y: event.clientY };
          if (!viewport || event.button !== 0) return;
          if (event.shiftKey && onPickBox) {
            drawBox(viewport, event, setBox, (box) => onPickBox(viewport.pickBox(box, wants)));
            return;
          }
          if (onGrab) grab(viewport, event, onGrab);
          if (!event.ctrlKey && !event.metaKey && !event.shiftKey) viewport.turnAbout(...placeIn(event));
        }}
        onPointerMove={pointed.onPointerMove}
        onPointerLeave={pointed.clear}
        onPointerUp={(event) => {
          viewport?.endTurn();
          const from = pressed.current;
          if (!viewport || !from || Math.hypot(event.clientX - from.x, event.clientY - from.y) > CLICK_PX || event.button !== 0) return;
          if (event.altKey && nameOf && onPick) pointed.list(viewport, placeIn(event));
          else click(viewport, ...placeIn(event));
        }}
        onDoubleClick={(event) => {
          if (!isSmall && !onPickPlane) viewport?.fitBody(viewport.pick(...placeIn(event), 'face')?.body);
        }}
      />
      {viewport && (
        <>
          <ToScreenContext.Provider value={toScreen}>
            <SpaceLabels viewport={viewport} labels={labels} />
          </ToScreenContext.Provider>
          {pointed.words}
          {box && <DrawnBox {...box} />}
          {pointed.behind && nameOf && (
            <PickList
              {...pointed.behind}
              nameOf={nameOf}
              onPoint={pointed.point}
              onClose={pointed.clear}
              onChoose={(picked) => {
                pointed.clear();
                onPick?.(picked);
              }}
            />
          )}
          {isSmall ? (
            <div className="absolute right-2 bottom-2">
              <FitButton viewport={viewport} />
            </div>
          ) : (
            <>
              <AxesCorner viewport={viewport} />
              <ViewBar viewport={viewport} hasFilter={hasFilter}>
                {children}
              </ViewBar>
            </>
          )}
        </>
      )}
    </div>
  );
}

interface Shown {
  readonly bodies: readonly ShownBody[];
  readonly highlighted: ReadonlySet<string>;
  readonly hints: ReadonlySet<string>;
  readonly section: SectionPlane | undefined;
  readonly split: number | undefined;
  readonly planes: readonly ShownPlane[];
  /** What is under the pointer. */
  readonly pointed: PickedGeometry | undefined;
}

/** Hands on to the picture what has changed, each thing for itself. */
function useShown(viewport: Viewport | undefined, { bodies, highlighted, hints, section, split, planes, pointed }: Shown): void {
  const signature = useMemo(
    () => bodies.map(({ key, body, look, colour, side, place }) => [key, body, look, colour, side, place].join(' ')).join('|'),
    [bodies],
  );
  const latest = useRef(bodies);
  useEffect(() => {
    latest.current = bodies;
  });
  useEffect(() => viewport?.show(latest.current), [viewport, signature]);
  useEffect(() => {
    viewport?.highlight({ selected: highlighted, hints, pointed: pointed?.name, pointedBody: pointed?.body });
  }, [viewport, highlighted, hints, pointed]);
  const { normal: [nx = 0, ny = 0, nz = 0] = [], offset = 0 } = section ?? {};
  const isCut = section !== undefined;
  useEffect(() => viewport?.cut(isCut ? { normal: [nx, ny, nz], offset } : undefined), [viewport, isCut, nx, ny, nz, offset]);
  useEffect(() => viewport?.split(split), [viewport, split]);
  useEffect(() => viewport?.showPlanes(planes), [viewport, planes]);
  const { isPerspective, showsGround, showsShade, showsEdges, showsHidden } = useViewSettings();
  useEffect(() => viewport?.setPerspective(isPerspective), [viewport, isPerspective]);
  useEffect(() => viewport?.showGround(showsGround), [viewport, showsGround]);
  useEffect(() => viewport?.showShade(showsShade), [viewport, showsShade]);
  useEffect(() => viewport?.drawEdges({ showsEdges, showsHidden }), [viewport, showsEdges, showsHidden]);
}

/** Whether a key does something in the picture; then it is done. */
function doKey(viewport: Viewport, key: string): boolean {
  const view = VIEWS.find((each) => each.key === key);
  if (view) viewport.view(view.name);
  else if (key === 'f' || key === 'F') viewport.fit();
  else if (key === '+' || key === '=') viewport.zoom(1.2);
  else if (key === '-') viewport.zoom(1 / 1.2);
  else return false;
  return true;
}

/** Where the pointer is in the picture, in CSS pixels. */
export function placeIn({ currentTarget, clientX, clientY }: React.PointerEvent | React.MouseEvent): [number, number] {
  const box = currentTarget.getBoundingClientRect();
  return [clientX - box.left, clientY - box.top];
}

/** Drags what is pressed; nothing happens before the pointer has moved a little. */
/** A rectangle that is being drawn: dashed where it takes what it touches as well. */
function DrawnBox({ from, to }: PickBox) {
  const [left, top] = [Math.min(from[0], to[0]), Math.min(from[1], to[1])];
  return (
    <span
      aria-hidden
      className={`pointer-events-none absolute border border-indigo bg-indigo-wash/40 ${to[0] < from[0] ? 'border-dashed' : ''}`}
      style={{ left, top, width: Math.abs(to[0] - from[0]), height: Math.abs(to[1] - from[1]) }}
    />
  );
}

function drawBox(viewport: Viewport, event: React.PointerEvent, onDrawn: (box: PickBox | undefined) => void, onEnd: (box: PickBox) => void): void {
  const around = event.currentTarget.getBoundingClientRect();
  const placeOf = ({ clientX, clientY }: { readonly clientX: number; readonly clientY: number }) => [clientX - around.left, clientY - around.top] as const;
  const from = placeOf(event);
  let to = from;
  viewport.hold(true);
  followPointer(
    (moved) => {
      to = placeOf(moved);
      onDrawn({ from, to });
    },
    (isKept) => {
      onDrawn(undefined);
      viewport.hold(false);
      if (isKept && Math.hypot(to[0] - from[0], to[1] - from[1]) > CLICK_PX) onEnd({ from, to });
    },
  );
}

function grab(viewport: Viewport, { clientX, clientY, currentTarget }: React.PointerEvent, onGrab: NonNullable<Canvas3dProps['onGrab']>): void {
  const box = currentTarget.getBoundingClientRect();
  const hit = viewport.hit(clientX - box.left, clientY - box.top);
  const grabbed = hit && onGrab(hit.picked, hit.place);
  if (!hit || !grabbed) return;
  viewport.hold(true);
  let latest: Point3 | undefined;
  let isMoved = false;
  let frame = 0;
  followPointer(
    (event) => {
      if (!isMoved && Math.hypot(event.clientX - clientX, event.clientY - clientY) <= CLICK_PX) return;
      isMoved = true;
      latest = viewport.across(event.clientX - box.left, event.clientY - box.top, hit.place);
      // Once for each frame, however often the pointer tells of itself.
      frame ||= requestAnimationFrame(() => {
        frame = 0;
        if (latest) grabbed.move(latest);
      });
    },
    (isKept) => {
      cancelAnimationFrame(frame);
      if (isMoved && isKept && latest) grabbed.move(latest);
      if (isMoved) grabbed.end(isKept);
      viewport.hold(false);
    },
  );
}

/** A pointer that is let go within so many pixels of where it was pressed has clicked. */
const CLICK_PX = 4;
