import { findNamed, findRecord, listIds, listRecords } from '@/core/document';
import { planTable, readRows } from '@/core/value-table';
import { demoDocument } from '../../../tests/support/demo';
import { openLocally } from '../../../tests/support/local-session';
import type { DocumentSession } from '../state/document-session';
import { createWorkspace, markRange, markTo, toggleMarked, type WorkspaceStore } from '../state/workspace';
import { chosenValues, copyRows, deleteValues, dropValue, fillDown, moveValue, pastedCells } from './ledger-keys';

let session: DocumentSession;
let workspace: WorkspaceStore;
beforeEach(() => {
  session = openLocally(demoDocument('Loom sizes'));
  workspace = createWorkspace();
});
afterEach(() => session.close());

const shown = (name: string): string | undefined => session.values.show(findNamed(session.document, name)?.id ?? '')?.shown;

test('what is chosen is what is marked, in the order of the ledger, or the row at hand', () => {
  const order = ['a', 'b', 'c', 'd'];
  expect(chosenValues(workspace, 'c', order)).toEqual(['c']);
  markRange(workspace, order, 'd', 'b');
  expect(chosenValues(workspace, 'c', order)).toEqual(['b', 'c', 'd']);
  expect(chosenValues(workspace, 'a', order)).toEqual(['a']);
  toggleMarked(workspace, 'c');
  markTo(workspace, 'd', 'a');
  expect(chosenValues(workspace, 'd', order)).toEqual(['a', 'b', 'd']);
});

test('copied rows come back as they were, whatever stands in their notes', () => {
  session.edit({ type: 'parameter.update', id: 'side-gap', changes: { note: 'one\ttab, "quoted"\nand a line' } });
  session.edit({ type: 'parameter.setFormula', id: 'bearing-clearance', formula: { text: '-0.4 mm' } });
  const cells = pastedCells(copyRows(session, ['side-gap', 'bearing-clearance'])) ?? [];
  expect(cells).toHaveLength(3);
  expect(planTable(session.values, readRows(cells), () => 'new')).toEqual({ changes: [], problems: [], edit: undefined });
});

test('a word alone is no table', () => {
  expect(pastedCells('weaving_width')).toBeUndefined();
  expect(pastedCells('gap\t4 mm')).toEqual([['gap', '4 mm']]);
});

test('the first formula fills those below, as one edit', () => {
  fillDown(session, ['side-gap', 'frame-height', 'beam-dia']);
  expect(['side_gap', 'frame_height', 'beam_dia'].map(shown)).toEqual(['12 mm', '12 mm', '12 mm']);
  session.undo();
  expect(['frame_height', 'beam_dia'].map(shown)).toEqual(['260 mm', '45 mm']);
});

test('values move by one place, and not beyond the ends', () => {
  const before = listIds(session.document, 'parameters');
  moveValue(session, before[0] ?? '', -1);
  expect(listIds(session.document, 'parameters')).toEqual(before);
  moveValue(session, before[1] ?? '', -1);
  expect(listIds(session.document, 'parameters').slice(0, 2)).toEqual([before[1], before[0]]);
  moveValue(session, before[1] ?? '', 1);
  expect(listIds(session.document, 'parameters')).toEqual(before);
});

test('several are deleted at once; those that only read one another are not asked about', () => {
  deleteValues(session, workspace, ['dents-per-cm', 'dents']);
  expect(workspace.getState().removal).toBeUndefined();
  expect(findNamed(session.document, 'dents')).toBeUndefined();
  deleteValues(session, workspace, ['side-gap']);
  expect(workspace.getState().removal).toMatchObject({ title: 'Delete side_gap' });
});

test('a dimension is deleted by its row; a value of a step and a linked one are not, with a word', () => {
  const side = openLocally(demoDocument('Side frame'));
  const { parameter, id } = listRecords(side.document, 'steps', 'sketch').flatMap((sketch) =>
    listRecords(side.document, `${sketch.id}/constraints`, 'dimension'),
  )[0] ?? {
    parameter: '',
    id: '',
  };
  deleteValues(side, workspace, [parameter]);
  expect([findRecord(side.document, parameter, 'parameter'), findRecord(side.document, id, 'dimension')]).toEqual([undefined, undefined]);
  side.undo();
  expect(findRecord(side.document, id, 'dimension')).toBeDefined();

  const depth = Object.values(side.document.records).find(
    (record) => record.type === 'parameter' && side.document.records[record.owner ?? '']?.type === 'extrude',
  );
  deleteValues(side, workspace, [depth?.id ?? '']);
  expect(side.store.getState().notice).toMatch(/ needs .*: delete the step, or change it\.$/);
  const take = Object.values(side.document.records).find(({ type }) => type === 'take');
  deleteValues(side, workspace, [take?.id ?? '']);
  expect(side.store.getState().notice).toMatch(/is linked: choose Unlink/);
  side.close();
});

test('a row that is dropped on another stands in its place', () => {
  const order = (): readonly string[] => listIds(session.document, 'parameters');
  const [first = '', second = '', third = ''] = order();
  dropValue(session, first, third);
  expect(order().slice(0, 3)).toEqual([second, third, first]);
  dropValue(session, first, second);
  expect(order().slice(0, 3)).toEqual([first, second, third]);
  dropValue(session, first, first);
  dropValue(session, 'gone', second);
  expect(order().slice(0, 3)).toEqual([first, second, third]);
});
