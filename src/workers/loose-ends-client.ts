/** The client of the worker that looks for loose ends: one search at a time, and of those that wait only the newest. */
import type { LooseEnd, LooseEndSearch } from '@/core/loose-ends';

export interface LooseEndsRequest {
  readonly id: number;
  readonly search: LooseEndSearch;
}

export interface LooseEndsReply {
  readonly id: number;
  readonly found: readonly LooseEnd[];
}

export class LooseEndsClient {
  private worker: Worker | undefined;
  private lastId = 0;
  private isRunning = false;
  private waiting: LooseEndsRequest | undefined;

  /** `onFound` is told of the newest search alone. */
  constructor(private readonly onFound: (found: readonly LooseEnd[]) => void) {}

  search(search: LooseEndSearch): void {
    this.waiting = { id: ++this.lastId, search };
    this.sendWaiting();
  }

  /** What runs or waits is no longer wanted. */
  forget(): void {
    this.lastId++;
    this.waiting = undefined;
  }

  close(): void {
    this.worker?.terminate();
  }

  private sendWaiting(): void {
    if (this.isRunning || !this.waiting) return;
    this.isRunning = true;
    this.worker ??= this.start();
    this.worker.postMessage(this.waiting);
    this.waiting = undefined;
  }

  private start(): Worker {
    const worker = new Worker(new URL('./loose-ends.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<LooseEndsReply>) => {
      this.isRunning = false;
      if (data.id === this.lastId) this.onFound(data.found);
      this.sendWaiting();
    };
    worker.onerror = () => {
      // The browser has told the console. What was found before stays, and the next search has a fresh worker.
      worker.terminate();
      this.worker = undefined;
      this.isRunning = false;
    };
    return worker;
  }
}
