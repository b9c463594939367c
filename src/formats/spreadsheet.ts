/** Tables of texts as CSV (RFC 4180) and XLSX, by the packages papaparse, write-excel-file and read-excel-file. */
import Papa from 'papaparse';
import { fail, succeed, type Result } from '@/core/kit';
import { MOST_BYTES, MOST_CELLS, tooManyCells } from './table-limits';

type Cells = readonly (readonly string[])[];

/**
 * Spreadsheets run what begins like this as a formula: an apostrophe keeps it a text, as OWASP advises against CSV
 * injection. It is taken off again when the file comes back.
 */
const RUNS = /^[=+\-@\t\r]/;

const PLAIN_NUMBER = /^-?\d+(?:\.\d+)?(?:e[+-]?\d+)?$/i;

export function writeCsv(cells: Cells): string {
  return Papa.unparse(guarded(cells), { newline: '\r\n' });
}

/** Columns parted by tabs, as a spreadsheet takes them from the clipboard. */
export function writeTabbed(cells: Cells): string {
  return Papa.unparse(guarded(cells), { delimiter: '\t', newline: '\n' });
}

function guarded(cells: Cells): string[][] {
  return cells.map((row) => row.map((cell) => (RUNS.test(cell) ? `'${cell}` : cell)));
}

/** Commas, semicolons or tabs, told by the text itself. */
export function readCsv(text: string): Result<Cells, string> {
  if (text.length > MOST_BYTES) return fail(tooLarge(text.length));
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const [problem] = errors.filter(({ type }) => type === 'Quotes');
  if (problem) return fail(`The file cannot be read: ${problem.message} (row ${(problem.row ?? 0) + 1}).`);
  return checked(data.map((row) => row.map(unguard)));
}

/** `hasNumbers`: cells below the first row that are plain numbers are written as such, to be reckoned with; otherwise all are texts, as they were typed. */
export async function writeXlsx(cells: Cells, title: string, { hasNumbers = false } = {}): Promise<Uint8Array> {
  const { default: write } = await import('write-excel-file/universal');
  const [head = [], ...rows] = cells;
  // Nothing of texts is run.
  const cell = (value: string) => {
    if (value === '') return null;
    return hasNumbers && PLAIN_NUMBER.test(value) ? { value: Number(value), type: Number } : { value, type: String, format: '@' };
  };
  const data = [head.map((value) => ({ value, type: String, fontWeight: 'bold' as const })), ...rows.map((row) => row.map(cell))];
  const columns = head.map((_, i) => ({ width: Math.min(48, Math.max(10, ...cells.slice(0, 200).map((row) => (row[i]?.length ?? 0) + 2))) }));
  const sheet =
    title
      .replace(/[\\/?*[\]:]/g, ' ')
      .slice(0, 31)
      .trim() || 'Values';
  const blob = await write(data, { sheet, columns, stickyRowsCount: 1 }).toBlob();
  return new Uint8Array(await blob.arrayBuffer());
}

/** The cells of the first sheet, numbers as they would be typed. */
export async function readXlsx(bytes: Uint8Array): Promise<Result<Cells, string>> {
  if (bytes.byteLength > MOST_BYTES) return fail(tooLarge(bytes.byteLength));
  const [{ refuseBook }, { readSheet }] = await Promise.all([import('./book-extent'), import('read-excel-file/universal')]);
  const refusal = refuseBook(bytes);
  if (refusal !== undefined) return fail(refusal);
  try {
    const rows = await readSheet(Uint8Array.from(bytes).buffer);
    return checked(rows.map((row) => row.map((cell) => unguard(cellText(cell)))).filter((row) => row.some((cell) => cell !== '')));
  } catch {
    return fail('The file is not XLSX, or is damaged.');
  }
}

function cellText(cell: unknown): string {
  if (cell instanceof Date) return cell.toISOString().slice(0, 10);
  return typeof cell === 'string' || typeof cell === 'number' || typeof cell === 'boolean' ? String(cell) : '';
}

function checked(cells: string[][]): Result<Cells, string> {
  const columns = cells.reduce((most, row) => Math.max(most, row.length), 0);
  return cells.length * columns > MOST_CELLS ? fail(tooManyCells(cells.length, columns)) : succeed(cells);
}

function unguard(cell: string): string {
  return cell.startsWith("'") && RUNS.test(cell.slice(1)) ? cell.slice(1) : cell;
}

function tooLarge(size: number): string {
  return `The file has ${(size / 1e6).toFixed(1)} MB; at most ${MOST_BYTES / 1e6} MB are read.`;
}
