/** The page of a calc sheet: its order, and what its charts show. */
import { applyEdit, listLines, orderWith, type Chart, type Document } from '@/core/document';
import { openValues } from '@/core/instances';
import { sourceOf, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { addChart, addParagraph, addTable, dropLine, moveLine } from './calc-edits';
import { chartData } from './chart-data';
import { chartCells } from './chart-files';

const NOBODY = sourceOf([]);
const SHEET = withParameters('calc', 'c', { force: '100 N', arm: '0.2 m', torque: 'force * arm', reserve: '300 N / force' });
const CHART: Chart = { type: 'chart', id: 'chart', title: 'T', over: 'c-force', from: { text: '0 N' }, to: { text: '200 N' }, of: ['c-torque'] };
const order = (document: Document): string[] => listLines(document).map(({ id }) => id);

test('lines stand in the order that they are given; what it does not name comes after', () => {
  const first = addParagraph(SHEET, undefined);
  let document = edited(SHEET, first.edit);
  expect(order(document)).toEqual(['c-force', 'c-arm', 'c-torque', 'c-reserve', first.id]);
  const second = addParagraph(document, 'c-force');
  document = edited(document, second.edit);
  expect(order(document).slice(0, 3)).toEqual(['c-force', second.id, 'c-arm']);
  document = edited(document, moveLine(document, second.id, -1));
  expect(order(document)[0]).toBe(second.id);
  expect(orderWith(document, second.id, { by: -1 })).toEqual(order(document));
  document = edited(document, { type: 'parameter.remove', id: 'c-reserve', readers: { mode: 'refuse' } }, { type: 'paragraph.remove', id: first.id });
  expect(order(document)).toEqual([second.id, 'c-force', 'c-arm', 'c-torque']);
});

test('a table is a line like any other', () => {
  const added = addTable(SHEET, 'c-force');
  const document = edited(SHEET, added.edit);
  expect(order(document).slice(0, 3)).toEqual(['c-force', added.id, 'c-arm']);
  expect(order(edited(document, moveLine(document, added.id, -1))).slice(0, 2)).toEqual([added.id, 'c-force']);
  expect(order(edited(document, { type: 'table.remove', id: added.id }))).toEqual(order(SHEET));
});

test('a line that is dragged is put before or behind the one that it is dropped on', () => {
  const drop = (id: string, over: string, where: 'before' | 'after'): string[] | undefined => {
    const edit = dropLine(SHEET, id, over, where);
    return edit && order(edited(SHEET, edit)).map((line) => line.slice(2));
  };
  expect(drop('c-reserve', 'c-force', 'before')).toEqual(['reserve', 'force', 'arm', 'torque']);
  expect(drop('c-force', 'c-reserve', 'after')).toEqual(['arm', 'torque', 'reserve', 'force']);
  expect(drop('c-force', 'c-torque', 'before')).toEqual(['arm', 'force', 'torque', 'reserve']);
  expect([drop('c-arm', 'c-force', 'after'), drop('c-arm', 'c-torque', 'before'), drop('c-arm', 'c-arm', 'after')]).toEqual([undefined, undefined, undefined]);
});

test('a chart has the values that the formulas give, in the units that are shown, and a mark at what is now', () => {
  const data = chartData(openValues(SHEET, NOBODY), NOBODY, CHART);
  if ('problem' in data) throw new Error(data.problem);
  expect(data).toMatchObject({ xLabel: 'force in N', mark: 100 });
  for (const { x, y } of data.points) expect(y['c-torque']).toBeCloseTo(x * 0.2, 9);
  expect([data.points[0]?.x, data.points.at(-1)?.x]).toEqual([0, 200]);
});

test('a curve for each amount of a second value; a gap where there is none', () => {
  const data = chartData(openValues(SHEET, NOBODY), NOBODY, {
    ...CHART,
    of: ['c-torque'],
    by: { value: 'c-arm', amounts: [{ text: '0.1 m' }, { text: '300 mm' }] },
  });
  if ('problem' in data) throw new Error(data.problem);
  expect(data.curves.map(({ label }) => label)).toEqual(['arm 0.1 m', 'arm 300 mm']);
  const [one, other] = data.curves.map(({ key }) => key);
  for (const { x, y } of data.points)
    expect([y[one ?? ''], y[other ?? '']].map((value) => Number(value?.toFixed(9)))).toEqual([x * 0.1, x * 0.3].map((value) => Number(value.toFixed(9))));
  const gap = chartData(openValues(SHEET, NOBODY), NOBODY, { ...CHART, of: ['c-reserve'] });
  if ('problem' in gap) throw new Error(gap.problem);
  expect(gap.points[0]?.y['c-reserve']).toBeNull();
});

test('what cannot be drawn is told', () => {
  const problem = (changes: Partial<Chart>): string => {
    const data = chartData(openValues(SHEET, NOBODY), NOBODY, { ...CHART, ...changes });
    return 'problem' in data ? data.problem : 'drawn';
  };
  expect(problem({ from: { text: '300 N' } })).toMatch(/from less to more/);
  expect(problem({ to: { text: '3 kg' } })).toMatch(/drawn|from less to more/);
  expect(problem({ over: 'gone' })).toMatch(/has no numeric range/);
  expect(problem({ by: { value: 'c-arm', amounts: [{ text: 'nothing' }] } })).toMatch(/nothing is not a value of/);
  expect(applyEdit(SHEET, { type: 'chart.put', chart: { ...CHART, of: ['gone'] } }).ok).toBe(false);
  expect(addChart(withParameters('calc', 'd', { only: '1 mm' }), undefined, () => ['0 mm', '1 mm'])).toBeUndefined();
});

test('a chart as a table: a row for each point, empty where there is no value', () => {
  const cells = chartCells({
    xLabel: 'span (mm)',
    curves: [
      { key: 'a', label: 'thin' },
      { key: 'b', label: 'thick' },
    ],
    points: [
      { x: 10, y: { a: 1.5, b: 2 } },
      { x: 20, y: { a: null, b: 4 } },
    ],
  });
  expect(cells).toEqual([
    ['span (mm)', 'thin', 'thick'],
    ['10', '1.5', '2'],
    ['20', '', '4'],
  ]);
});
