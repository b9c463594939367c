/** Ledgers as CSV and XLSX: out, read by an independent reader, and back; hostile and broken tables refused politely. */
import { readSheet } from 'read-excel-file/node';
import { applyEdit, DocumentValues, findNamed, type Document } from '@/core/document';
import { COLUMNS, planTable, readRows, writeTable, type TablePlan } from '@/core/value-table';
import { readCsv, readXlsx, writeCsv, writeXlsx } from '@/formats/spreadsheet';
import { demoDocument } from '../support/demo';

const sizes = demoDocument('Loom sizes');
const cellsOf = (document: Document): string[][] => [
  [...COLUMNS],
  ...writeTable(new DocumentValues(document)).map((row) => COLUMNS.map((column) => row[column])),
];

function plan(document: Document, cells: readonly (readonly string[])[]): TablePlan {
  let next = 0;
  return planTable(new DocumentValues(document), readRows(cells), () => `new${next++}`);
}

function taken<T>(result: { readonly ok: true; readonly value: T } | { readonly ok: false; readonly failure: string }): T {
  if (!result.ok) throw new Error(result.failure);
  return result.value;
}

test('CSV and XLSX come back with nothing to change', async () => {
  for (const name of ['Loom sizes', 'Side frame', 'Ratchet wheel']) {
    const document = demoDocument(name);
    const cells = cellsOf(document);
    expect(plan(document, taken(readCsv(writeCsv(cells)))).changes).toEqual([]);
    const back = taken(await readXlsx(await writeXlsx(cells, name)));
    expect(back).toEqual(cells);
    expect(plan(document, back)).toMatchObject({ changes: [], problems: [] });
  }
});

test('an independent reader finds the same cells', async () => {
  const cells = cellsOf(sizes);
  const rows = await readSheet(Buffer.from(await writeXlsx(cells, 'Loom sizes')));
  expect(rows.map((row) => row.map((cell) => cell ?? ''))).toEqual(cells);
});

test('formulas, notes, kinds and limits are changed, new values added, as one edit with every cell said before', () => {
  const result = plan(sizes, [
    ['name', 'formula', 'note', 'most', 'unit'],
    ['weaving_width', '=480 mm', 'for shawls', '600 mm', 'cm'],
    ['shawl_gap', 'weaving_width / 20', '', '', ''],
  ]);
  expect(result.problems).toEqual([]);
  expect(result.changes.map(({ name, change, column, after }) => [name, change, column, after])).toEqual([
    ['weaving_width', 'changed', 'formula', '480 mm'],
    ['weaving_width', 'changed', 'note', 'for shawls'],
    ['weaving_width', 'changed', 'unit', 'cm'],
    ['weaving_width', 'changed', 'most', '600 mm'],
    ['shawl_gap', 'added', 'formula', 'weaving_width / 20'],
  ]);
  const applied = result.edit && applyEdit(sizes, result.edit);
  if (!applied?.ok) throw new Error('refused');
  const values = new DocumentValues(applied.value.document);
  expect(values.show(findNamed(applied.value.document, 'shawl_gap')?.id ?? '')?.shown).toBe('24 mm');
});

test('empty cells leave what is there', () => {
  const result = plan(sizes, [
    ['name', 'formula', 'note', 'most', 'choices'],
    ['weaving_width', '', '', '', ''],
    ['frame_stock', '', '', '', ''],
  ]);
  expect(result).toEqual({ changes: [], problems: [], edit: undefined });
});

test.each([
  [[['', '4 mm']], { row: 1, column: 'name', message: 'This row has no name.' }],
  [[['new_gap', '']], { row: 1, column: 'formula', message: 'new_gap is new and needs a formula.' }],
  [[['2gap', '4 mm']], { row: 1, column: 'name' }],
  [[['gap', '4 mm + 2 kg']], { row: 1, column: 'formula' }],
  [[['gap', 'weaving_widht']], { row: 1, column: 'formula' }],
  [
    [
      ['gap', '4 mm'],
      ['gap', '5 mm'],
    ],
    { row: 2, column: 'name', message: 'gap stands in the table twice.' },
  ],
  [[['gap', '=HYPERLINK("http://x","y")']], { row: 1, column: 'formula' }],
  [[['screws', '4 mm']], { row: 1, column: 'formula', message: 'screws is a lookup table; it has no formula here.' }],
] as const)('what is wrong in %j is told by its cell, and nothing is changed', (cells, problem) => {
  const result = plan(sizes, cells);
  expect(result.problems[0]).toMatchObject(problem);
  expect(result.edit).toBeUndefined();
});

test('texts that a spreadsheet would run are kept texts', () => {
  const hostile = ['=1+1', '+cmd|calc', '-2 mm', '@SUM(A1)', 'plain', "'quoted"];
  const text = writeCsv([hostile]);
  expect(text).toBe("'=1+1,'+cmd|calc,'-2 mm,'@SUM(A1),plain,'quoted");
  expect(taken(readCsv(text))).toEqual([hostile]);
});

test('semicolons, tabs and a mark at the start are read; open quotes are told', () => {
  expect(taken(readCsv('\uFEFFname;formula\r\ngap;4 mm\r\n'))).toEqual([
    ['name', 'formula'],
    ['gap', '4 mm'],
  ]);
  expect(taken(readCsv('gap\t4 mm\nrise\t5 mm'))).toHaveLength(2);
  expect(readCsv('name,formula\n"gap,4 mm')).toMatchObject({ failure: expect.stringContaining('cannot be read') as string });
});

test('a million rows, a file of another kind and a damaged one are refused with words', async () => {
  expect(readCsv('gap,4 mm\n'.repeat(1_000_000))).toMatchObject({ failure: 'The file has 9.0 MB; at most 5 MB are read.' });
  expect(readCsv('a,b,c\n'.repeat(100_000))).toMatchObject({ failure: expect.stringContaining('at most 200,000 cells') as string });
  expect(await readXlsx(new TextEncoder().encode('not a book'))).toMatchObject({ failure: 'The file is not XLSX, or is damaged.' });
  const whole = await writeXlsx([['name', 'formula']], 'x');
  expect(await readXlsx(whole.slice(0, 300))).toMatchObject({ failure: 'The file is not XLSX, or is damaged.' });
  const many = plan(
    sizes,
    Array.from({ length: 5002 }, (_, i) => [`v${i}`, '1 mm']),
  );
  expect(many.problems.map(({ message }) => message)).toContain('At most 5000 rows are read.');
  expect(many.edit).toBeUndefined();
});
