'use client';
import { useEffect, useRef, useState } from 'react';
import { listRecords } from '@/core/document';
import type { DrawnShape, Place } from '@/core/drawing';
import { useSession } from '../state/context';
import { fitView, zoomAt, type SketchView } from './sketch-view';

/**
 * The window on the sketch plane: fitted when the canvas gets its first size, and when the plane turns out to lie
 * elsewhere than it was thought to (`plane` tells one from another), but never under the hand of somebody who has begun to work in it;
 * zoomed by the wheel.
 */
export function useView(sketch: string, plane: string, shape: DrawnShape, corners: readonly Place[]) {
  const session = useSession();
  const host = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<SketchView>();
  const latest = useRef({ shape, sketch, corners });
  /** The sketch that was pressed into, typed into or zoomed. */
  const touched = useRef<string>(undefined);
  useEffect(() => {
    latest.current = { shape, sketch, corners };
  });

  useEffect(() => {
    // The size of the canvas is the browser's; the first size also chooses what is in view.
    const element = host.current;
    if (!element) return undefined;
    let isFitted = touched.current === sketch;
    const touch = (): void => {
      touched.current = latest.current.sketch;
    };
    const fit = (): void => {
      const { clientWidth, clientHeight } = element;
      if (clientWidth === 0) return;
      setView((before) => {
        if (before && isFitted) return { ...before, widthPx: clientWidth, heightPx: clientHeight };
        const labels = listRecords(session.document, `${latest.current.sketch}/constraints`, 'dimension').map((dimension) => dimension.at);
        return fitView(latest.current.shape, [...labels, ...latest.current.corners], clientWidth, clientHeight);
      });
      isFitted = true;
    };
    // At once too: whoever is quick may click before the first notice of the observer.
    fit();
    const observer = new ResizeObserver(fit);
    observer.observe(element);
    element.focus();
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault();
      touch();
      const box = element.getBoundingClientRect();
      setView((before) => before && zoomAt(before, [event.clientX - box.left, event.clientY - box.top], Math.exp(-event.deltaY * 0.0015)));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    for (const kind of ['pointerdown', 'keydown']) element.addEventListener(kind, touch, true);
    return () => {
      observer.disconnect();
      element.removeEventListener('wheel', onWheel);
      for (const kind of ['pointerdown', 'keydown']) element.removeEventListener(kind, touch, true);
    };
  }, [session, sketch, plane]);

  return { host, view, setView };
}
