/** Workbooks computed again with other numbers: written by an independent writer, read and run here. */
import { gzipSync } from 'node:zlib';
import { utils, write, type WorkSheet } from '@e965/xlsx';
import { strToU8, unzipSync, zipSync } from 'fflate';
import type { Question } from '@/core/document';
import { computeSpreadsheet } from './spreadsheet';

type Cells = readonly (readonly (string | number | boolean | { readonly f: string; readonly v?: number | string })[])[];

function book(sheets: Readonly<Record<string, Cells>>, names: Readonly<Record<string, string>> = {}): string {
  const made = utils.book_new();
  for (const [name, cells] of Object.entries(sheets)) {
    const sheet: WorkSheet = utils.aoa_to_sheet(cells.map((row) => row.map((cell) => (typeof cell === 'object' ? { ...saved(cell.v), f: cell.f } : cell))));
    utils.book_append_sheet(made, sheet, name);
  }
  made.Workbook = { Names: Object.entries(names).map(([Name, Ref]) => ({ Name, Ref })) };
  return gzipSync(write(made, { type: 'buffer', bookType: 'xlsx' }) as Buffer).toString('base64');
}

/** A cell as it was saved: without a value, with an error as its result. */
function saved(v: number | string | undefined) {
  return typeof v === 'string' ? { t: 's' as const, v } : v === undefined ? { t: 'e' as const, v: 29 } : { t: 'n' as const, v };
}

function question(inputs: Readonly<Record<string, number>>, outputs: readonly string[], kind = 'number', unit = ''): Question {
  return {
    key: 'k',
    outside: 'o',
    name: 'Shaft',
    asked: { of: 'spreadsheet', file: 'f' },
    inputs: Object.fromEntries(Object.entries(inputs).map(([key, value]) => [key, { value, unit: '' }])),
    outputs: outputs.map((key) => ({ key, kind, unit })),
    within: [],
  };
}

const SHAFT = book(
  {
    Shaft: [
      ['Torque', 4.8],
      ['Allowable', { f: 'Limits!A1*2' }],
      ['Diameter', { f: '(16*B1*1000/(PI()*B2))^(1/3)' }],
    ],
    Limits: [[20]],
  },
  { torque: 'Shaft!$B$1', diameter: 'Shaft!$B$3' },
);

const problemOf = async (cells: Cells, output = 'S!A1'): Promise<string> => {
  const answer = await computeSpreadsheet({ name: 'book.xlsx', content: book({ S: cells }), question: question({}, [output]) });
  return answer.ok ? JSON.stringify(answer.value.outputs) : answer.failure.problem;
};

test('numbers go into cells and come out of others, by names and by addresses, with all their digits', async () => {
  const byName = await computeSpreadsheet({ name: 'shaft.xlsx', content: SHAFT, question: question({ torque: 9.6 }, ['diameter'], 'length', 'mm') });
  const byAddress = await computeSpreadsheet({ name: 'shaft.xlsx', content: SHAFT, question: question({ 'Shaft!B1': 9.6, 'Limits!A1': 10 }, ['Shaft!B3']) });
  if (!byName.ok || !byAddress.ok) throw new Error('No answer.');
  expect(byName.value.outputs['diameter']?.unit).toBe('mm');
  expect(Math.abs((byName.value.outputs['diameter']?.value ?? 0) / Math.cbrt((16 * 9600) / (Math.PI * 40)) - 1)).toBeLessThan(3e-16);
  expect(Math.abs((byAddress.value.outputs['Shaft!B3']?.value ?? 0) / Math.cbrt((16 * 9600) / (Math.PI * 20)) - 1)).toBeLessThan(3e-16);
});

test.each([
  ['a circle', [[{ f: 'A2' }], [{ f: 'A1' }]], 'S!A1 leads back to itself (#CIRC!).'],
  ['a division by zero', [[{ f: '1/A2' }], [0]], 'S!A1 divides by zero (#DIV/0!).'],
  ['an unknown function, further up', [[{ f: 'A2+1' }], [{ f: 'SHAFTLIFE(3)' }]], 'S!A2 uses SHAFTLIFE, a function that is not known here.'],
  ['a text', [['forty']], 'S!A1 is "forty", not a number.'],
  ['a text like a number', [['40']], 'S!A1 is "40", not a number.'],
  ['a text like a formula', [['=1+1']], 'S!A1 is "=1+1", not a number.'],
  ['an empty cell', [[1]], 'S!B7 is empty, not a number.', 'S!B7'],
  ['a cell that is none', [[1]], 'there is no cell T!A1.', 'T!A1'],
  ['a text in a sum', [[{ f: 'A2*2' }], ['x']], 'S!A1 computes with a text (#VALUE!).'],
] as [string, Cells, string, string?][])('%s is told with its cell', async (_, cells, words, ...[output]) => {
  expect(await problemOf(cells, output)).toBe(`book.xlsx: ${words}`);
});

