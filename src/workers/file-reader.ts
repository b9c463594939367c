/**
 * Files of other programs, read in a worker that lives for one of them: whatever a file does to its reader, the page goes on, and
 * after a while the reader is ended.
 */
import { fail, type Result } from '@/core/kit';
import type { ReadDrawing } from '@/formats/read-dxf';

export type FileRequest =
  | { readonly kind: 'dxf'; readonly text: string }
  | { readonly kind: 'csv'; readonly text: string }
  | { readonly kind: 'xlsx'; readonly bytes: Uint8Array };

type Cells = readonly (readonly string[])[];

export type FileReply =
  | { readonly kind: 'dxf'; readonly result: Result<ReadDrawing, string> }
  | { readonly kind: 'table'; readonly result: Result<Cells, string> };

const TIME_LIMIT_MS = 20_000;

export async function readDrawing(text: string): Promise<Result<ReadDrawing, string>> {
  const reply = await ask({ kind: 'dxf', text });
  return reply?.kind === 'dxf' ? reply.result : gaveUp();
}

export async function readTable(request: Extract<FileRequest, { readonly kind: 'csv' | 'xlsx' }>): Promise<Result<Cells, string>> {
  const reply = await ask(request);
  return reply?.kind === 'table' ? reply.result : gaveUp();
}

function gaveUp(): Result<never, string> {
  return fail('the file cannot be read; it may be damaged. Export it again from its program.');
}

/** Undefined where no answer came. */
function ask(request: FileRequest): Promise<FileReply | undefined> {
  const worker = new Worker(new URL('./file-reader.worker.ts', import.meta.url), { type: 'module' });
  return new Promise((settle) => {
    const end = (reply: FileReply | undefined): void => {
      clearTimeout(timer);
      worker.terminate();
      settle(reply);
    };
    const timer = setTimeout(() => end(undefined), TIME_LIMIT_MS);
    worker.onmessage = ({ data }: MessageEvent<FileReply>) => end(data);
    worker.onerror = () => end(undefined);
    worker.postMessage(request);
  });
}
