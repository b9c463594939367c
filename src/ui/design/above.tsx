'use client';
import { useLayoutEffect, useState, type RefObject } from 'react';
import { createPortal } from 'react-dom';

interface Place {
  readonly left: number;
  /** Distance of its lower edge from the lower edge of the window. */
  readonly bottom: number;
  readonly minWidth: number;
}

/** Room that is kept to the edges of the window, in pixels. */
const EDGE = 8;

/** What stands above something on the page, over whatever else is there: no list, header or edge cuts it off. It moves along. */
export function Above({ anchor, className, children }: { anchor: RefObject<HTMLElement | null>; className: string; children: React.ReactNode }) {
  const [place, setPlace] = useState<Place>();
  const [box, setBox] = useState<HTMLElement | null>(null);
  const [host, setHost] = useState<HTMLElement>();
  useLayoutEffect(() => {
    const element = anchor.current;
    if (!element) return undefined;
    // In a popover it must be part of that, or a press on it would be one outside.
    setHost(element.closest<HTMLElement>('[role="dialog"]') ? undefined : document.body);
    const put = (): void => {
      const { left, top, width } = element.getBoundingClientRect();
      const own = box?.getBoundingClientRect();
      const room = window.innerWidth - EDGE - (own?.width ?? 0);
      const highest = window.innerHeight - EDGE - (own?.height ?? 0);
      const next = { left: Math.max(EDGE, Math.min(left, room)), bottom: Math.min(window.innerHeight - top + 4, highest), minWidth: Math.min(width, 208) };
      setPlace((now) => (now?.left === next.left && now.bottom === next.bottom && now.minWidth === next.minWidth ? now : next));
    };
    put();
    const observer = new ResizeObserver(put);
    observer.observe(element);
    if (box) observer.observe(box);
    // Lists scroll, and what stands above the anchor comes and goes.
    window.addEventListener('scroll', put, true);
    window.addEventListener('resize', put);
    return () => {
      observer.disconnect();
      window.removeEventListener('scroll', put, true);
      window.removeEventListener('resize', put);
    };
  }, [anchor, box]);
  if (host && place) {
    return createPortal(
      <div ref={setBox} className={`fixed z-[60] max-w-xl ${className}`} style={place} aria-live="polite">
        {children}
      </div>,
      host,
    );
  }
  return (
    <div className={`absolute bottom-full left-0 z-40 mb-1 w-max max-w-full min-w-52 ${className}`} aria-live="polite">
      {children}
    </div>
  );
}
