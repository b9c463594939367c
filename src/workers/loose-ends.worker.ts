/// <reference lib="webworker" />
/** Looks for loose ends beside a page. Started by its client; never imported. */
import { searchLooseEnds } from '@/core/loose-ends';
import type { LooseEndsReply, LooseEndsRequest } from './loose-ends-client';

declare const self: DedicatedWorkerGlobalScope;

self.onmessage = ({ data: { id, search } }: MessageEvent<LooseEndsRequest>) => {
  const reply: LooseEndsReply = { id, found: searchLooseEnds(search) };
  self.postMessage(reply);
};
