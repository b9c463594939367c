/** The workers of this page that build geometry: one for what is shown of its document, and others for all that is done beside it. */
import { RegenerationClient } from '@/workers/client';
import { KeptRegenerationClient } from '@/workers/kept-client';
import { openLane, type Lane } from '@/workers/lane';
import { OneWorker } from '@/workers/one-worker';
import { OpeningClient } from '@/workers/opening-client';
import { Scheduler } from '@/workers/scheduler';
import { startBrowserWorker } from '@/workers/start-browser';
import { readFileContent } from './api';
import { openStoreWithServer } from './built-store';

/** What is done beside the page, and what goes first: a preview that is looked at before files, and these before long runs. */
const PRIORITIES = { preview: 4, 'preview outcomes': 3, 'preview assemblies': 2, file: 1, study: 0, check: 0, picture: 0 } as const;

export type BesidePurpose = keyof typeof PRIORITIES;

/** Two at least: a file may take minutes, and a preview is not to wait for it. */
const MOST_BESIDE = [2, 3] as const;
/** A worker has the kernel loaded and takes hundreds of megabytes: it is kept for the next document or dialog, but not for long. */
const IDLE_MS = 30_000;
/** How long an assembly has to open from what is kept before its kernel is loaded. */
const REST_MS = 3_000;

let scheduler: Scheduler<'shown' | 'beside'> | undefined;

/** Opened when it is first asked for: pages are drawn at the server too. */
function workers(): Scheduler<'shown' | 'beside'> {
  const [least, most] = MOST_BESIDE;
  const beside = Math.min(most, Math.max(least, navigator.hardwareConcurrency - 1));
  const open = (): OneWorker => new OneWorker(startBrowserWorker, { readFile: readFileContent });
  return (scheduler ??= new Scheduler({ open, rooms: { shown: 1, beside }, idleMs: IDLE_MS }));
}

function openBeside(purpose: BesidePurpose, document: string, timeLimitMs?: number): Lane {
  return openLane(workers(), { room: 'beside', priority: PRIORITIES[purpose], document }, timeLimitMs);
}

/** For what is done beside the page of a document; to be closed with it. `timeLimitMs` is that of each request. */
export function clientBeside(purpose: BesidePurpose, document: string, timeLimitMs?: number): RegenerationClient {
  return new RegenerationClient(openBeside(purpose, document, timeLimitMs));
}

/** Like {@link clientBeside}, for assemblies: their parts are built once for all visits. */
export function keptClientBeside(purpose: BesidePurpose, document: string): RegenerationClient {
  return new KeptRegenerationClient(openBeside(purpose, document), openStoreWithServer());
}

/**
 * For what a page shows of its document: its worker stays for as long as that is open, with all that was built, and nothing else waits for it. The document
 * that is opened next finds the kernel loaded. What is shown first may be known already: the worker begins when it is asked, or when somebody is at work.
 */
export function clientShowing(document: string, isAssembly: boolean): RegenerationClient {
  const lane = openLane(workers(), { room: 'shown', priority: 0, document });
  const release = workers().hold('shown');
  const waiting = new AbortController();
  const held: Lane = {
    ...lane,
    close: () => {
      waiting.abort();
      lane.close();
      release();
    },
  };
  if (!isAssembly) return new OpeningClient(held, openStoreWithServer(), (then) => onWork(then, waiting));
  const timer = setTimeout(lane.warm, REST_MS);
  waiting.signal.addEventListener('abort', () => clearTimeout(timer));
  return new KeptRegenerationClient(held, openStoreWithServer());
}

/** Calls back once, as soon as somebody points, types or scrolls, unless `waiting` is ended before. */
function onWork(then: () => void, waiting: AbortController): void {
  const begin = (): void => {
    waiting.abort();
    then();
  };
  for (const sign of ['pointermove', 'pointerdown', 'keydown', 'wheel'])
    window.addEventListener(sign, begin, { capture: true, passive: true, signal: waiting.signal });
}
