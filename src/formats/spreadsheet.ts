/** Tables of texts as CSV (RFC 4180) and XLSX, by the papaparse and exceljs packages. */
import Papa from 'papaparse';
import { fail, succeed, type Result } from '@/core/kit';

type Cells = readonly (readonly string[])[];

/** Larger files are no ledger. */
export const MOST_BYTES = 5_000_000;
const MOST_CELLS = 200_000;

/**
 * Spreadsheets run what begins like this as a formula: an apostrophe keeps it a text, as OWASP advises against CSV
 * injection. It is taken off again when the file comes back.
 */
const RUNS = /^[=+\-@\t\r]/;

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

export async function writeXlsx(cells: Cells, title: string): Promise<Uint8Array> {
  const { Workbook } = (await import('exceljs')).default;
  const book = new Workbook();
  const sheet = book.addWorksheet(title.replace(/[\\/?*[\]:]/g, ' ').slice(0, 31) || 'Values');
  // Texts, one and all: nothing of them is run.
  for (const row of cells) sheet.addRow([...row]);
  sheet.getRow(1).font = { bold: true };
  sheet.views = [{ state: 'frozen', ySplit: 1 }];
  sheet.columns.forEach((column, i) => {
    column.width = Math.min(48, Math.max(10, ...cells.slice(0, 200).map((row) => (row[i]?.length ?? 0) + 2)));
  });
  return new Uint8Array(await book.xlsx.writeBuffer());
}

/** The cells of the first sheet as they are shown. */
export async function readXlsx(bytes: Uint8Array): Promise<Result<Cells, string>> {
  if (bytes.byteLength > MOST_BYTES) return fail(tooLarge(bytes.byteLength));
  const { Workbook } = (await import('exceljs')).default;
  const book = new Workbook();
  try {
    await book.xlsx.load(Uint8Array.from(bytes).buffer);
  } catch {
    return fail('The file is not XLSX, or is damaged.');
  }
  const [sheet] = book.worksheets;
  if (!sheet) return fail('The file has no sheet.');
  if (sheet.rowCount * sheet.columnCount > MOST_CELLS) return fail(tooManyCells(sheet.rowCount, sheet.columnCount));
  const cells: string[][] = [];
  sheet.eachRow((row) => {
    cells.push(Array.from({ length: sheet.columnCount }, (_, i) => unguard(row.getCell(i + 1).text)));
  });
  return checked(cells);
}

function checked(cells: string[][]): Result<Cells, string> {
  const columns = Math.max(0, ...cells.slice(0, 1000).map((row) => row.length));
  return cells.length * columns > MOST_CELLS ? fail(tooManyCells(cells.length, columns)) : succeed(cells);
}

function unguard(cell: string): string {
  return cell.startsWith("'") && RUNS.test(cell.slice(1)) ? cell.slice(1) : cell;
}

function tooLarge(size: number): string {
  return `The file has ${(size / 1e6).toFixed(1)} MB; at most ${MOST_BYTES / 1e6} MB are read.`;
}

function tooManyCells(rows: number, columns: number): string {
  return `The table has ${rows} rows and ${columns} columns; at most ${MOST_CELLS.toLocaleString('en')} cells are read.`;
}
