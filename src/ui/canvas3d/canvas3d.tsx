'use client';
import { createContext, useCallback, useEffect, useMemo, useRef } from 'react';
import type { Point3 } from '@/core/geometry';
import { Button } from '../design/button';
import { placeLabels } from '../design/place-labels';
import { followPointer } from '../state/follow-pointer';
import { createViewport, type Viewport, type ViewName } from './viewport';
import type { PickedGeometry, PickKind, SectionPlane, ShownBody } from './shown-body';

const VIEWS: readonly { readonly name: ViewName; readonly label: string; readonly key: string }[] = [
  { name: 'front', label: 'Front', key: '1' },
  { name: 'right', label: 'Right', key: '2' },
  { name: 'top', label: 'Top', key: '3' },
  { name: 'back', label: 'Back', key: '4' },
  { name: 'left', label: 'Left', key: '5' },
  { name: 'bottom', label: 'Bottom', key: '6' },
  { name: 'corner', label: 'Corner', key: '0' },
];

interface Canvas3dProps {
  readonly bodies: readonly ShownBody[];
  readonly highlighted?: ReadonlySet<string>;
  /** Faces and edges that are offered, lit in another colour. */
  readonly hints?: ReadonlySet<string>;
  /** What a click looks for. */
  readonly wants?: PickKind;
  readonly onPick?: (picked: PickedGeometry | undefined) => void;
  /** What a body that is pressed does when the pointer is dragged; undefined for one that is not dragged: then the view turns. */
  readonly onGrab?: ((picked: PickedGeometry, place: Point3) => Grab | undefined) | undefined;
  /** Cuts what is shown. */
  readonly section?: SectionPlane | undefined;
  /** Splits the picture at this part of its width: see {@link ShownBody.side}. */
  readonly split?: number | undefined;
  /** Words and boxes that stay at places of the solid. */
  readonly labels?: readonly SpaceLabel[];
  /** Without the list of views, for small pictures; their keys still work. */
  readonly isSmall?: boolean;
  /** In words, for those who do not see the picture. */
  readonly description: string;
}

/** A drag of a body: where the place that was pressed is to come, and its end. */
export interface Grab {
  readonly move: (to: Point3) => void;
  readonly end: (isKept: boolean) => void;
}

/** Something to read or press at a place in space. */
export interface SpaceLabel {
  readonly key: string;
  readonly at: Point3;
  /** Where its line leads to. */
  readonly from?: Point3;
  /** Pixels below its place: for several at one. */
  readonly shift: number;
  readonly content: React.ReactNode;
}

/** Room between labels and the edge of the picture, in pixels. */
const EDGE = 6;

/** The pixels of a place as it is seen now; for what stands in labels. */
export type ToScreen = (place: Point3) => readonly [number, number] | undefined;

export const ToScreenContext = createContext<ToScreen>(() => undefined);

const NOTHING: ReadonlySet<string> = new Set();
const NO_LABELS: readonly SpaceLabel[] = [];

