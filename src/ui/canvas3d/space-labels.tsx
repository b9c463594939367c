'use client';
import { createContext, useEffect, useRef } from 'react';
import type { Point3 } from '@/core/geometry';
import { placeLabels, within, type WishedLabel } from '../design/place-labels';
import { useStore } from 'zustand';
import { LabelGrip } from './label-grip';
import { movedLabels, type Shift } from './moved-labels';
import type { Viewport } from './viewport';

/** Something to read or press at a place in space. */
export interface SpaceLabel {
  readonly key: string;
  readonly at: Point3;
  /** Where its line leads to. */
  readonly from?: Point3;
  /** The lines of a dimension, where it is one; in millimetres. */
  readonly figure?: SpaceFigure;
  /** Pixels below its place: for several at one. */
  readonly shift: number;
  readonly content: React.ReactNode;
}

/** A dimension in space: thin lines from the geometry, and the dimension line with a tick at both ends. */
export interface SpaceFigure {
  readonly witness: readonly (readonly [Point3, Point3])[];
  readonly line: readonly Point3[];
}

/** The pixels of a place as it is seen now; for what stands in labels. */
export type ToScreen = (place: Point3) => readonly [number, number] | undefined;

export const ToScreenContext = createContext<ToScreen>(() => undefined);

/** Room between labels and the edge of the picture, in pixels. */
const EDGE = 6;

/** Words and boxes that stay at places of the solid, and never over one another. */
export function SpaceLabels({ viewport, labels }: { viewport: Viewport; labels: readonly SpaceLabel[] }) {
  const layer = useRef<HTMLDivElement>(null);
  const moved = useStore(movedLabels, ({ by }) => by);
  useEffect(() => {
    // Labels follow the picture outside React: each drawn frame moves them.
    const place = (): void => {
      if (layer.current) placeAll(layer.current, viewport, labels, moved);
    };
    place();
    return viewport.onDraw(place);
  }, [viewport, labels, moved]);
  return (
    <div ref={layer} className="pointer-events-none absolute inset-0 overflow-hidden">
      <svg className="absolute inset-0 h-full w-full" aria-hidden="true">
        {labels.map(({ key, figure }) => (
          <g key={key} data-figure={key} stroke="var(--indigo)" fill="none">
            {figure?.witness.map((_, i) => (
              <polyline key={i} data-witness strokeWidth={0.8} opacity={0.7} />
            ))}
            {figure && <polyline data-line strokeWidth={1.1} />}
            {figure && [0, 1].map((end) => <line key={end} data-tick strokeWidth={1.6} />)}
            <line data-lead strokeWidth={0.9} opacity={0.8} />
          </g>
        ))}
      </svg>
      {labels.map(({ key, figure, content }) => (
        <div key={key} data-label={key} className="group pointer-events-auto absolute top-0 left-0">
          {figure && <LabelGrip label={key} />}
          {content}
        </div>
      ))}
    </div>
  );
}

/** How far a text may be from its dimension line before a line ties it to that, in pixels. */
const ASIDE = 14;
/** Half of a tick, across and down. */
const TICK = 3.5;

/** Moves all labels and their lines to where they are seen now. */
function placeAll(layer: HTMLElement, viewport: Viewport, labels: readonly SpaceLabel[], moved: Readonly<Record<string, Shift>>): void {
  const find = (part: string, key: string): HTMLElement | null => layer.querySelector<HTMLElement>(`[data-${part}="${CSS.escape(key)}"]`);
  const drawn = labels.map((label) => {
    const at = viewport.project(label.at);
    const [box, figure] = [find('label', label.key), find('figure', label.key)];
    if (box) box.style.display = at ? '' : 'none';
    if (figure) figure.style.display = at ? '' : 'none';
    return { label, box, figure, at };
  });
  const seen = drawn.flatMap(({ box, at, ...rest }) => (box && at ? { box, at, ...rest } : []));
  // All are measured before any is moved.
  const { clientWidth, clientHeight } = layer;
  const room = { left: EDGE, top: EDGE, right: clientWidth - EDGE, bottom: clientHeight - EDGE };
  const wishes = seen.map(({ box: { offsetWidth: width, offsetHeight: height }, at: [x, y], label }): WishedLabel => {
    const wished = { at: [x, y + label.shift] as const, width, height };
    const by = moved[label.key];
    // Put there by hand, but never out of the picture.
    return by ? { ...wished, at: within(wished, [x + by[0], y + label.shift + by[1]], room), isHeld: true } : wished;
  });
  const places = placeLabels(wishes, room, { boxes: keptClear(layer), lines: [] });
  for (const [i, { label, box, figure, at }] of seen.entries()) {
    const to = places[i] ?? at;
    box.style.transform = `translate(${to[0]}px, ${to[1]}px) translate(-50%, -50%)`;
    if (figure) drawFigure(figure, viewport, label, at, to);
  }
}

/** What else stands on the picture, by its attribute `data-clear`. */
function keptClear(layer: HTMLElement): WishedLabel[] {
  const frame = layer.getBoundingClientRect();
  return [...(layer.parentElement?.querySelectorAll('[data-clear]') ?? [])].map((element) => {
    const { left, top, width, height } = element.getBoundingClientRect();
    return { at: [left - frame.left + width / 2, top - frame.top + height / 2], width, height };
  });
}

type Seen = readonly [x: number, y: number];

function drawFigure(host: HTMLElement, viewport: Viewport, { figure, from }: SpaceLabel, at: Seen, text: Seen): void {
  const pixels = (places: readonly Point3[]): Seen[] => places.map((place) => viewport.project(place)).filter((seen) => seen !== undefined);
  const put = (element: Element | null | undefined, start: Seen, end: Seen): void => {
    for (const [name, value] of Object.entries({ x1: start[0], y1: start[1], x2: end[0], y2: end[1] })) element?.setAttribute(name, value.toFixed(1));
  };
  const trace = (element: Element | null | undefined, places: readonly Seen[]): void =>
    element?.setAttribute('points', places.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join(' '));
  host.querySelectorAll('[data-witness]').forEach((element, i) => trace(element, pixels(figure?.witness[i] ?? [])));
  const line = pixels(figure?.line ?? []);
  trace(host.querySelector('[data-line]'), line);
  host.querySelectorAll('[data-tick]').forEach((element, i) => {
    const end = i === 0 ? line[0] : line.at(-1);
    if (end) put(element, [end[0] - TICK, end[1] + TICK], [end[0] + TICK, end[1] - TICK]);
  });
  // A text beside its line is tied to it; without a line of its own, to what it is about.
  const foot = figure ? at : ((from && viewport.project(from)) ?? at);
  const isAside = !figure || Math.hypot(text[0] - at[0], text[1] - at[1]) > ASIDE;
  put(host.querySelector('[data-lead]'), foot, isAside ? text : foot);
}
