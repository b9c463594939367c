/** A spreadsheet file as it is taken into a document: packed, with its cells. */
import type { OutsideCalculation, StoredFile } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import type { Workbook, WorkbookCell } from '@/formats/workbook';
import { newId } from '../state/identity';
import { packFile } from '../state/stored-file';

export interface OpenBook {
  readonly file: StoredFile;
  readonly book: Workbook;
}

/** The reason where it cannot be read, or is too large. */
export async function readBook(file: File): Promise<Result<OpenBook, string>> {
  const { readWorkbook } = await import('@/formats/workbook');
  const bytes = new Uint8Array(await file.arrayBuffer());
  const read = await readWorkbook(bytes);
  if (!read.ok) return read;
  const packed = await packFile(file.name, bytes);
  if (!packed.ok) return fail(packed.failure);
  return succeed({ file: { type: 'file', id: newId(), name: file.name.slice(0, 200), format: 'xlsx', content: packed.value }, book: read.value });
}

/** A cell that a calculation asks, as it is in another file. */
export interface FoundCell {
  readonly key: string;
  readonly use: 'input' | 'result';
  /** What it was saved with; undefined where there is no number. */
  readonly saved: number | undefined;
  /** Why it cannot be asked there. */
  readonly problem: string | undefined;
}

/** The inputs and results of a calculation, looked for in a file that is to take the place of its own. */
export async function findCells({ inputs, outputs }: OutsideCalculation, book: Workbook): Promise<FoundCell[]> {
  const { locateCell } = await import('@/formats/workbook');
  const find = (key: string, use: FoundCell['use']): FoundCell => {
    const place = locateCell(book, key);
    const cell = place && book.sheets[place.sheet]?.cells.find(({ row, column }) => row === place.row && column === place.column);
    const saved = typeof cell?.value === 'number' ? cell.value : undefined;
    const problem = problemOf(key, use, place ? { cell } : undefined);
    return { key, use, saved, problem };
  };
  return [...inputs.map(({ key }) => find(key, 'input')), ...outputs.map(({ key }) => find(key, 'result'))];
}

/** `place` is undefined where there is no such place; an empty cell can be written into, not read. */
function problemOf(key: string, use: FoundCell['use'], place: { readonly cell: WorkbookCell | undefined } | undefined): string | undefined {
  if (!place || (use === 'result' && !place.cell)) return `There is no cell ${key}.`;
  const { cell } = place;
  if (use === 'input') return cell?.formula === undefined ? undefined : `${key} has a formula, which the input would replace.`;
  return cell?.formula === undefined && typeof cell?.value !== 'number' ? `${key} is not a number.` : undefined;
}
