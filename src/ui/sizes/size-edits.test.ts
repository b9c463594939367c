/** Sizes as tables of texts: there and back, and what is no such table. */
import { fail } from '@/core/kit';
import { readCsv, readXlsx, writeCsv, writeTabbed, writeXlsx } from '@/formats/spreadsheet';
import { applyEdit, inSize, listSizes, DocumentValues, type Document } from '@/core/document';
import { withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { sizeFileName } from './export-sizes';
import { addSize, cellEdit, readSizeCells, renameSize, sizeCells } from './size-edits';

const PLATE = edited(
  withParameters('part', 'plate', { width: '40 mm', word: '"a"', count: '3' }),
  { type: 'size.put', size: { id: 's', name: 'Small', cells: { 'plate-width': { text: '20 mm' }, 'plate-word': { text: '"b, c"' } } } },
  { type: 'size.put', size: { id: 'l', name: 'Large', cells: { 'plate-width': { text: '2 * 40 mm' } } } },
);
const shown = (document: Document) =>
  listSizes(document).map(({ id, name }) => [
    name,
    ...['width', 'word'].map((value) => new DocumentValues(inSize(document, id)).show(`plate-${value}`)?.shown),
  ]);
const read = (document: Document, cells: readonly (readonly string[])[]): Document | string => {
  const found = readSizeCells(document, cells);
  if ('problem' in found) return found.problem;
  const result = applyEdit(document, found.edit);
  return result.ok ? result.value.document : result.failure.message;
};

test('a table goes through CSV, the clipboard and XLSX, and comes back as it was', async () => {
  const cells = sizeCells(PLATE);
  expect(cells).toEqual([
    ['size', 'width', 'word'],
    ['', '40 mm', '"a"'],
    ['Small', '20 mm', '"b, c"'],
    ['Large', '2 * 40 mm', ''],
  ]);
  const bare = edited(PLATE, { type: 'size.remove', id: 's' }, { type: 'size.remove', id: 'l' });
  const ways = [readCsv(writeCsv(cells)), readCsv(writeTabbed(cells)), await readXlsx(await writeXlsx(cells, 'Sizes'))];
  for (const way of ways) {
    const table = way.ok ? way.value : fail(way.failure);
    const back = Array.isArray(table) ? read(bare, table as string[][]) : 'not read';
    expect(typeof back === 'string' ? back : shown(back)).toEqual(shown(PLATE));
  }
});

test('rows of a name that is there change it, whatever its capitals; others are added', () => {
  const changed = read(PLATE, [
    ['size', 'width'],
    ['SMALL', '25 mm'],
    ['Huge', '900 mm'],
  ]);
  expect(typeof changed === 'string' ? changed : shown(changed)).toEqual([
    ['Small', '25 mm', 'b, c'],
    ['Large', '80 mm', 'a'],
    ['Huge', '900 mm', 'a'],
  ]);
});

test.each<[string, readonly (readonly string[])[], RegExp]>([
  ['nothing', [], /must name values/],
  ['no values', [['size'], ['a']], /must name values/],
  [
    'a value that is not there',
    [
      ['size', 'depth'],
      ['a', '1'],
    ],
    /plate has no value depth/,
  ],
  [
    'no names',
    [
      ['size', 'width'],
      ['', '1 mm'],
    ],
    /must name the sizes/,
  ],
  [
    'two of one name',
    [
      ['size', 'width'],
      ['a', '1 mm'],
      ['A', '2 mm'],
    ],
    /Two rows are called A/,
  ],
])('what is no table of sizes is told: %s', (_, cells, words) => {
  expect(read(PLATE, cells)).toMatch(words);
});

test('a new size begins as the document is; cells and names are changed one by one', () => {
  const made = addSize(PLATE);
  let document = edited(PLATE, made);
  const size = listSizes(document).at(-1);
  if (!size) throw new Error('no size');
  expect(size.cells['plate-width']?.text).toBe('40 mm');
  document = edited(
    document,
    cellEdit(document, size, 'plate-width', '33 mm'),
    renameSize(document, { ...size, cells: { 'plate-width': { text: '33 mm' } } }, 'Middle'),
  );
  expect(shown(document).at(-1)).toEqual(['Middle', '33 mm', 'a']);
});

test('names of files hold nothing that a file system refuses', () => {
  expect(sizeFileName('Side / frame', '12" <wide>:\n*', 'step')).toBe('Side frame, 12 wide.step');
});
