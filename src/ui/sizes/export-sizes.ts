/** Files of every size of a part or an assembly in one ZIP. */
import { zipSync } from 'fflate';
import { inSize, listSizes, type Document } from '@/core/document';
import { assemblyTree } from '@/core/assembly';
import { complete, type InstanceSource } from '@/core/instances';
import { fail, type Result } from '@/core/kit';
import type { ExportedFile, RegenerationClient, RegenerationFailure } from '@/workers/client';
import { ASSEMBLY_FORMATS, type ExportFormat } from '@/workers/protocol';
import { buildWhole } from '@/workers/whole-assembly';

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
    const file = await exportOne(client, inSize(document, id), source, format);
    if (!file.ok && file.failure.kind === 'closed') return undefined;
    if (file.ok && file.value.bodies > 0) files[sizeFileName(document.name, name, format)] = file.value.bytes;
    else without.push(name);
    onDone(i + 1, sizes.length);
  }
  return { zip: zipSync(files, { level: 6 }), files: Object.keys(files).length, without };
}

async function exportOne(
  client: RegenerationClient,
  document: Document,
  source: InstanceSource,
  format: ExportFormat,
): Promise<Result<ExportedFile, RegenerationFailure>> {
  const wanted = ASSEMBLY_FORMATS.find((one) => one === format);
  if (document.kind !== 'assembly' || !wanted) return client.exportFile(complete(document, source), format);
  const whole = await buildWhole(client, document, (id, revision) => source.snapshot(id, revision));
  if ('failure' in whole) return fail(whole.failure);
  const { root, parts } = assemblyTree(whole.values, whole.standing);
  return client.exportAssembly(document, wanted, root, parts);
}
