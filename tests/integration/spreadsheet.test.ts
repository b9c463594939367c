/** Ledgers as CSV and XLSX: out, read by an independent reader, and back; hostile and broken tables refused politely. */
import { read, utils, write } from '@e965/xlsx';
import { strToU8, unzipSync, zipSync } from 'fflate';
import fc from 'fast-check';
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

test('results are written as numbers, to be reckoned with; names and formulas stay texts', async () => {
  const cells = [
    ['width [mm]', 'mass [kg]', 'problems'],
    ['300', '1.25e-3', ''],
    ['-4.5', '', '=SUM(A1)'],
  ];
  const book = read(await writeXlsx(cells, 'width over a range', { hasNumbers: true }));
  const sheet = book.Sheets[book.SheetNames[0] ?? ''];
  expect(
    [sheet?.['A2'], sheet?.['B2'], sheet?.['A3'], sheet?.['C3']].map((cell: { t: string; v: unknown; f?: string } | undefined) => [cell?.t, cell?.v, cell?.f]),
  ).toEqual([
    ['n', 300, undefined],
    ['n', 0.00125, undefined],
    ['n', -4.5, undefined],
    ['s', '=SUM(A1)', undefined],
  ]);
});

test('an independent reader finds the same cells', async () => {
  const cells = cellsOf(sizes);
  const book = read(await writeXlsx(cells, 'Loom sizes'));
  expect(book.SheetNames).toEqual(['Loom sizes']);
  expect(utils.sheet_to_json<string[]>(book.Sheets['Loom sizes'] ?? {}, { header: 1, defval: '' })).toEqual(cells);
});

test('a book that another program wrote is read: numbers, texts, yes and no, empty rows and gaps', async () => {
  const book = utils.book_new();
  utils.book_append_sheet(book, utils.aoa_to_sheet([['name', 'formula', 'note'], ['gap', 12.5, true], [], ['rise', '=3 mm', null, 'far']]), 'Any');
  const bytes = new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
  expect(taken(await readXlsx(bytes)).map((row) => row.slice(0, 3))).toEqual([
    ['name', 'formula', 'note'],
    ['gap', '12.5', 'true'],
    ['rise', '=3 mm', ''],
  ]);
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

/** The bytes of a book with one of its files changed. */
async function bookWith(change: (sheet: string) => string): Promise<Uint8Array> {
  const files = unzipSync(
    await writeXlsx(
      [
        ['name', 'formula'],
        ['gap', '4 mm'],
      ],
      'x',
    ),
  );
  const place = 'xl/worksheets/sheet1.xml';
  const sheet = new TextDecoder().decode(files[place]);
  expect(sheet).toContain('<row');
  return zipSync({ ...files, [place]: strToU8(change(sheet)) });
}

describe('hostile books', () => {
  test('a row number beyond all sheets, a million columns, a bomb: each is refused before it is read', async () => {
    const answers = [
      await readXlsx(await bookWith((sheet) => sheet.replace(/r="A2"/, 'r="A1000000000"').replace(/<row r="2"/, '<row r="1000000000"'))),
      await readXlsx(await bookWith((sheet) => sheet.replace(/r="A2"/, 'r="ZZZZZZ2"'))),
      await readXlsx(zipSync({ 'xl/worksheets/sheet1.xml': new Uint8Array(120_000_000) }, { level: 1 })),
    ];
    expect(answers.map(({ ok }) => ok)).toEqual([false, false, false]);
  });

  test('whatever is cut off or changed in a book, there is an answer', async () => {
    const whole = await writeXlsx(
      [
        ['name', 'formula'],
        ['gap', '4 mm'],
      ],
      'x',
    );
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat({ max: whole.length - 1 }), fc.nat({ max: 255 })), { maxLength: 4 }),
        fc.nat({ max: whole.length }),
        async (changes, length) => {
          const bytes = Uint8Array.from(whole);
          for (const [at, value] of changes) bytes[at] = value;
          const result = await readXlsx(changes.length > 0 ? bytes : bytes.slice(0, length));
          expect(result.ok || result.failure !== '').toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });

  test('the widest row counts, wherever it stands', () => {
    const text = `${'a,b\n'.repeat(5000)}x${','.repeat(100)}\n`;
    expect(readCsv(text)).toMatchObject({ failure: expect.stringContaining('101 columns') as string });
  });
});
