/// <reference lib="webworker" />
/** Reads files of other programs beside a page. Started by its client for one file; never imported. */
import type { FileReply, FileRequest } from './file-reader';

declare const self: DedicatedWorkerGlobalScope;

self.onmessage = ({ data }: MessageEvent<FileRequest>) => {
  void read(data).then((reply) => {
    self.postMessage(reply);
  });
};

async function read(request: FileRequest): Promise<FileReply> {
  if (request.kind === 'dxf') return { kind: 'dxf', result: (await import('@/formats/read-dxf')).readDxf(request.text) };
  const { readCsv, readXlsx } = await import('@/formats/spreadsheet');
  return { kind: 'table', result: request.kind === 'xlsx' ? await readXlsx(request.bytes) : readCsv(request.text) };
}
