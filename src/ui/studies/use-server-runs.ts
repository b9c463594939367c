'use client';
import { useCallback, useEffect, useState } from 'react';
import type { KeptSample, RunReply, RunWish } from '@/contract';
import { api } from '../state/api';

/** How often runs that are under way are looked at, in milliseconds. */
const LOOK_EVERY = 1_500;

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
  const [all, setAll] = useState<readonly RunReply[]>();
  const [problem, setProblem] = useState<string>();
  const take = useCallback((reply: Awaited<ReturnType<typeof api.readRuns>>) => {
    setProblem(reply.ok ? undefined : reply.failure.message);
    if (reply.ok) setAll(reply.value.runs);
  }, []);
  const isUnderWay = all?.some(({ status }) => status === 'under-way') === true;
  useEffect(() => {
    let isGone = false;
    const look = async (): Promise<void> => {
      const reply = await api.readRuns(document);
      // Without the server a run is one of the page.
      if (!isGone && reply.ok) setAll(reply.value.runs);
    };
    void look();
    const again = isUnderWay ? setInterval(() => void look(), LOOK_EVERY) : undefined;
    return () => {
      isGone = true;
      clearInterval(again);
    };
  }, [document, isUnderWay]);
  const change = useCallback((wish: Parameters<typeof api.changeRuns>[1]) => void api.changeRuns(document, wish).then(take), [document, take]);
  return {
    runs: all?.filter((run) => run.value === value && (run.second !== undefined) === isPair),
    problem,
    start: useCallback((start: RunWish) => change({ start }), [change]),
    stop: useCallback((stop: string) => change({ stop }), [change]),
    remove: useCallback((remove: string) => change({ remove }), [change]),
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
