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

interface AboveProps {
  readonly anchor: RefObject<HTMLElement | null>;
  readonly className: string;
  /** At the right end of the anchor and as narrow as it can be, where a label stands at the left. */
  readonly isRight?: boolean;
  readonly children: React.ReactNode;
}

/** What stands above something on the page, over whatever else is there: no list, header or edge cuts it off. It moves along. */
export function Above({ anchor, className, isRight = false, children }: AboveProps) {
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
      const wanted = isRight ? left + width - (own?.width ?? 0) : left;
      const next = {
        left: Math.max(EDGE, Math.min(wanted, room)),
        bottom: Math.min(window.innerHeight - top + (isRight ? 0 : 4), highest),
        minWidth: isRight ? 0 : Math.min(width, 208),
      };
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
  }, [anchor, box, isRight]);
  if (host && place) {
    return createPortal(
      <div ref={setBox} className={`fixed z-[60] max-w-xl ${className}`} style={place} aria-live="polite">
        {children}
      </div>,
      host,
    );
  }
  return (
    <div className={`absolute bottom-full z-40 w-max max-w-full ${isRight ? 'right-0' : 'left-0 mb-1 min-w-52'} ${className}`} aria-live="polite">
      {children}
    </div>
  );
}
