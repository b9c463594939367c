/**
 * Live notices: one event stream for all tabs of a browser. The tab that holds the lock listens to the
 * server and passes every event on to the others; when it closes, the next tab takes over.
 */
import type { LiveEvent } from '@/contract';

/** What the server tells, and that it can be heard again after a while in which it was not. */
export type LiveNews = LiveEvent | { readonly type: 'reconnected' };

type Listener = (event: LiveNews) => void;

const listeners = new Set<Listener>();
let isStarted = false;

/** Calls back for every event until the returned function is called. */
export function listenLive(listener: Listener): () => void {
  start();
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

function start(): void {
  if (isStarted || typeof window === 'undefined') return;
  isStarted = true;
  const channel = new BroadcastChannel('warpbeam-live');
  const tell = (event: LiveNews): void => {
    for (const listener of listeners) listener(event);
  };
  channel.onmessage = ({ data }: MessageEvent<LiveNews>) => {
    tell(data);
  };
  const lead = (): Promise<void> =>
    new Promise(() => {
      const source = new EventSource('/api/events');
      const pass = (event: LiveNews): void => {
        channel.postMessage(event);
        tell(event);
      };
      let wasLost = false;
      source.onerror = () => {
        wasLost = true;
      };
      source.onopen = () => {
        if (wasLost) pass({ type: 'reconnected' });
        wasLost = false;
      };
      source.onmessage = ({ data }: MessageEvent<string>) => {
        pass(JSON.parse(data) as LiveEvent);
      };
    });
  void navigator.locks.request('warpbeam-live', lead);
}
