'use client';
import { useCallback, useState } from 'react';
import type { KeptSample, RunReply, RunWish } from '@/contract';
import { api } from '../state/api';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';

/** As a sample of a run in the page, of one value or two. */
export interface RunSample extends Omit<KeptSample, 'outputs'> {
  readonly outputs: Readonly<Record<string, number>>;
}

export interface ServerRuns {
  /** Of one value, or of it with another, the newest first; undefined until they are known. */
  readonly runs: readonly RunReply[] | undefined;
  /** Why something was not done. */
  readonly problem: string | undefined;
  readonly start: (wish: RunWish) => void;
  readonly stop: (id: string) => void;
  readonly remove: (id: string) => void;
  /** What one has come to so far; undefined where that cannot be read. */
  readonly samplesOf: (id: string) => Promise<readonly RunSample[] | undefined>;
}

/** The runs of a value, alone or with a second one, that go on at the server, looked at for as long as one is under way. */
export function useServerRuns(document: string, value: string, isPair = false): ServerRuns {
  const { loaded, replace } = useLoaded(QUERIES.runs(document));
  const [problem, setProblem] = useState<string>();
  // Without the server a run is one of the page.
  const all = loaded.state === 'ready' ? loaded.value.runs : loaded.state === 'failed' ? loaded.last?.runs : undefined;
  const change = useCallback(
    async (wish: Parameters<typeof api.changeRuns>[1]) => {
      const reply = await api.changeRuns(document, wish);
      setProblem(reply.ok ? undefined : reply.failure.message);
      if (reply.ok) replace(() => reply.value);
    },
    [document, replace],
  );
  return {
    runs: all?.filter((run) => run.value === value && (run.second !== undefined) === isPair),
    problem,
    start: useCallback((start: RunWish) => void change({ start }), [change]),
    stop: useCallback((stop: string) => void change({ stop }), [change]),
    remove: useCallback((remove: string) => void change({ remove }), [change]),
    samplesOf: useCallback(
      async (id: string) => {
        const reply = await api.readRunSamples(document, id);
        setProblem(reply.ok ? undefined : reply.failure.message);
        return reply.ok ? reply.value.samples.map(sampleOf) : undefined;
      },
      [document],
    ),
  };
}

function sampleOf({ outputs, ...rest }: KeptSample): RunSample {
  return { ...rest, outputs: Object.fromEntries(Object.entries(outputs).map(([id, amount]) => [id, amount ?? NaN])) };
}
