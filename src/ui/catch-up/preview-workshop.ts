/** Geometry for previews, in a worker of its own that ends with the preview. One at a time; what is looked at goes first. */
import type { Document } from '@/core/document';
import { RegenerationClient, type ComparedReply } from '@/workers/client';
import { startBrowserWorker } from '@/workers/start-browser';

type Wish = 'outcomes' | 'meshes' | 'differences';

export class PreviewWorkshop {
  private readonly client = new RegenerationClient(startBrowserWorker);
  private readonly seen: (() => Promise<void>)[] = [];
  private readonly others: (() => Promise<void>)[] = [];
  private isWorking = false;
  private isClosed = false;

  /** Undefined when it cannot be built, or the preview has ended. */
  compare(before: Document, after: Document, wants: Wish): Promise<ComparedReply | undefined> {
    return new Promise((resolve) => {
      const work = async (): Promise<void> => {
        const reply = await this.client.compare(before, after, wants);
        resolve(reply.ok ? reply.value : undefined);
      };
      (wants === 'outcomes' ? this.others : this.seen).push(work);
      void this.work();
    });
  }

  close(): void {
    this.isClosed = true;
    this.client.close();
  }

  private async work(): Promise<void> {
    if (this.isWorking) return;
    this.isWorking = true;
    for (let next = this.next(); next && !this.isClosed; next = this.next()) await next();
    this.isWorking = false;
  }

  private next(): (() => Promise<void>) | undefined {
    return this.seen.shift() ?? this.others.shift();
  }
}
