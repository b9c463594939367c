/** Files of every size of a part in one ZIP. */
import { zipSync } from 'fflate';
import { inSize, listSizes, type Document } from '@/core/document';
import { complete, type InstanceSource } from '@/core/instances';
import type { RegenerationClient } from '@/workers/client';
import type { ExportFormat } from '@/workers/protocol';

/** `Side frame, Wide.step`: what cannot stand in the name of a file is left out. */
export function sizeFileName(document: string, size: string, format: ExportFormat): string {
  const clean = (text: string): string =>
    text
      .replace(/[\\/:*?"<>|\p{Cc}]/gu, ' ')
      .replace(/\s+/g, ' ')
      .trim();
  return `${clean(document)}, ${clean(size)}.${format}`;
}

/** The files by name, and the sizes that gave none; undefined once the client is closed. */
export async function exportSizes(
  client: RegenerationClient,
  document: Document,
  source: InstanceSource,
  format: ExportFormat,
  onDone: (done: number, of: number) => void,
): Promise<{ readonly zip: Uint8Array; readonly files: number; readonly without: readonly string[] } | undefined> {
  const sizes = listSizes(document);
  const files: Record<string, Uint8Array> = {};
  const without: string[] = [];
  for (const [i, { id, name }] of sizes.entries()) {
    const file = await client.exportFile(complete(inSize(document, id), source), format);
    if (!file.ok && file.failure.kind === 'closed') return undefined;
    if (file.ok && file.value.bodies > 0) files[sizeFileName(document.name, name, format)] = file.value.bytes;
    else without.push(name);
    onDone(i + 1, sizes.length);
  }
  return { zip: zipSync(files, { level: 6 }), files: Object.keys(files).length, without };
}
