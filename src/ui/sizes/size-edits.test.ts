/** Sizes as tables of texts: there and back, and what is no such table. */
import { read as readBook, utils } from '@e965/xlsx';
import { fail } from '@/core/kit';
import { readCsv, readXlsx, writeCsv, writeTabbed, writeXlsx } from '@/formats/spreadsheet';
import { applyEdit, inSize, listSizes, DocumentValues, sizeColumns, sizeTable, type Document, type Size } from '@/core/document';
import { InstanceLibrary, meaningText } from '@/core/instances';
import { SizeReader } from '@/core/studies';
import { withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { nameFiles, NAME_PATTERN } from './export-sizes';
import { addSize, cellEdit, copySize, moveColumn, moveSize, readSizeCells, renameSize, sizeCells } from './size-edits';

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

test('what is written is read by others as it stands', async () => {
  const cells = sizeCells(PLATE);
  const sheetOf = (data: Uint8Array | string, type: 'array' | 'string') => {
    const { Sheets, SheetNames } = readBook(data, { type, raw: true });
    return utils.sheet_to_json<string[]>(Sheets[SheetNames[0] ?? ''] ?? {}, { header: 1, raw: true, defval: '' });
  };
  // The reader of SheetJS, which the product does not write with.
  expect(sheetOf(await writeXlsx(cells, 'Sizes'), 'array')).toEqual(cells);
  expect(sheetOf(writeCsv(cells), 'string')).toEqual(cells);
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

test('what a table changes is told before it is taken', () => {
  const plan = readSizeCells(PLATE, [
    ['size', 'word', 'width'],
    ['Small', '"b, c"', '25 mm'],
    ['Large', '', ''],
    ['Huge', '"x"', ''],
  ]);
  expect('changes' in plan && plan.changes).toEqual([
    { size: 'Small', value: 'width', before: '20 mm', after: '25 mm' },
    { size: 'Large', value: 'width', before: '2 * 40 mm', after: '' },
    { size: 'Huge', before: '', after: 'new' },
    { size: 'Huge', value: 'word', before: '', after: '"x"' },
  ]);
});

test('5,000 sizes come in at once, more are refused with what to do', () => {
  const rows = (count: number) => [['size', 'width'], ...Array.from({ length: count }, (_, i) => [`s${i}`, `${i + 1} mm`])];
  const all = read(PLATE, rows(5000));
  expect(typeof all !== 'string' && listSizes(all)).toHaveLength(5002);
  expect(read(PLATE, rows(5001))).toMatch(/5001 sizes; 5000 are taken at once/);
});

test('sizes and columns are moved, and come back by undo', () => {
  const names = (document: Document): string[] => listSizes(document).map(({ name }) => name);
  const columns = (document: Document): string[] => sizeColumns(document).map(({ name }) => name);
  const third = edited(PLATE, copySize(PLATE, listSizes(PLATE)[0] as Size));
  expect(names(third)).toEqual(['Small', 'Size 3', 'Large']);
  expect(names(edited(third, moveSize(third, 'l', -1)))).toEqual(['Small', 'Large', 'Size 3']);
  expect(names(edited(third, moveSize(third, 's', -1)))).toEqual(names(third));
  expect(names(edited(third, moveSize(third, 'l', 1)))).toEqual(names(third));
  expect(columns(PLATE)).toEqual(['width', 'word']);
  expect(columns(edited(PLATE, moveColumn(PLATE, 'plate-word', -1)))).toEqual(['word', 'width']);
  const moved = applyEdit(PLATE, moveSize(PLATE, 'l', -1));
  expect(moved.ok && applyEdit(moved.value.document, moved.value.inverse)).toMatchObject({ value: { document: PLATE } });
});

test('values are shown beside those that sizes set, until they are gone', () => {
  const shows = edited(PLATE, { type: 'sizes.results', results: ['plate-count', 'plate-count'] });
  expect(sizeTable(shows)?.results).toEqual(['plate-count']);
  // It is no other document for that.
  expect(meaningText(shows)).toBe(meaningText(PLATE));
  expect(sizeTable(edited(shows, { type: 'parameter.remove', id: 'plate-count', readers: { mode: 'refuse' } }))?.results).toBeUndefined();
  expect(applyEdit(PLATE, { type: 'sizes.results', results: ['nothing'] })).toMatchObject({ ok: false, failure: { code: 'not-found' } });
});

test('files are called by a pattern, and hold nothing that a file system refuses', () => {
  const named = (pattern: string, document = PLATE) => {
    const reader = new SizeReader(document, new InstanceLibrary());
    const names = nameFiles(document, pattern, 'step', (size, value) => reader.read(size).get(value)?.shown);
    return names.ok ? [...names.value.values()] : names.failure;
  };
  expect(named(NAME_PATTERN)).toEqual(['plate, Small.step', 'plate, Large.step']);
  expect(named('{width} {word}')).toEqual(['20 mm b, c.step', '80 mm a.step']);
  expect(named('{depth}')).toMatch(/No column is called \{depth\}/);
  expect(named('{document}')).toMatch(/Small and Large would both be plate\.step/);
  expect(named('...', edited(PLATE, { type: 'size.remove', id: 'l' }))).toMatch(/would have no name/);
  const hostile = edited(
    { ...PLATE, name: 'Side / frame' },
    { type: 'size.remove', id: 'l' },
    renameSize(PLATE, listSizes(PLATE)[0] as Size, '../12" <wide>:*'),
  );
  expect(named(NAME_PATTERN, hostile)).toEqual(['Side frame, .. 12 wide.step']);
});
