/** Files of an open document, made beside the page; loaded with the first that is asked for. */
import { listParts, listPartsByLevel, partsTable } from '@/core/assembly';
import { findAny, isNamed, type Document, type DocumentValues } from '@/core/document';
import { complete } from '@/core/instances';
import { COLUMNS, writeTable } from '@/core/value-table';
import { writeCsv, writeXlsx } from '@/formats/spreadsheet';
import type { RegenerationClient } from '@/workers/client';
import type { ExportFormat } from '@/workers/protocol';
import { saveFile } from '../design/save-file';
import type { DocumentSession } from '../state/document-session';
import { clientBeside } from '../state/page-workers';

const TIME_LIMIT_MS = 600_000;

/** Values that rest on results of outside calculations which were not computed for their present inputs. */
export function heldNames(document: Document, { sheet }: DocumentValues): string[] {
  return [...sheet.listHeld()].flatMap((id) => {
    const record = findAny(document, id);
    return record && isNamed(record) ? record.name : [];
  });
}

export interface RunningExport {
  /** Why there is no file; undefined when it is saved or the export was cancelled. */
  readonly done: Promise<string | undefined>;
  readonly cancel: () => void;
}

/** The bodies of the part, or the assembly as it stands. */
export function exportGeometry(session: DocumentSession, format: ExportFormat, onProgress: (done: number, of: number) => void): RunningExport {
  const worker = clientBeside('file', session.document.id, TIME_LIMIT_MS);
  return { done: writeGeometry(session, worker, format, onProgress), cancel: () => worker.close() };
}

async function writeGeometry(
  session: DocumentSession,
  worker: RegenerationClient,
  format: ExportFormat,
  onProgress: (done: number, of: number) => void,
): Promise<string | undefined> {
  const { document } = session;
  const { assembly } = session.geometry;
  const tree = assembly && format !== 'stl' ? assembly.tree() : undefined;
  const file = await (tree && format !== 'stl'
    ? worker.exportAssembly(document, format, tree.root, tree.parts)
    : worker.exportFile(complete(document, session.snapshots), format, { onProgress }));
  worker.close();
  if (!file.ok) return file.failure.kind === 'closed' ? undefined : 'The file could not be made; the part is as it was. Try again.';
  if (file.value.bodies === 0) return 'There is no body to export: none is built.';
  saveFile(file.value.bytes, `${document.name}.${format}`);
  return undefined;
}

export async function saveParts({ document, values, snapshots }: DocumentSession, format: 'csv' | 'xlsx', isByLevel: boolean): Promise<void> {
  const cells = partsTable(isByLevel ? listPartsByLevel(values, snapshots) : listParts(values, snapshots));
  await saveCells(cells, format, `${document.name} parts${isByLevel ? ' by level' : ''}`, document.name);
}

export async function saveTable({ document, values }: DocumentSession, format: 'csv' | 'xlsx'): Promise<void> {
  const cells = [[...COLUMNS], ...writeTable(values).map((row) => COLUMNS.map((column) => row[column]))];
  await saveCells(cells, format, `${document.name} values`, document.name);
}

async function saveCells(cells: readonly (readonly string[])[], format: 'csv' | 'xlsx', name: string, title: string): Promise<void> {
  saveFile(format === 'csv' ? new TextEncoder().encode(writeCsv(cells)) : await writeXlsx(cells, title), `${name}.${format}`);
}
