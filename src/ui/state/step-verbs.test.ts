import { findStep, listIds } from '@/core/document';
import { plainSide } from '../../../tests/support/demo';
import { openLocally } from '../../../tests/support/local-session';
import type { DocumentSession } from './document-session';
import { copiedSteps, copySteps, deleteSteps, moveStep } from './step-verbs';
import { createWorkspace, type WorkspaceStore } from './workspace';

let session: DocumentSession;
let workspace: WorkspaceStore;
beforeEach(() => {
  const kept = new Map<string, string>();
  // What a page has; without leave to write to the clipboard.
  Object.assign(globalThis, {
    navigator: {},
    localStorage: { getItem: (key: string) => kept.get(key) ?? null, setItem: (key: string, text: string) => void kept.set(key, text) },
  });
  session = openLocally(plainSide());
  workspace = createWorkspace();
});
afterEach(() => session.close());

const steps = (): readonly string[] => listIds(session.document, 'steps');
const answer = (label: string): void =>
  workspace
    .getState()
    .question?.answers.find((one) => one.label === label)
    ?.run();

test('a sketch that was made for a deleted step alone goes or stays, as one chooses', () => {
  deleteSteps(session, workspace, ['openings-cut']);
  expect(workspace.getState().question).toMatchObject({ title: 'Delete Side openings cut', lines: ['sketch Side openings'] });
  expect(steps()).toContain('openings-cut');
  answer('Delete, keep its sketch');
  expect(steps()).toEqual(['outline', 'board', 'openings']);
  session.undo();
  deleteSteps(session, workspace, ['openings-cut']);
  answer('Delete with its sketch');
  expect(steps()).toEqual(['outline', 'board']);
  session.undo();
  expect(steps()).toEqual(['outline', 'board', 'openings', 'openings-cut']);
});

test('what is built on a step is told by name and goes with it, in one edit', () => {
  deleteSteps(session, workspace, ['board']);
  expect(workspace.getState().question).toMatchObject({ lines: ['Side openings cut', 'sketch Side outline', 'sketch Side openings'] });
  answer('Delete with its sketch');
  answer('Delete with their sketches');
  expect(steps()).toEqual([]);
  session.undo();
  expect(steps()).toHaveLength(4);
});

test('a step moves where its order allows, and is told why where it does not', async () => {
  await moveStep(session, workspace, 'openings', -1);
  expect(steps()).toEqual(['outline', 'openings', 'board', 'openings-cut']);
  await moveStep(session, workspace, 'outline', 1);
  await moveStep(session, workspace, 'outline', 1);
  expect(steps().indexOf('outline')).toBeLessThan(steps().indexOf('board'));
  expect(session.store.getState().notice).toBe('Side board builds on Side outline and must stand after it.');
});

test('copied steps are there for another page of this browser', () => {
  expect(copiedSteps()).toBeUndefined();
  copySteps(session, ['openings-cut']);
  expect(copiedSteps()?.steps).toEqual(['openings', 'openings-cut']);
  expect(session.store.getState().notice).toMatch(/^Side openings cut copied\./);
  expect(findStep(session.document, 'openings-cut')).toBeDefined();
});
