/**
 * Workers that build geometry for many who ask: each job has a worker to itself, as many run side by side as there are workers, and those that
 * are needed only are started. Of the jobs that wait the one of the highest priority goes first, of equals the one that came first.
 */
import PQueue from 'p-queue';
import type { RegenerationClient } from '@/workers/client';

export class WorkerPool {
  private readonly queue: PQueue;
  private readonly idle: RegenerationClient[] = [];
  private readonly all: RegenerationClient[] = [];

  constructor(
    private readonly open: () => RegenerationClient,
    /** How many workers there are at most. */
    most: number,
  ) {
    this.queue = new PQueue({ concurrency: most });
  }

  run<T>(work: (client: RegenerationClient) => Promise<T>, priority = 0): Promise<T> {
    return this.queue.add(
      async () => {
        // The one that was used last has most at hand.
        const client = this.idle.pop() ?? this.start();
        try {
          return await work(client);
        } finally {
          this.idle.push(client);
        }
      },
      { priority },
    );
  }

  close(): void {
    for (const client of this.all) client.close();
  }

  private start(): RegenerationClient {
    const client = this.open();
    this.all.push(client);
    return client;
  }
}
