/** Live notices to open pages, within this process. On globalThis: handlers and start-up are separate bundles. */
import { EventEmitter } from 'node:events';
import type { LiveEvent } from '@/contract';

const shared = globalThis as typeof globalThis & { warpbeamEvents?: EventEmitter; warpbeamStopping?: boolean };
const emitter = (shared.warpbeamEvents ??= new EventEmitter().setMaxListeners(0));

export function publish(event: LiveEvent): void {
  emitter.emit('event', event);
}

/** Calls back for every event until the returned function is called; `onEnd` when the server stops. */
export function subscribe(onEvent: (event: LiveEvent) => void, onEnd: () => void): () => void {
  emitter.on('event', onEvent);
  emitter.once('end', onEnd);
  return () => {
    emitter.off('event', onEvent);
    emitter.off('end', onEnd);
  };
}

/** Ends every open stream, and lets none begin any more: the server otherwise waits for them for ever when it is to stop. */
export function endStreams(): void {
  shared.warpbeamStopping = true;
  emitter.emit('end');
}

export function isStopping(): boolean {
  return shared.warpbeamStopping === true;
}
