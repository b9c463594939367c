/** Cells of a workbook that can be inputs or results: those with numbers, by their names or by the text beside them. */
import { columnLetters, locateCell, type Workbook } from '@/formats/workbook';

export interface CandidateCell {
  /** By which it is asked: its name, or `Shaft!B2`. */
  readonly key: string;
  /** What stands beside it. */
  readonly label: string;
  readonly value: number;
  readonly isComputed: boolean;
}

/** Named cells first, then as they stand in the sheets; at most `most`. */
export function listCandidates(book: Workbook, most = 400): CandidateCell[] {
  const named = new Map(book.names.flatMap(({ name }) => entryOf(book, name)));
  const all = book.sheets.flatMap(({ name: sheet, cells }, index) => {
    const texts = new Map(cells.flatMap((cell) => (typeof cell.value === 'string' ? [[`${cell.row} ${cell.column}`, cell.value] as const] : [])));
    return cells.flatMap((cell): CandidateCell[] => {
      if (typeof cell.value !== 'number') return [];
      const name = named.get(`${index} ${cell.row} ${cell.column}`);
      const label = texts.get(`${cell.row} ${cell.column - 1}`) ?? texts.get(`${cell.row - 1} ${cell.column}`) ?? '';
      return [{ key: name ?? `${sheet}!${columnLetters(cell.column)}${cell.row}`, label, value: cell.value, isComputed: cell.formula !== undefined }];
    });
  });
  const isNamed = (cell: CandidateCell): boolean => !cell.key.includes('!');
  return [...all.filter(isNamed), ...all.filter((cell) => !isNamed(cell))].slice(0, most);
}

function entryOf(book: Workbook, name: string): [string, string][] {
  const place = locateCell(book, name);
  return place ? [[`${place.sheet} ${place.row} ${place.column}`, name]] : [];
}
