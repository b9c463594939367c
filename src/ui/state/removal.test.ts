import { demoDocument } from '../../../tests/support/demo';
import { openLocally } from '../../../tests/support/local-session';
import { findRecord } from '@/core/document';
import type { DocumentSession } from './document-session';
import { editOrAsk } from './removal';
import { createWorkspace } from './workspace';

const removeValue = (id: string) => (readers: Parameters<Parameters<typeof editOrAsk>[3]>[0]) => ({ type: 'parameter.remove', id, readers }) as const;

let session: DocumentSession;
const workspace = createWorkspace();
beforeEach(() => {
  session = openLocally(demoDocument('Loom sizes'));
  workspace.setState({ removal: undefined });
});
afterEach(() => session.close());

test('what nothing reads goes at once', () => {
  editOrAsk(session, workspace, 'Delete dents', removeValue('dents'));
  expect(findRecord(session.document, 'dents', 'parameter')).toBeUndefined();
  expect(workspace.getState().removal).toBeUndefined();
});

test('what is read is asked about, with its readers; the answer decides', () => {
  editOrAsk(session, workspace, 'Delete side_gap', removeValue('side-gap'));
  const { removal } = workspace.getState();
  expect(removal).toMatchObject({ title: 'Delete side_gap', readers: ['inner-width'], canKeep: false });
  expect(removal?.numbers).toEqual({ mode: 'numbers', numbers: { 'side-gap': '12 mm' } });
  expect(findRecord(session.document, 'side-gap', 'parameter')).toBeDefined();
  if (removal?.numbers) session.edit(removal.makeEdit(removal.numbers));
  expect(findRecord(session.document, 'inner-width', 'parameter')?.formula.text).toBe('weaving_width + 2 * (12 mm)');
});

test('a value with an error has no number to put in, and no way is offered', () => {
  session.edit({ type: 'parameter.setFormula', id: 'side-gap', formula: { text: '12 mm / 0' } });
  editOrAsk(session, workspace, 'Delete side_gap', removeValue('side-gap'));
  expect(workspace.getState().removal).toMatchObject({ canKeep: false, numbers: undefined });
});

test('another failure is said, not asked about', () => {
  editOrAsk(session, workspace, 'Delete it', removeValue('nowhere'));
  expect(session.store.getState().notice).toBe('This value is not there any more.');
  expect(workspace.getState().removal).toBeUndefined();
});
