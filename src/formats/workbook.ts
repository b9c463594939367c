/** Workbooks in XLSX as they are kept in a document: their cells with formulas, so that they can be computed again. */
import { fail, succeed, type Result } from '@/core/kit';
import { columnOf, refuseBook } from './book-extent';
import { MOST_BYTES } from './table-limits';

export interface WorkbookCell {
  /** From 1. */
  readonly row: number;
  readonly column: number;
  /** Without the equals sign. */
  readonly formula?: string;
  /** What stands there, or what came out when it was saved; an empty text where that is an error, or nothing. */
  readonly value: string | number | boolean;
}

export interface Workbook {
  readonly sheets: readonly { readonly name: string; readonly cells: readonly WorkbookCell[] }[];
  /** Names of cells, `torque`, and what they stand for, `Shaft!$B$2`. */
  readonly names: readonly { readonly name: string; readonly cell: string }[];
}

/** A cell of a workbook by its address, `B2`. */
const ADDRESS = /^([A-Z]{1,3})([1-9]\d{0,6})$/;

export async function readWorkbook(bytes: Uint8Array): Promise<Result<Workbook, string>> {
  if (bytes.byteLength > MOST_BYTES) return fail(`The file has ${(bytes.byteLength / 1e6).toFixed(1)} MB; at most ${MOST_BYTES / 1e6} MB are read.`);
  const refusal = refuseBook(bytes);
  if (refusal !== undefined) return fail(refusal);
  const { read } = await import('@e965/xlsx');
  try {
    // Formulas as they are written, numbers as they are kept; no macros, styles or text made for display.
    const book = read(bytes, { type: 'array', cellFormula: true, cellHTML: false, cellText: false, cellStyles: false, bookVBA: false });
    const sheets = book.SheetNames.map((name) => ({
      name,
      cells: Object.entries(book.Sheets[name] ?? {}).flatMap(([address, cell]) => readCell(address, cell)),
    }));
    const names = (book.Workbook?.Names ?? []).flatMap(({ Name: name, Ref: ref, Sheet }) => {
      const cell = ref.replaceAll('$', '');
      return Sheet === undefined && /^[^!:]+!'?[A-Z]{1,3}\d+$|^'[^']+'![A-Z]{1,3}\d+$/.test(cell) && !name.startsWith('_') ? [{ name, cell }] : [];
    });
    return succeed({ sheets, names });
  } catch {
    return fail('The file is not XLSX, or is damaged.');
  }
}

/** Errors by the numbers that workbooks have for them: ECMA-376, part 1, 18.17.2.7, and the numbers of the binary format. */
const ERRORS: Readonly<Record<number, string>> = { 0: '#NULL!', 7: '#DIV/0!', 15: '#VALUE!', 23: '#REF!', 29: '#NAME?', 36: '#NUM!', 42: '#N/A' };

function readCell(address: string, cell: unknown): WorkbookCell[] {
  const [, letters, digits] = ADDRESS.exec(address) ?? [];
  if (letters === undefined || typeof cell !== 'object' || cell === null || !('t' in cell)) return [];
  const isError = cell.t === 'e';
  const value = !isError && 'v' in cell && ['string', 'number', 'boolean'].includes(typeof cell.v) ? (cell.v as WorkbookCell['value']) : '';
  // An error that was typed is computed as one.
  const error = isError && 'v' in cell && typeof cell.v === 'number' ? ERRORS[cell.v] : undefined;
  const formula = 'f' in cell && typeof cell.f === 'string' && cell.f !== '' ? cell.f : error;
  if (value === '' && formula === undefined) return [];
  return [{ row: Number(digits), column: columnOf(letters), value, ...(formula === undefined ? {} : { formula }) }];
}

/** `A` for 1, `AA` for 27. */
export function columnLetters(column: number): string {
  const rest = (column - 1) % 26;
  const letter = String.fromCharCode(65 + rest);
  return column <= 26 ? letter : columnLetters((column - 1 - rest) / 26) + letter;
}

/** A cell by its sheet and address, `Shaft!B2`, or by a name of the workbook. */
export function locateCell({ sheets, names }: Workbook, key: string): { readonly sheet: number; readonly row: number; readonly column: number } | undefined {
  const named = names.find(({ name }) => name.toLowerCase() === key.toLowerCase())?.cell ?? key;
  const at = named.lastIndexOf('!');
  const sheetName = named.slice(0, Math.max(at, 0)).replace(/^'|'$/g, '').replaceAll("''", "'");
  const sheet = sheets.findIndex(({ name }) => name === sheetName);
  const [, letters, digits] = ADDRESS.exec(named.slice(at + 1)) ?? [];
  return sheet < 0 || letters === undefined ? undefined : { sheet, row: Number(digits), column: columnOf(letters) };
}
