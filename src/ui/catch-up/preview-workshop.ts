/** Geometry for previews, in a worker of its own that ends with the preview. One at a time; what is looked at goes first. */
import PQueue from 'p-queue';
import type { Document } from '@/core/document';
import { RegenerationClient, type ComparedReply } from '@/workers/client';
import { startBrowserWorker } from '@/workers/start-browser';
import { readFileContent } from '../state/api';

type Wish = 'outcomes' | 'meshes' | 'differences';

export class PreviewWorkshop {
  private readonly client = new RegenerationClient(startBrowserWorker, { readFile: readFileContent });
  private readonly queue = new PQueue({ concurrency: 1 });

  /** Undefined when it cannot be built, or the preview has ended. */
  async compare(before: Document, after: Document, wants: Wish): Promise<ComparedReply | undefined> {
    const reply = await this.queue.add(() => this.client.compare(before, after, wants), { priority: wants === 'outcomes' ? 0 : 1 });
    return reply.ok ? reply.value : undefined;
  }

  close(): void {
    // What still waits is told at once that it has ended.
    this.client.close();
  }
}
