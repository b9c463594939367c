import type { OutsideCalculation } from '@/core/document';
import type { Workbook, WorkbookCell } from '@/formats/workbook';
import { findCells } from './read-book';

const cell = (row: number, value: WorkbookCell['value'], formula?: string): WorkbookCell => ({
  row,
  column: 1,
  value,
  ...(formula === undefined ? {} : { formula }),
});
const BOOK: Workbook = {
  sheets: [{ name: 'S', cells: [cell(1, 5), cell(2, 7, 'A1+2'), cell(3, 'seven'), cell(4, '', 'LOST()')] }],
  names: [{ name: 'Load', cell: 'S!A1' }],
};
const asking = (inputs: readonly string[], outputs: readonly string[]): OutsideCalculation => ({
  type: 'outside',
  id: 'o',
  name: 'Shaft',
  asked: { of: 'spreadsheet', file: 'f' },
  inputs: inputs.map((key) => ({ key, kind: 'number', unit: '', formula: { text: '1' } })),
  outputs: outputs.map((key) => ({ key, kind: 'number', unit: '' })),
});

test('cells are found by name and by address, with what they were saved with; what cannot be asked there is told', async () => {
  const found = await findCells(asking(['load', 'S!A2', 'S!B9', 'T!A1'], ['S!A2', 'S!A3', 'S!A4', 'S!B9']), BOOK);
  expect(found.map(({ use, key, saved, problem }) => [use, key, saved, problem])).toEqual([
    ['input', 'load', 5, undefined],
    ['input', 'S!A2', 7, 'S!A2 has a formula, which the input would replace.'],
    // An empty cell can be written into.
    ['input', 'S!B9', undefined, undefined],
    ['input', 'T!A1', undefined, 'There is no cell T!A1.'],
    ['result', 'S!A2', 7, undefined],
    ['result', 'S!A3', undefined, 'S!A3 is not a number.'],
    ['result', 'S!A4', undefined, undefined],
    ['result', 'S!B9', undefined, 'There is no cell S!B9.'],
  ]);
});
