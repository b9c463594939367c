'use client';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { CheckedSize, KeptSizeCheck } from '@/contract';
import type { Document } from '@/core/document';
import { keyOfSize } from '@/core/studies';
import type { RegenerationClient } from '@/workers/client';
import { api } from '../state/api';
import { useSession } from '../state/context';
import { clientBeside } from '../state/page-workers';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';
import { checkSizes } from './check-sizes';
import { writePicture } from './write-picture';

/** So many are handed to the server at once, so that little is lost with a page that is closed. */
const KEPT_AT_ONCE = 20;
const TIME_LIMIT_MS = 600_000;

/** What was found last of a size, in this page or before. */
export type FoundSize = CheckedSize & Partial<Pick<KeptSizeCheck, 'revision' | 'at'>>;

export interface SizeChecks {
  /** Undefined while it is not known what was kept. */
  readonly found: ReadonlyMap<string, FoundSize> | undefined;
  /** Whether a size is another now than when it was checked. */
  readonly isOld: (size: string) => boolean;
  /** How far a run is; undefined while none is under way. */
  readonly progress: { readonly done: number; readonly of: number } | undefined;
  /** Why results are not read or kept at the server. */
  readonly failure: string | undefined;
  readonly run: (sizes: readonly string[]) => void;
  readonly stop: () => void;
}

/** Checks sizes of the document beside the page, and keeps what was found at the server. */
export function useSizeChecks(document: Document): SizeChecks {
  const session = useSession();
  const { loaded } = useLoaded(QUERIES.sizeChecks(session.id));
  const [fresh, setFresh] = useState<ReadonlyMap<string, FoundSize>>(new Map());
  const [progress, setProgress] = useState<SizeChecks['progress']>();
  const [notKept, setNotKept] = useState<string>();
  const client = useRef<RegenerationClient>(undefined);
  // What is checked ends with the page that shows it.
  useEffect(() => () => client.current?.close(), [session]);
  const isLoading = loaded.state === 'loading';
  const kept = loaded.state === 'ready' ? loaded.value : undefined;
  const found = useMemo((): ReadonlyMap<string, FoundSize> | undefined => {
    if (isLoading && fresh.size === 0) return undefined;
    return new Map<string, FoundSize>([...Object.entries(kept?.checked ?? {}), ...fresh]);
  }, [isLoading, kept, fresh]);
  const failure = notKept ?? (loaded.state === 'failed' ? `What was found before is not known: ${loaded.failure.message}` : undefined);

  const stop = useCallback(() => client.current?.close(), []);
  const run = (sizes: readonly string[]): void => {
    client.current?.close();
    const worker = clientBeside('check', document.id, TIME_LIMIT_MS);
    client.current = worker;
    setNotKept(undefined);
    setProgress({ done: 0, of: sizes.length });
    let waiting: Record<string, CheckedSize> = {};
    const keep = async (): Promise<void> => {
      const sent = waiting;
      waiting = {};
      if (Object.keys(sent).length === 0) return;
      const reply = await api.keepSizeChecks(session.id, sent);
      if (!reply.ok) setNotKept(`What was found is known in this page only: ${reply.failure.message}`);
      else setFresh((known) => new Map([...known, ...Object.entries(reply.value.checked).filter(([size]) => Object.hasOwn(sent, size))]));
    };
    const tell = (size: string, checked: CheckedSize): void => {
      waiting[size] = checked;
      setFresh((known) => new Map([...known, [size, checked]]));
      setProgress((before) => before && { ...before, done: before.done + 1 });
      if (Object.keys(waiting).length >= KEPT_AT_ONCE) void keep();
    };
    void checkSizes(worker, document, session.snapshots, sizes, tell, writePicture).finally(() => {
      worker.close();
      void keep();
      if (client.current === worker) setProgress(undefined);
    });
  };
  const isOld = useCallback(
    (size: string) => {
      const checked = found?.get(size);
      return checked !== undefined && checked.key !== keyOfSize(document, size);
    },
    [document, found],
  );
  return { found, isOld, progress, failure, run, stop };
}
