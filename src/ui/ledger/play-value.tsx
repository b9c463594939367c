'use client';
/** Runs a value through a full turn, or from its least to its most, with everything that it drives following, and takes it back. */
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Parameter } from '@/core/document';
import { Button } from '../design/button';
import { useSession } from '../state/context';
import { addToNumber } from '../state/scrub';
import { plainFormula, setFormulaEdit } from './scrub-value';

/** One run takes so long, in milliseconds. */
const RUN_MS = 8000;
/** Decimals of what is tried on the way. */
const PLACES = 3;

export function PlayValue({ parameter }: { parameter: Parameter }) {
  const session = useSession();
  const [isRunning, setRunning] = useState(false);
  const stop = useRef<() => void>(undefined);
  const finish = useCallback(
    (isKept: boolean) => {
      stop.current?.();
      stop.current = undefined;
      session.endTrial(isKept);
      setRunning(false);
    },
    [session],
  );
  useEffect(() => () => stop.current && finish(false), [finish]);
  const { id } = parameter;
  const start = plainFormula(session, id);
  const reading = session.values.show(id);
  const { sheet } = session.values;
  const way = wayOf({
    kind: parameter.kind,
    now: reading?.value ?? NaN,
    size: (reading?.typedUnit ?? reading?.unit)?.size ?? 1,
    least: sheet.readNumber(`${id}/least`),
    most: sheet.readNumber(`${id}/most`),
  });
  if (!isRunning && (start === undefined || !way)) return null;
  const run = (): void => {
    if (start === undefined || !way) return;
    setRunning(true);
    const from = performance.now();
    let frame = 0;
    const step = (now: number): void => {
      const share = ((now - from) % RUN_MS) / RUN_MS;
      const text = addToNumber(start, way(share), PLACES);
      if (text !== undefined) session.tryOut(setFormulaEdit(session, id, text));
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    stop.current = () => cancelAnimationFrame(frame);
  };
  return (
    <p className="flex items-center gap-2">
      {isRunning ? (
        <>
          <Button onClick={() => finish(false)}>Stop and take back</Button>
          <Button onClick={() => finish(true)}>Stop and keep</Button>
        </>
      ) : (
        <Button onClick={run} title={parameter.kind === 'angle' ? 'Turns it once round, again and again' : 'Runs it from its least to its most and back'}>
          Play
        </Button>
      )}
    </p>
  );
}

type Way = (share: number) => number;

interface Course {
  readonly kind: Parameter['kind'];
  /** In internal units, as the limits are; not a number where there is none. */
  readonly now: number;
  /** Of the unit that the number is typed in. */
  readonly size: number;
  readonly least: number;
  readonly most: number;
}

/** How far the number is from where it began, after a share of the run: a full turn for an angle; else there and back between the limits. */
function wayOf({ kind, now, size, least, most }: Course): Way | undefined {
  if (Number.isNaN(now)) return undefined;
  if (kind === 'angle') return (share) => (share * 360) / size;
  if (!(most > least)) return undefined;
  return (share) => {
    const round = 2 * (most - least);
    const along = (now - least + share * round) % round;
    const there = along <= most - least ? least + along : most - (along - (most - least));
    return (there - now) / size;
  };
}