test.each([
  ['cells of another workbook', [[{ f: '[1]Other!A1*2' }]], /^book\.xlsx: S!A1 reads another workbook, which is not here\.$/],
  ['a name of a sheet that is gone', [[{ f: 'Gone!A1+1' }]], /^book\.xlsx: S!A1 /],
  ['a formula that is none', [[{ f: 'SUM(((' }]], /^book\.xlsx: S!A1 /],
  ['a very long formula', [[{ f: `${'1+'.repeat(4000)}1` }]], /^book\.xlsx: S!A1 has 4000 operations in one formula; at most 500 are computed\./],
  ['a deeply nested one', [[{ f: `${'('.repeat(3000)}1${')'.repeat(3000)}` }]], /S!A1 has 3000 operations/],
  ['as deep as is allowed', [[{ f: `${'1+'.repeat(499)}1` }]], /"value":500/],
  ['a formula that would call out', [[{ f: 'WEBSERVICE("http://127.0.0.1/")' }]], /WEBSERVICE|S!A1 /],
  ['a link out', [[{ f: 'HYPERLINK("http://127.0.0.1/","x")' }]], /S!A1 /],
  ['a row beyond all', [[{ f: 'SUM(A2:A1048576)+INDEX(A:A,1048577)' }]], /S!A1 /],
] as [string, Cells, RegExp][])('%s: told, and nothing breaks', async (_, cells, words) => {
  expect(await problemOf(cells)).toMatch(words);
  // The next one is computed as if nothing had been.
  expect(await problemOf([[{ f: '1+1' }]])).toContain('2');
});

test('a cell that cannot be computed here counts as it was saved, and what rests on it is held, also where an error would be hidden', async () => {
  const cells: Cells = [
    [4, { f: 'SHAFTLIFE(A1)', v: 7 }, { f: '[1]Other!A1', v: 100 }],
    [{ f: 'A1*2' }, { f: 'B1+A1' }, { f: 'IFERROR(SHAFTLIFE(A1),0)', v: 9 }, { f: 'IFERROR(B1,0)+1' }, { f: 'C1/A1' }],
    [{ f: 'LOSTTOO(1)' }, { f: 'A3+1' }],
  ];
  const ask = async (...outputs: string[]) => {
    const answer = await computeSpreadsheet({ name: 'b', content: book({ S: cells }), question: question({ 'S!A1': 5 }, outputs) });
    return answer.ok ? outputs.map((key) => [answer.value.outputs[key]?.value, answer.value.outputs[key]?.stored]) : answer.failure.problem;
  };
  const why = 'S!B1 uses SHAFTLIFE, a function that is not known here. S!C1 reads another workbook, which is not here. And 2 more cells.';
  expect(await ask('S!A2', 'S!B1', 'S!B2', 'S!C2', 'S!D2', 'S!E2')).toEqual([
    [10, undefined],
    [7, why],
    [12, why],
    [9, why],
    [8, why],
    [20, why],
  ]);
  // Nothing was saved for it: told, not guessed.
  expect(await ask('S!B3')).toMatch(/^b: S!A3 uses LOSTTOO, a function that is not known here\.$/);
  // An input that is put in its place is no longer what was saved.
  const put = await computeSpreadsheet({ name: 'b', content: book({ S: cells }), question: question({ 'S!A1': 5, 'S!B1': 1, 'S!C1': 1 }, ['S!B2']) });
  expect(put.ok && put.value.outputs['S!B2']).toEqual({ value: 6, unit: '' });
});

test('a book of a million rows is refused with its size, before it is read', async () => {
  const rows = '<row r="1048576"><c r="A1048576"><v>1</v></c></row>';
  const made = utils.book_new();
  utils.book_append_sheet(made, utils.aoa_to_sheet([[1]]), 'S');
  const files = unzipSync(new Uint8Array(write(made, { type: 'buffer', bookType: 'xlsx' }) as Buffer));
  const sheet = `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${rows}</sheetData></worksheet>`;
  const content = gzipSync(zipSync({ ...files, 'xl/worksheets/sheet1.xml': strToU8(sheet) })).toString('base64');
  const answer = await computeSpreadsheet({ name: 'rows.xlsx', content, question: question({}, ['S!A1']) });
  expect(answer.ok ? '' : answer.failure.problem).toMatch(/^rows\.xlsx: .*1.?048.?576/);
});

test('what is no workbook is refused', async () => {
  const content = gzipSync(Buffer.from('no workbook')).toString('base64');
  const answer = await computeSpreadsheet({ name: 'x.xlsx', content, question: question({}, ['S!A1']) });
  expect(answer.ok ? '' : answer.failure.problem).toMatch(/^x.xlsx: The file is not XLSX, or is damaged\./);
});

test('five thousand cells in a chain are computed', async () => {
  const cells: Cells = [[1], ...Array.from({ length: 5000 }, (_, i) => [{ f: `A${i + 1}+1` }])];
  const answer = await computeSpreadsheet({ name: 'b', content: book({ S: cells }), question: question({ 'S!A1': 10 }, ['S!A5001']) });
  expect(answer.ok && answer.value.outputs['S!A5001']?.value).toBe(5010);
});
