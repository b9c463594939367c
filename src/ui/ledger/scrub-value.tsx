'use client';
import { useEffect, useRef } from 'react';
import { findRecord, formulaNow, meantNames, type Edit } from '@/core/document';
import { useSession } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { followPointer } from '../state/follow-pointer';
import { canStep, stepNumber } from '../state/scrub';

/** Pixels of a drag for one step of the number. */
const PIXELS = 6;
/** A wheel that rests this long has come to its end, in milliseconds. */
const WHEEL_REST_MS = 400;

/**
 * Dragging a value left and right, or the wheel with Alt held down, steps its number; Shift steps ten at a time.
 * Values and geometry follow live, and the whole drag is one edit. Escape takes it back.
 */
export function useScrub(id: string): Pick<React.HTMLAttributes<HTMLElement>, 'onPointerDown'> & { readonly ref: React.RefObject<HTMLSpanElement | null> } {
  const session = useSession();
  const ref = useRef<HTMLSpanElement>(null);
  const onPointerDown = (event: React.PointerEvent<HTMLElement>): void => {
    const start = plainFormula(session, id);
    if (start === undefined || event.button !== 0) return;
    const { target, clientX, pointerId } = event;
    let isDragging = false;
    const move = ({ clientX: x, shiftKey }: PointerEvent): void => {
      const steps = Math.trunc((x - clientX) / PIXELS);
      if (steps === 0 && !isDragging) return;
      if (!isDragging && target instanceof HTMLElement) target.setPointerCapture(pointerId);
      isDragging = true;
      tryStep(session, id, start, steps * (shiftKey ? 10 : 1));
    };
    followPointer(move, (isKept) => {
      if (isDragging) session.endTrial(isKept);
    });
  };
  useEffect(() => {
    // React's own wheel handlers cannot keep the page from scrolling.
    const element = ref.current;
    if (!element) return undefined;
    let start: string | undefined;
    let steps = 0;
    let rest: ReturnType<typeof setTimeout> | undefined;
    const finish = (): void => {
      if (start !== undefined) session.endTrial(true);
      start = undefined;
      steps = 0;
    };
    const onWheel = (event: WheelEvent): void => {
      if (!event.altKey) return;
      start ??= plainFormula(session, id);
      if (start === undefined) return;
      event.preventDefault();
      steps += (event.deltaY + event.deltaX < 0 ? 1 : -1) * (event.shiftKey ? 10 : 1);
      tryStep(session, id, start, steps);
      clearTimeout(rest);
      rest = setTimeout(finish, WHEEL_REST_MS);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => {
      element.removeEventListener('wheel', onWheel);
      clearTimeout(rest);
      finish();
    };
  }, [session, id]);
  return { ref, onPointerDown };
}

/** The formula of a value that is one plain number. */
export function plainFormula(session: DocumentSession, id: string): string | undefined {
  const parameter = findRecord(session.document, id, 'parameter');
  const text = parameter && formulaNow(session.document, parameter).text;
  return text !== undefined && canStep(text) && !session.values.isMeasured(id) ? text : undefined;
}

export function setFormulaEdit(session: DocumentSession, id: string, text: string): Edit {
  return { type: 'parameter.setFormula', id, formula: { text, names: meantNames(session.document, text) } };
}

function tryStep(session: DocumentSession, id: string, start: string, steps: number): void {
  const text = stepNumber(start, steps);
  if (text !== undefined) session.tryOut(setFormulaEdit(session, id, text));
}
