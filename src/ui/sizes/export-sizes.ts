/** Files of every size of a part or an assembly in one ZIP. */
import { strToU8, zipSync } from 'fflate';
import { inSize, listSizes, sizeColumns, type Document } from '@/core/document';
import { assemblyTree } from '@/core/assembly';
import { complete, type InstanceSource } from '@/core/instances';
import { fail, succeed, type Result } from '@/core/kit';
import type { ExportedFile, RegenerationClient } from '@/workers/client';
import type { RegenerationFailure } from '@/workers/one-worker';
import { ASSEMBLY_FORMATS, type ExportFormat } from '@/workers/protocol';
import { buildWhole } from '@/workers/whole-assembly';

/** What files are called until another pattern is given. */
export const NAME_PATTERN = '{document}, {size}';

/** The name of a file of each size, by the ids of the sizes: what stands in braces is replaced, and what cannot stand in the name of a file left out. */
export function nameFiles(
  document: Document,
  pattern: string,
  format: ExportFormat,
  shownIn: (size: string, value: string) => string | undefined,
): Result<ReadonlyMap<string, string>, string> {
  const columns = new Map(sizeColumns(document).map(({ id, name }) => [name, id]));
  const unknown = [...pattern.matchAll(/\{([^{}]*)\}/g)]
    .map(([, word = '']) => word)
    .find((word) => word !== 'document' && word !== 'size' && !columns.has(word));
  if (unknown !== undefined) return fail(`No column is called {${unknown}}. Use {document}, {size} or the name of a column.`);
  const names = new Map<string, string>();
  const taken = new Map<string, string>();
  for (const { id, name: size } of listSizes(document)) {
    const name = pattern.replace(/\{([^{}]*)\}/g, (_, word: string) =>
      word === 'document' ? document.name : word === 'size' ? size : (shownIn(id, columns.get(word) ?? '') ?? ''),
    );
    const file = `${cleanName(name)}.${format}`;
    const twin = taken.get(file.toLowerCase());
    if (twin !== undefined) return fail(`${twin} and ${size} would both be ${file}. Put {size} into the name.`);
    if (file === `.${format}`) return fail(`The file of ${size} would have no name.`);
    taken.set(file.toLowerCase(), size);
    names.set(id, file);
  }
  return succeed(names);
}

function cleanName(text: string): string {
  return text
    .replace(/[\\/:*?"<>|\p{Cc}]/gu, ' ')
    .replace(/\s+/g, ' ')
    .replace(/^[\s.]+|[\s.]+$/g, '');
}

/** The files by name, with the table of sizes beside them where it is given; and the sizes that gave none. Undefined once the client is closed. */
export async function exportSizes(
  client: RegenerationClient,
  document: Document,
  source: InstanceSource,
  { format, names, table }: { readonly format: ExportFormat; readonly names: ReadonlyMap<string, string>; readonly table?: string },
  onDone: (done: number, of: number) => void,
): Promise<{ readonly zip: Uint8Array; readonly files: number; readonly without: readonly string[] } | undefined> {
  const sizes = listSizes(document);
  const files: Record<string, Uint8Array> = {};
  const without: string[] = [];
  for (const [i, { id, name }] of sizes.entries()) {
    const file = await exportOne(client, inSize(document, id), source, format);
    if (!file.ok && file.failure.kind === 'closed') return undefined;
    const title = names.get(id);
    if (title !== undefined && file.ok && file.value.bodies > 0) files[title] = file.value.bytes;
    else without.push(name);
    onDone(i + 1, sizes.length);
  }
  const count = Object.keys(files).length;
  if (table !== undefined) files['sizes.csv'] = strToU8(table);
  return { zip: zipSync(files, { level: 6 }), files: count, without };
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
  const { root, parts } = assemblyTree(whole.values, whole.placement.standing);
  return client.exportAssembly(document, wanted, root, parts);
}