/** Bodies in space. Drag turns, right drag moves, wheel zooms; keys 1 to 6 and 0 give views, F fits, + and - zoom. */
export function Canvas3d({
  bodies,
  highlighted = NOTHING,
  hints = NOTHING,
  wants = 'face',
  onPick,
  onGrab,
  description,
  section,
  labels = NO_LABELS,
  split,
  isSmall = false,
}: Canvas3dProps) {
  const host = useRef<HTMLDivElement>(null);
  const viewport = useRef<Viewport>(null);
  const pressed = useRef<{ x: number; y: number }>(null);
  const signature = useMemo(
    () => bodies.map(({ key, body, look, colour, side, place }) => [key, body, look, colour, side, place].join(' ')).join('|'),
    [bodies],
  );
  const latest = useRef(bodies);

  useEffect(() => {
    latest.current = bodies;
  });
  useEffect(() => {
    // Three draws outside React, into its own canvas.
    if (!host.current) return undefined;
    const created = createViewport(host.current);
    viewport.current = created;
    return () => created.destroy();
  }, []);
  useEffect(() => {
    viewport.current?.show(latest.current);
  }, [signature]);
  useEffect(() => {
    viewport.current?.highlight(highlighted, hints);
  }, [highlighted, hints]);

  const { normal: [nx = 0, ny = 0, nz = 0] = [], offset = 0 } = section ?? {};
  const isCut = section !== undefined;
  useEffect(() => {
    viewport.current?.cut(isCut ? { normal: [nx, ny, nz], offset } : undefined);
  }, [isCut, nx, ny, nz, offset]);

  useEffect(() => {
    viewport.current?.split(split);
  }, [split]);

  const toScreen = useCallback<ToScreen>((place) => viewport.current?.project(place), []);
  const layer = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // Labels follow the picture outside React: each drawn frame moves them.
    const place = (): void => {
      const drawn = labels.map((label) => {
        const [box, lead] = ['label', 'lead'].map((part) => layer.current?.querySelector<HTMLElement>(`[data-${part}="${CSS.escape(label.key)}"]`));
        const at = viewport.current?.project(label.at);
        if (box) box.style.display = at ? '' : 'none';
        return { box, lead, at, from: (label.from && viewport.current?.project(label.from)) ?? at, shift: label.shift };
      });
      const seen = drawn.flatMap(({ box, at, ...rest }) => (box && at ? { box, at, ...rest } : []));
      // All are measured before any is moved.
      const wishes = seen.map(({ box, at: [x, y], shift }) => ({ at: [x, y + shift] as const, width: box.offsetWidth, height: box.offsetHeight }));
      const { clientWidth = 0, clientHeight = 0 } = layer.current ?? {};
      const places = placeLabels(wishes, { left: EDGE, top: EDGE, right: clientWidth - EDGE, bottom: clientHeight - EDGE });
      for (const [i, { box, lead, from }] of seen.entries()) {
        const [x, y] = places[i] ?? [0, 0];
        box.style.transform = `translate(${x}px, ${y}px) translate(-50%, -50%)`;
        for (const [name, value] of Object.entries({ x1: from?.[0], y1: from?.[1], x2: x, y2: y })) lead?.setAttribute(name, `${value ?? 0}`);
      }
    };
    viewport.current?.onDraw(place);
    place();
  }, [labels]);

  const onKeyDown = (event: React.KeyboardEvent): void => {
    const view = VIEWS.find(({ key }) => key === event.key);
    if (view) viewport.current?.view(view.name);
    else if (event.key === 'f' || event.key === 'F') viewport.current?.fit();
    else if (event.key === '+' || event.key === '=') viewport.current?.zoom(1.2);
    else if (event.key === '-') viewport.current?.zoom(1 / 1.2);
    else return;
    event.preventDefault();
  };

  return (
    <div className="relative h-full w-full overflow-hidden bg-linen">
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- a picture that is turned by keys and mouse */}
      <div
        ref={host}
        role="img"
        aria-label={description}
        tabIndex={0} // eslint-disable-line jsx-a11y/no-noninteractive-tabindex -- its keys turn the picture
        className="absolute inset-0"
        onKeyDown={onKeyDown}
        onMouseDown={(event) => {
          // Who types into a form and picks what it is about goes on typing.
          if (document.activeElement?.closest('form')) event.preventDefault();
        }}
        onPointerDown={(event) => {
          pressed.current = { x: event.clientX, y: event.clientY };
          if (onGrab && event.button === 0 && viewport.current) grab(viewport.current, event, onGrab);
        }}
        onPointerUp={(event) => {
          const from = pressed.current;
          if (!from || !onPick || Math.hypot(event.clientX - from.x, event.clientY - from.y) > CLICK_PX || event.button !== 0) return;
          const box = event.currentTarget.getBoundingClientRect();
          onPick(viewport.current?.pick(event.clientX - box.left, event.clientY - box.top, wants));
        }}
      />
      <ToScreenContext.Provider value={toScreen}>
        <div ref={layer} className="pointer-events-none absolute inset-0 overflow-hidden">
          <svg className="absolute inset-0 h-full w-full" aria-hidden="true">
            {labels.map(({ key }) => (
              <line key={key} data-lead={key} stroke="var(--orchil)" strokeWidth={1.2} />
            ))}
          </svg>
          {labels.map(({ key, content }) => (
            <div key={key} data-label={key} className="pointer-events-auto absolute top-0 left-0">
              {content}
            </div>
          ))}
        </div>
      </ToScreenContext.Provider>
      <ul aria-label="Views" className="absolute right-2 bottom-2 flex flex-wrap gap-1 rounded-box bg-flax/80 p-1">
        {(isSmall ? [] : VIEWS).map(({ name, label, key }) => (
          <li key={name}>
            <Button tone="quiet" className="h-6" onClick={() => viewport.current?.view(name)} title={`Key ${key}`}>
              {label}
            </Button>
          </li>
        ))}
        <li>
          <Button tone="quiet" className="h-6" onClick={() => viewport.current?.fit()} title="Key F">
            Fit
          </Button>
        </li>
        {!isSmall && (
          <li>
            <Button tone="quiet" className="h-6" title="Saves the view as a PNG picture" onClick={() => savePicture(viewport.current?.picture())}>
              Picture
            </Button>
          </li>
        )}
      </ul>
    </div>
  );
}

/** Drags what is pressed; nothing happens before the pointer has moved a little. */
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

function savePicture(address: string | undefined): void {
  if (address === undefined) return;
  const link = document.createElement('a');
  link.href = address;
  link.download = 'view.png';
  link.click();
}
