'use client';
import { useEffect, useRef, useState } from 'react';
import type { ShownPlane } from './plane-figures';
import type { PickedGeometry, PickKind } from '../state/shown-body';
import type { Viewport } from './viewport';

interface Pointed {
  readonly at: readonly [number, number];
  /** Of the picture, in pixels. */
  readonly width: number;
  readonly picked: PickedGeometry | undefined;
  readonly words: string;
}

interface Behind {
  readonly at: readonly [number, number];
  readonly found: readonly PickedGeometry[];
}

interface PointedAt {
  /** The face, edge or corner that is lit. */
  readonly lit: PickedGeometry | undefined;
  /** What it is, beside the pointer. */
  readonly words: React.ReactNode;
  /** What lies behind the pointer, while it is asked for. */
  readonly behind: Behind | undefined;
  readonly onPointerMove: (event: React.PointerEvent) => void;
  readonly list: (viewport: Viewport, at: [number, number]) => void;
  /** Lights what a list points at. */
  readonly point: (picked: PickedGeometry) => void;
  readonly clear: () => void;
}

interface Wish {
  readonly wants: PickKind;
  readonly nameOf: ((picked: PickedGeometry) => string | undefined) | undefined;
  readonly planes: readonly ShownPlane[];
}

/** What is under the pointer: looked for once in a frame, while no button is down. */
export function usePointedAt(viewport: Viewport | undefined, { wants, nameOf, planes }: Wish): PointedAt {
  const [pointed, setPointed] = useState<Pointed>();
  const [behind, setBehind] = useState<Behind>();
  const frame = useRef(0);
  useEffect(() => () => cancelAnimationFrame(frame.current), []);
  const look = (at: [number, number], width: number): void => {
    const plane = planes.length > 0 ? viewport?.pickPlane(...at) : undefined;
    if (planes.length > 0) viewport?.lightPlane(plane);
    const picked = plane === undefined && nameOf ? viewport?.pick(...at, wants) : undefined;
    const words = picked && nameOf?.(picked);
    setPointed((now) => (words === undefined ? undefined : now && isSame(now.picked, picked) ? { ...now, at, width } : { at, width, picked, words }));
  };
  return {
    lit: pointed?.picked,
    words: pointed && !behind && (
      <p
        aria-hidden
        className="pointer-events-none absolute max-w-72 truncate rounded-box bg-walnut px-1.5 py-0.5 text-xs text-linen"
        style={{ ...besidePointer(pointed), top: pointed.at[1] + 16 }}
      >
        {pointed.words}
      </p>
    ),
    behind,
    onPointerMove: (event) => {
      if (!viewport || (!nameOf && planes.length === 0) || behind) return;
      cancelAnimationFrame(frame.current);
      if (event.buttons !== 0) {
        setPointed(undefined);
        return;
      }
      const box = event.currentTarget.getBoundingClientRect();
      const at: [number, number] = [event.clientX - box.left, event.clientY - box.top];
      frame.current = requestAnimationFrame(() => look(at, box.width));
    },
    list: (viewport, at) => {
      const found = viewport.pickThrough(...at);
      setBehind(found.length > 0 ? { at, found } : undefined);
    },
    point: (picked) => setPointed({ at: [0, 0], width: 0, picked, words: '' }),
    clear: () => {
      cancelAnimationFrame(frame.current);
      setPointed(undefined);
      setBehind(undefined);
      if (planes.length > 0) viewport?.lightPlane(undefined);
    },
  };
}

function isSame(one: PickedGeometry | undefined, other: PickedGeometry | undefined): boolean {
  return one?.name === other?.name && one?.body === other?.body;
}

/** The widest label, in pixels. */
const LABEL_PX = 288;

/** To the right of the pointer, or to its left where the picture ends. */
function besidePointer({ at: [x], width }: Pointed): React.CSSProperties {
  return x + 14 + LABEL_PX > width ? { right: width - x + 14 } : { left: x + 14 };
}

interface PickListProps extends Behind {
  readonly nameOf: (picked: PickedGeometry) => string | undefined;
  readonly onPoint: (picked: PickedGeometry) => void;
  readonly onChoose: (picked: PickedGeometry) => void;
  readonly onClose: () => void;
}

/** The faces behind a place of the picture, nearest first. */
export function PickList({ at, found, nameOf, onPoint, onChoose, onClose }: PickListProps) {
  return (
    <ul
      aria-label="Behind the pointer"
      className="absolute z-20 max-h-60 overflow-y-auto rounded-box border border-rule bg-sheet py-1 shadow-box"
      style={{ left: at[0], top: at[1] }}
    >
      {found.map((picked, i) => (
        <li key={`${picked.body} ${picked.name}`}>
          <button
            type="button"
            autoFocus={i === 0} // oxlint-disable-line jsx-a11y/no-autofocus -- opened by the user to choose from
            className="block w-full px-3 py-1 text-left hover:bg-indigo-wash focus:bg-indigo-wash"
            onPointerEnter={() => onPoint(picked)}
            onFocus={() => onPoint(picked)}
            onClick={() => onChoose(picked)}
            onKeyDown={(event) => {
              if (event.key === 'Escape') onClose();
              const next = event.key === 'ArrowDown' ? 'nextElementSibling' : event.key === 'ArrowUp' ? 'previousElementSibling' : undefined;
              if (next) event.currentTarget.parentElement?.[next]?.querySelector('button')?.focus();
            }}
          >
            {nameOf(picked) ?? picked.name}
          </button>
        </li>
      ))}
    </ul>
  );
}
