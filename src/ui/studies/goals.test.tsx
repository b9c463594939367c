import { act, screen, waitFor, within } from '@testing-library/react';
import { withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { renderIn } from '../../../tests/support/render';
import { Goals } from '../ledger/goals';
import { GoalsDialog } from './goals-dialog';

jest.setTimeout(60_000);

const TANK = withParameters('master', 't', {
  width: '400 mm',
  depth: '100 mm',
  volume: 'width * depth * 250 mm',
  girth: '2 * (width + depth)',
});
const GOAL = { type: 'goal', of: { text: 'volume' }, wanted: { text: '12 L' }, by: [{ text: 'width' }, { text: 'depth' }] };

const onClose = (): void => undefined;

test('a goal is put down with the values that may change for it, and says whether it is met', async () => {
  const { user, session } = await renderIn(TANK, <Goals />);
  await user.click(screen.getByRole('button', { name: 'Add a goal' }));
  await user.keyboard('volume{Tab}12 L{Tab}');
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  expect(screen.getByRole('alert').textContent).toBe('Add at least one value that may change.');
  await user.click(screen.getByRole('button', { name: 'Add a value…' }));
  await user.click(screen.getByRole('menuitem', { name: 'width' }));
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  expect(screen.getByRole('button', { name: /^not met/ }).textContent).toBe('not metvolume = 12 Lis 10 L, by width');
  act(() => void session.edit({ type: 'parameter.setFormula', id: 't-width', formula: { text: '480 mm' } }));
  await waitFor(() => expect(screen.getByRole('button', { name: /^met/ })).toBeTruthy());
  expect(screen.queryByRole('button', { name: 'Reach goals…' })).toBeNull();
  await user.click(screen.getByRole('button', { name: /^met/ }));
  await user.click(screen.getByRole('button', { name: 'Delete' }));
  expect(session.document.lists['goals'] ?? []).toEqual([]);
});

test('two goals are reached at once, rounded with what that does to them, and taken over as one edit', async () => {
  const document = edited(
    TANK,
    { type: 'goal.put', goal: { ...GOAL, type: 'goal', id: 'g1' } },
    { type: 'goal.put', goal: { ...GOAL, type: 'goal', id: 'g2', of: { text: 'girth' }, wanted: { text: '1.2 m' } } },
  );
  const { user, session } = await renderIn(document, <GoalsDialog onClose={onClose} />);
  const put = async (label: string, text: string): Promise<void> => {
    await user.clear(screen.getByRole('textbox', { name: label }));
    await user.type(screen.getByRole('textbox', { name: label }), `${text}{Enter}`);
  };
  await put('width to', '600 mm');
  await put('depth to', '300 mm');
  await user.click(screen.getByRole('button', { name: 'Find' }));
  await waitFor(() => expect(screen.getByRole('status').textContent).toMatch(/^Found in \d+ trials\.$/));
  const cells = (name: RegExp) =>
    within(screen.getByRole('row', { name }))
      .getAllByRole('cell')
      .map(({ textContent }) => textContent);
  // 300 ± sqrt(300² - 48 000) mm.
  expect(cells(/^width/)).toEqual(['width', '400 mm', '504.939 mm']);
  expect(cells(/^volume/)).toEqual(['volume = 12 L', '10 L not met', '12 L met']);
  await user.selectOptions(screen.getByRole('combobox', { name: 'Round the values' }), 'to 5');
  await waitFor(() => expect(cells(/^width/)).toEqual(['width', '400 mm', '505 mm']));
  expect(cells(/^volume/)).toEqual(['volume = 12 L', '10 L not met', '11.994 L not met']);
  expect(cells(/^girth/)).toEqual(['girth = 1.2 m', '1 m not met', '1.2 m met']);
  await user.click(screen.getByRole('button', { name: 'Use these values' }));
  expect(['t-width', 't-depth'].map((id) => session.values.show(id)?.shown)).toEqual(['505 mm', '95 mm']);
  act(() => void session.undo());
  expect(session.values.show('t-width')?.shown).toBe('400 mm');
});

test('goals that cannot be met say so, with the nearest', async () => {
  const document = edited(TANK, {
    type: 'goal.put',
    goal: { ...GOAL, type: 'goal', id: 'g1', wanted: { text: '90 L' }, by: [{ text: 'width' }, { text: 'span' }] },
  });
  const { user } = await renderIn(document, <GoalsDialog onClose={onClose} />);
  expect(screen.getByText(/^span: no value with a formula of its own here/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Find' }));
  await waitFor(() => expect(screen.getByRole('status').textContent).toMatch(/cannot all be met within these bounds\. .* trials\. width is at its bound\.$/));
});
