/** How large a table may be that is read from a file. */

/** Larger files are no ledger. */
export const MOST_BYTES = 5_000_000;
export const MOST_CELLS = 200_000;

export function tooManyCells(rows: number, columns: number): string {
  return `The table has ${rows} rows and ${columns} columns; at most ${MOST_CELLS.toLocaleString('en')} cells are read.`;
}
