'use client';
/** Answers of the server in components: one policy for what is loading, what failed, asking again, and what is old (by `@tanstack/react-query`). */
import { QueryClient, useInfiniteQuery, useQuery, type InfiniteData } from '@tanstack/react-query';
import { useCallback, useEffect } from 'react';
import type { Result } from '@/core/kit';
import type { ApiFailure } from './api';
import { listenLive } from './live';
import type { PagedQuery, ServerQuery } from './queries';

/** One answer for notices that come close together, in milliseconds. */
const REST_MS = 150;
/** An answer that nobody shows is kept for as long: who comes back sees it at once, and then what is new. */
const KEPT_MS = 60_000;
/** How often a server that does not answer is asked, and how long in between. */
const ATTEMPTS = 3;
const PAUSE_MS = 400;

export type Loaded<T> =
  | { readonly state: 'loading' }
  | { readonly state: 'failed'; readonly failure: ApiFailure; readonly last?: T | undefined }
  | { readonly state: 'ready'; readonly value: T };

/** The library takes failures as things thrown; they are thrown and caught in this file alone. */
class NotAnswered extends Error {
  constructor(readonly failure: ApiFailure) {
    super(failure.message);
  }
}

const answers = new QueryClient({
  defaultOptions: {
    queries: {
      gcTime: KEPT_MS,
      // The server is on this machine: the browser's word on the network says nothing of it.
      networkMode: 'always',
      refetchOnWindowFocus: false,
      refetchOnReconnect: false,
      // A refusal is the same the second time.
      retry: (failures, problem) => problem instanceof NotAnswered && problem.failure.code === 'no-answer' && failures < ATTEMPTS - 1,
      retryDelay: PAUSE_MS,
    },
  },
});

const NOTHING: Omit<ServerQuery<never>, 'again'> & { readonly again?: undefined } = {
  key: ['nothing'],
  ask: () => new Promise(() => undefined),
  follows: false,
};

export interface LoadedAnswer<T> {
  readonly loaded: Loaded<T>;
  /** Asks again. */
  readonly reload: () => void;
  /** Takes the answer that comes of what is known: of a change that is made here, or that the server has answered. The same function for one question. */
  readonly replace: (change: (known: T | undefined) => T) => void;
}

/** The answer to a question, asked anew whenever something is saved that may change it. Nothing is asked without a question. */
export function useLoaded<T>(query: ServerQuery<T> | undefined): LoadedAnswer<T> {
  const { key, ask, follows, again } = query ?? NOTHING;
  const { data, error, refetch } = useQuery<T>(
    {
      queryKey: key,
      queryFn: async () => valueOf(await ask()),
      enabled: query !== undefined,
      refetchInterval: ({ state }) => (state.data !== undefined && again?.(state.data)) || false,
      ...(follows ? {} : { gcTime: 0 }),
    },
    answers,
  );
  useFollowing(follows, refetch);
  const name = JSON.stringify(key);
  const replace = useCallback((change: (known: T | undefined) => T) => void answers.setQueryData<T>(JSON.parse(name) as typeof key, change), [name]);
  const rest = { reload: () => void refetch(), replace };
  if (error instanceof NotAnswered) return { loaded: { state: 'failed', failure: error.failure, last: data }, ...rest };
  return { loaded: data === undefined ? { state: 'loading' } : { state: 'ready', value: data }, ...rest };
}

export interface LoadedPages<T> {
  /** The pages that were asked for so far, in their order. */
  readonly loaded: Loaded<readonly T[]>;
  readonly hasMore: boolean;
  readonly more: () => void;
  readonly reload: () => void;
}

/** The same for a list that comes in pages: all that are shown are asked for again when something was saved. */
export function useLoadedPages<T>({ key, ask, hasMore, follows }: PagedQuery<T>): LoadedPages<T> {
  const { data, error, refetch, fetchNextPage, hasNextPage } = useInfiniteQuery<T, Error, InfiniteData<T>, PagedQuery<T>['key'], unknown>(
    {
      queryKey: key,
      // Each page is asked for by the one before it.
      queryFn: async ({ pageParam }) => valueOf(await ask(pageParam as T | undefined)),
      initialPageParam: undefined,
      getNextPageParam: (last: T): unknown => (hasMore(last) ? last : undefined),
    },
    answers,
  );
  useFollowing(follows, refetch);
  const rest = { hasMore: hasNextPage, more: () => void fetchNextPage(), reload: () => void refetch() };
  if (error instanceof NotAnswered) return { loaded: { state: 'failed', failure: error.failure }, ...rest };
  return { loaded: data === undefined ? { state: 'loading' } : { state: 'ready', value: data.pages }, ...rest };
}

/** Asks again when something was saved anywhere. */
function useFollowing(follows: boolean, refetch: () => Promise<unknown>): void {
  useEffect(() => {
    if (!follows) return undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = listenLive(() => {
      clearTimeout(timer);
      timer = setTimeout(() => void refetch(), REST_MS);
    });
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, [follows, refetch]);
}

function valueOf<T>(reply: Result<T, ApiFailure>): T {
  if (!reply.ok) throw new NotAnswered(reply.failure);
  return reply.value;
}

/** Forgets all answers: for tests, which are pages of their own. */
export function forgetAnswers(): void {
  answers.clear();
}
