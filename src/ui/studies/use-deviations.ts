'use client';
/** What a value comes to at the limits of its contributors, built beside the page: again whenever the document is another, but for how the stack is read. */
import { useCallback, useEffect, useState } from 'react';
import type { Document } from '@/core/document';
import { judgedDocument, type Deviations } from '@/core/studies';
import { buildDeviations } from '@/workers/stack-build';
import { useSession, useSessionState } from '../state/context';
import { keyOfState } from '../state/document-key';
import { useStudyWorker } from './use-study-worker';

export interface DeviationsBuild {
  /** The last that was built to its end. */
  readonly deviations: Deviations | undefined;
  /** States that are built, and how many there are; undefined where none is being built. */
  readonly progress: { readonly done: number; readonly of: number } | undefined;
  /** Whether what was built is of the document as it is. */
  readonly isCurrent: boolean;
  readonly stop: () => void;
  readonly again: () => void;
}

/** `isNeeded`: whether only the geometry tells it. */
export function useDeviations(value: string, isNeeded: boolean): DeviationsBuild {
  const session = useSession();
  const now = useSessionState((state) => state.document);
  const [document, setDocument] = useState(now);
  if (document !== now && keyOfState(document) !== keyOfState(now)) setDocument(now);
  const [built, setBuilt] = useState<{ readonly document: Document; readonly deviations: Deviations }>();
  const [progress, setProgress] = useState<DeviationsBuild['progress']>();
  const [attempt, setAttempt] = useState(0);
  const { work, stop } = useStudyWorker();
  useEffect(() => {
    if (!isNeeded) return;
    let isWanted = true;
    const build = async (): Promise<void> => {
      await work(async (client) => {
        const measured = session.store.getState().regenerated?.measured;
        const onState = (done: number, of: number): void => {
          if (isWanted) setProgress({ done, of });
        };
        const deviations = await buildDeviations(client, {
          document: judgedDocument(document, value),
          id: value,
          source: session.snapshots,
          measured,
          onState,
        });
        if (isWanted && deviations) setBuilt({ document, deviations });
      });
      if (isWanted) setProgress(undefined);
    };
    void build();
    return () => {
      isWanted = false;
      stop();
      setProgress(undefined);
    };
  }, [document, value, session, isNeeded, attempt, work, stop]);
  const again = useCallback(() => setAttempt((count) => count + 1), []);
  return { deviations: built?.deviations, progress, isCurrent: built?.document === document, stop, again };
}
