import { act, screen, within } from '@testing-library/react';
import { findRecord, findStep, listIds, listSteps, slotsOf, STEP_TYPES, type StepType } from '@/core/document';
import { demoDocument } from '../../../tests/support/demo';
import { renderIn } from '../../../tests/support/render';
import { useWorkspace } from '../state/context';
import { newDraft } from './step-draft';
import { StepPanel } from './step-panel';

jest.setTimeout(60_000);

const RAIL = demoDocument('Cross rail');

function Open() {
  const draft = useWorkspace((state) => state.draft);
  return draft ? <StepPanel draft={draft} /> : <p>closed</p>;
}

async function open(type: StepType) {
  const opened = await renderIn(RAIL, <Open />);
  act(() => opened.workspace.setState({ draft: newDraft(opened.session.document, type) }));
  return opened;
}
const panel = (): HTMLElement => screen.getByRole('form');
const verb = (name: string): HTMLButtonElement => within(panel()).getByRole('button', { name });

test.each(STEP_TYPES.map((type) => [type]))('the panel of %s has a name, a field for each number, and says what is missing or can be built', async (type) => {
  await open(type);
  const draft = newDraft(RAIL, type);
  expect(within(panel()).getByRole<HTMLInputElement>('textbox', { name: 'Name of the step' }).value).not.toBe('');
  for (const { label } of slotsOf(draft.step)) expect(within(panel()).getByRole('textbox', { name: label })).toBeTruthy();
  const build = verb(type === 'sketch' ? 'Draw' : 'Build');
  // What cannot be built yet says why.
  if (build.disabled) expect(within(panel()).getAllByRole('status').at(-1)?.textContent).toMatch(/^(Pick|Choose|Draw|A sweep|There is)/);
});

test('a plane is made with the formula and the name that are typed, and one undo takes it back', async () => {
  const { user, session } = await open('datum');
  const offset = within(panel()).getByRole('textbox', { name: 'Offset' });
  await user.clear(offset);
  await user.type(offset, 'shelf_up = rail_length / 4');
  await user.click(verb('Build'));
  expect(screen.getByText('closed')).toBeTruthy();
  const made = listSteps(session.document).at(-1);
  const value = findRecord(session.document, made && 'values' in made ? (made.values['offset'] ?? '') : '', 'parameter');
  expect([made?.type, value?.name, value?.formula.text]).toEqual(['datum', 'shelf_up', 'rail_length / 4']);
  act(() => session.undo());
  expect(listIds(session.document, 'steps')).toEqual(listIds(RAIL, 'steps'));
});

test('a formula that is wrong keeps the step from being built, and says which it is', async () => {
  const { user, session } = await open('datum');
  const offset = within(panel()).getByRole('textbox', { name: 'Offset' });
  await user.clear(offset);
  await user.type(offset, 'rail_lenth / 4');
  expect(verb('Build').disabled).toBe(true);
  expect(within(panel()).getByRole('status').textContent).toContain('rail_lenth');
  expect(session.document).toEqual(RAIL);
});

test('choices bring their numbers with them and take them away again', async () => {
  const { user } = await open('hole');
  const numbers = (): string[] =>
    within(panel())
      .getAllByRole('textbox')
      .flatMap((box) => box.getAttribute('aria-label') ?? []);
  expect(numbers()).toEqual(['Diameter']);
  await user.click(within(panel()).getByRole('radio', { name: 'counterbore' }));
  await user.click(within(panel()).getByRole('radio', { name: 'to a depth' }));
  expect(numbers()).toEqual(['Diameter', 'Depth', 'Counterbore diameter', 'Counterbore depth']);
  await user.click(within(panel()).getByRole('radio', { name: 'simple' }));
  await user.click(within(panel()).getByRole('radio', { name: 'through' }));
  expect(numbers()).toEqual(['Diameter']);
});

test('one Escape does not throw away what is filled in; a second one does, and nothing was changed', async () => {
  const { user, session } = await open('datum');
  await user.click(within(panel()).getByRole('radio', { name: 'its x axis' }));
  await user.keyboard('{Escape}');
  expect(
    within(panel())
      .getAllByRole('status')
      .map(({ textContent }) => textContent),
  ).toContain('Press Escape again to discard what is filled in.');
  await user.keyboard('{Escape}');
  expect(screen.getByText('closed')).toBeTruthy();
  expect(session.document).toEqual(RAIL);
});

test('a step is changed under its own values, and keeps its id', async () => {
  const { user, session, workspace } = await open('datum');
  await user.click(verb('Build'));
  const made = listSteps(session.document).at(-1);
  if (made?.type !== 'datum') throw new Error('No plane was made.');
  const { draftOf } = await import('./step-draft');
  act(() => workspace.setState({ draft: draftOf(session.document, made) }));
  await user.click(within(panel()).getByRole('radio', { name: 'its y axis' }));
  await user.click(verb('Change'));
  const changed = findStep(session.document, made.id);
  expect(changed).toMatchObject({ id: made.id, turn: 'y' });
  expect(changed && 'values' in changed ? changed.values['offset'] : undefined).toBe(made.values['offset']);
});
