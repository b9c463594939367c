/**
 * Live notices: one event stream for all tabs of a browser. The tab that holds the lock listens to the
 * server and passes every event on to the others; when it closes, the next tab takes over.
 */
import type { LiveEvent } from '@/contract';

type Listener = (event: LiveEvent) => void;

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
  const tell = (event: LiveEvent): void => {
    for (const listener of listeners) listener(event);
  };
  channel.onmessage = ({ data }: MessageEvent<LiveEvent>) => {
    tell(data);
  };
  const lead = (): Promise<void> =>
    new Promise(() => {
      const source = new EventSource('/api/events');
      source.onmessage = ({ data }: MessageEvent<string>) => {
        const event = JSON.parse(data) as LiveEvent;
        channel.postMessage(event);
        tell(event);
      };
    });
  void navigator.locks.request('warpbeam-live', lead);
}
