'use client';
import { useEffect, useRef, useState } from 'react';
import { listRecords } from '@/core/document';
import type { DrawnShape, Place } from '@/core/drawing';
import { useSession } from '../state/context';
import { fitView, isInView, zoomAt, type SketchView } from './sketch-view';

/** How near to the border of the window a drawing may grow. */
const EDGE_PX = 20;

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
  const isPressed = useRef(false);
  useEffect(() => {
    latest.current = { shape, sketch, corners };
  });

  useEffect(() => {
    // The size of the canvas is the browser's; the first size also chooses what is in view.
    const element = host.current;
    if (!element) return undefined;
    let isFitted = touched.current === sketch;
    const touch = ({ type }: Event): void => {
      touched.current = latest.current.sketch;
      if (type === 'pointerdown') isPressed.current = true;
    };
    const release = (): void => {
      isPressed.current = false;
    };
    const fit = (): void => {
      const { clientWidth, clientHeight } = element;
      if (clientWidth === 0) return;
      // The updater runs later, when this has become true.
      const keeps = isFitted;
      setView((before) => {
        if (before && keeps) return { ...before, widthPx: clientWidth, heightPx: clientHeight };
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
      touch(event);
      const box = element.getBoundingClientRect();
      setView((before) => before && zoomAt(before, [event.clientX - box.left, event.clientY - box.top], Math.exp(-event.deltaY * 0.0015)));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    for (const kind of ['pointerdown', 'keydown']) element.addEventListener(kind, touch, true);
    for (const kind of ['pointerup', 'pointercancel']) window.addEventListener(kind, release, true);
    return () => {
      observer.disconnect();
      element.removeEventListener('wheel', onWheel);
      for (const kind of ['pointerdown', 'keydown']) element.removeEventListener(kind, touch, true);
      for (const kind of ['pointerup', 'pointercancel']) window.removeEventListener(kind, release, true);
    };
  }, [session, sketch, plane]);

  // A value that makes the drawing larger than the window takes the window along, unless a hand is on it or it was only partly in view.
  const drawn = useRef(shape);
  useEffect(() => {
    const before = drawn.current;
    drawn.current = shape;
    if (before === shape || isPressed.current || before.entities.length === 0) return;
    setView((now) => {
      if (!now) return now;
      // What was drawn at the border may stay there.
      const edge = isInView(now, before, EDGE_PX) ? EDGE_PX : 0;
      if (!isInView(now, before, edge) || isInView(now, shape, edge)) return now;
      const labels = listRecords(session.document, `${sketch}/constraints`, 'dimension').map((dimension) => dimension.at);
      return fitView(shape, labels, now.widthPx, now.heightPx);
    });
  }, [session, sketch, shape]);

  return { host, view, setView };
}
