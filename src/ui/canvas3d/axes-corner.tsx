'use client';
import { useEffect, useRef } from 'react';
import { roundLength } from './framing';
import type { SeenAxes, Viewport } from './viewport';
import { useViewSettings } from './view-settings';

const AXES = ['x', 'y', 'z'] as const;
/** Pixels: the square that the axes are drawn in, half of it, and how long an axis is that lies across the view. */
const SIZE = 76;
const MIDDLE = SIZE / 2;
const ARM = 26;
/** How long the line of the scale may be, in pixels. */
const SCALE_PX = 110;

/** The axes as they are seen, each a button that looks along it; and in a parallel picture how long a millimetre is. */
export function AxesCorner({ viewport }: { viewport: Viewport }) {
  const host = useRef<HTMLDivElement>(null);
  const { isPerspective } = useViewSettings();
  useEffect(() => {
    const place = (): void => {
      if (host.current) drawAxes(host.current, viewport.seenAxes());
    };
    place();
    return viewport.onDraw(place);
  }, [viewport, isPerspective]);
  return (
    <div ref={host} data-clear className="pointer-events-none absolute bottom-2 left-2 flex items-end gap-2">
      <div className="relative" style={{ width: SIZE, height: SIZE }}>
        <svg width={SIZE} height={SIZE} aria-hidden className="absolute inset-0">
          {AXES.map((axis) => (
            <line key={axis} data-line={axis} x1={MIDDLE} y1={MIDDLE} stroke={COLOURS[axis]} strokeWidth={1.6} strokeLinecap="round" />
          ))}
          <circle cx={MIDDLE} cy={MIDDLE} r={2.2} fill="var(--walnut-soft)" />
        </svg>
        {AXES.map((axis) => (
          <button
            key={axis}
            type="button"
            data-axis={axis}
            aria-label={`Look along ${axis}`}
            title={`Look along ${axis}; again for the other way`}
            className="pointer-events-auto absolute top-0 left-0 h-6 w-6 rounded-full font-mono text-[13px] leading-6 font-semibold hover:bg-flax-deep"
            style={{ color: COLOURS[axis] }}
            onClick={() => viewport.lookAlong(axis)}
          >
            {axis}
          </button>
        ))}
      </div>
      {!isPerspective && (
        <div className="mb-2 text-xs text-walnut-soft">
          <div data-scale-text className="text-center font-mono tabular-nums" />
          <div data-scale-line className="h-1.5 border-x border-b border-walnut-soft" />
        </div>
      )}
    </div>
  );
}

/** The three dyes that are told apart also by how light they are; the letter says which it is. */
const COLOURS: Readonly<Record<(typeof AXES)[number], string>> = { x: 'var(--madder)', y: 'var(--moss)', z: 'var(--indigo)' };

function drawAxes(host: HTMLElement, { axes, perPixel }: SeenAxes): void {
  for (const axis of AXES) {
    const [x, y] = axes[axis];
    const line = host.querySelector(`[data-line="${axis}"]`);
    line?.setAttribute('x2', `${MIDDLE + ARM * x}`);
    line?.setAttribute('y2', `${MIDDLE + ARM * y}`);
    const button = host.querySelector<HTMLElement>(`[data-axis="${axis}"]`);
    // An axis that is looked along has its letter in the middle.
    const reach = ARM * Math.hypot(x, y) < 8 ? 0 : ARM + 9;
    const length = Math.hypot(x, y) || 1;
    if (button) button.style.transform = `translate(${MIDDLE - 12 + (reach * x) / length}px, ${MIDDLE - 12 + (reach * y) / length}px)`;
  }
  const length = roundLength(SCALE_PX * perPixel);
  const text = host.querySelector<HTMLElement>('[data-scale-text]');
  const line = host.querySelector<HTMLElement>('[data-scale-line]');
  if (text) text.textContent = `${Number(length.toPrecision(3))} mm`;
  if (line) line.style.width = `${length / perPixel}px`;
}
