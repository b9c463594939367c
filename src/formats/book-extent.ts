/** How large an XLSX book is, told before it is read: the reader of the package fills every row up to the last. */
import { strFromU8, unzipSync } from 'fflate';
import { MOST_CELLS, tooManyCells } from './table-limits';

/** A book of the largest size has much less. */
const MOST_UNPACKED = 100_000_000;

/** What keeps a book from being read. */
export function refuseBook(bytes: Uint8Array): string | undefined {
  let size = 0;
  try {
    unzipSync(bytes, {
      filter: ({ originalSize }) => {
        size += originalSize;
        return false;
      },
    });
    if (size > MOST_UNPACKED) return `The file has ${(size / 1e6).toFixed(0)} MB when it is unpacked; at most ${MOST_UNPACKED / 1e6} MB are read.`;
    const sheets = unzipSync(bytes, { filter: ({ name }) => /^xl\/worksheets\/[^/]+\.xml$/.test(name) });
    for (const sheet of Object.values(sheets)) {
      const { rows, columns } = extentOf(strFromU8(sheet));
      if (rows * columns > MOST_CELLS) return tooManyCells(rows, columns);
    }
    return undefined;
  } catch {
    return 'The file is not XLSX, or is damaged.';
  }
}

/** The last row and column that a sheet names: `r="AB12"` of a cell, `r="12"` of a row. */
function extentOf(xml: string): { readonly rows: number; readonly columns: number } {
  let [rows, columns] = [0, 0];
  for (const [, letters = '', digits = '0'] of xml.matchAll(/<(?:\w+:)?(?:c|row)\b[^>]*?\br="([A-Za-z]*)(\d*)"/g)) {
    rows = Math.max(rows, Number(digits));
    columns = Math.max(columns, columnOf(letters));
  }
  return { rows, columns: Math.max(columns, 1) };
}

/** `A` is 1, `Z` 26, `AA` 27. */
export function columnOf(letters: string): number {
  let column = 0;
  for (const letter of letters.toUpperCase()) column = column * 26 + (letter.charCodeAt(0) - 64);
  return column;
}
