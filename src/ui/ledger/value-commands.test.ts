import { findNamed } from '@/core/document';
import { demoDocument } from '../../../tests/support/demo';
import { openLocally } from '../../../tests/support/local-session';
import type { DocumentSession } from '../state/document-session';
import { beginEditing, createWorkspace, endEditing, type WorkspaceStore } from '../state/workspace';
import { listValueCommands } from './value-commands';

let session: DocumentSession;
let workspace: WorkspaceStore;
function open(name: string): void {
  session = openLocally(demoDocument(name));
  workspace = createWorkspace();
}
afterEach(() => session.close());

const idOf = (name: string): string => findNamed(session.document, name)?.id ?? '';
const commands = (...names: string[]) => listValueCommands({ session, workspace }, names.map(idOf)).flat();
const labels = (...names: string[]): string[] => commands(...names).map(({ label }) => label);
const run = (label: string, ...names: string[]): void => {
  const command = commands(...names).find((one) => one.label === label);
  if (!command) throw new Error(`no ${label}`);
  command.run();
};

test('a value of this document has a formula, a place and an end of its own', () => {
  open('Loom sizes');
  expect(labels('side_gap')).toEqual([
    'Change the formula',
    'Rename',
    'Trace…',
    'Rewrite…',
    'Over revisions…',
    'What if…',
    'Tolerance stack…',
    'Run through a range…',
    'Run with a second value…',
    'Find a minimum or maximum…',
    'Pin',
    'Stop offering',
    'Hand over…',
    'Copy the row',
    'Move up',
    'Move down',
    'Delete',
  ]);
});

test('a linked value has neither a formula nor a place, and goes with its link', () => {
  open('Side frame');
  expect(labels('frame_stock')).not.toEqual(expect.arrayContaining(['Change the formula']));
  expect(labels('frame_stock').at(-1)).toBe('Unlink');
  expect(labels('mortise_depth')).not.toEqual(expect.arrayContaining(['Delete']));
});

test('several are given what some of them lack, as one edit, and lose what all have', () => {
  open('Loom sizes');
  expect(labels('side_gap', 'inner_width')).toEqual(['Fill down from side_gap', 'Pin', 'Stop offering', 'Hand over…', 'Copy 2 rows', 'Delete 2 values']);
  run('Pin', 'side_gap', 'weaving_width');
  expect(labels('side_gap', 'weaving_width')).toEqual(expect.arrayContaining(['Unpin']));
  session.undo();
  expect(labels('side_gap')).toEqual(expect.arrayContaining(['Pin']));
});

test('a box that something was typed into is not closed by opening another', () => {
  open('Loom sizes');
  run('Change the formula', 'side_gap');
  run('Rename', 'beam_dia');
  expect(workspace.getState().editing).toEqual({ id: idOf('beam_dia'), what: 'name' });
  workspace.setState({ editing: { id: idOf('beam_dia'), what: 'formula', typed: '46 mm' } });
  expect(beginEditing(workspace, { id: idOf('side_gap'), what: 'formula' })).toBe(false);
  expect(workspace.getState().editing?.typed).toBe('46 mm');
  endEditing(workspace, idOf('beam_dia'));
  expect(beginEditing(workspace, { id: idOf('side_gap'), what: 'formula' })).toBe(true);
});
