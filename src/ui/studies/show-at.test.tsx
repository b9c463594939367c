import { act, screen } from '@testing-library/react';
import { withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { renderIn } from '../../../tests/support/render';
import { ShownAsStrip } from '../shell/shown-as-strip';
import { showAt } from './show-at';
import { LimitsDialog } from './limits-dialog';
import { ShownAtMenu } from './shown-at-menu';

jest.setTimeout(60_000);

const PLAIN = withParameters('part', 'p', { bore: '50 mm', gap: 'bore - 41 mm' });
const PART = edited(PLAIN, { type: 'parameter.update', id: 'p-bore', changes: { tolerance: { kind: 'symmetric', by: { text: '0.3 mm' } } } });

const CONTROLS = (
  <>
    <ShownAtMenu />
    <ShownAsStrip />
  </>
);

test('the document is shown at its limits, says so, and nothing is changed', async () => {
  const { user, session } = await renderIn(PART, CONTROLS);
  const made = session.document;
  expect(screen.queryByRole('status')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Limits' }));
  await user.click(screen.getByRole('menuitemradio', { name: 'Show at upper limits' }));
  expect(screen.getByRole('status').textContent).toMatch(/^Shown at upper limits\. ?One value is off its nominal\./);
  expect(session.values.show('p-gap')?.shown).toBe('9.3 mm');
  // From one side to the other: the nominal is that of the document, not that of what is shown.
  await user.click(screen.getByRole('button', { name: 'At limits' }));
  await user.click(screen.getByRole('menuitemradio', { name: 'Show at lower limits' }));
  expect(session.values.show('p-gap')?.shown).toBe('8.7 mm');
  expect(session.store.getState().pending).toBe(0);
  await user.click(screen.getByRole('button', { name: 'Show as it is' }));
  expect(session.document).toEqual(made);
  expect(screen.queryByRole('status')).toBeNull();
});

test('an edit ends it, and is one of the document as it is', async () => {
  const { session } = await renderIn(PART, CONTROLS);
  act(() => showAt(session, 'upper'));
  act(() => void session.edit({ type: 'parameter.setFormula', id: 'p-gap', formula: { text: 'bore - 40 mm' } }));
  expect(session.values.show('p-gap')?.shown).toBe('10 mm');
  expect(session.store.getState().shownAs).toBeUndefined();
  act(() => session.undo());
  expect(session.document).toEqual(PART);
});

test('nothing is chosen where nothing has a tolerance, and the command says why', async () => {
  const { session } = await renderIn(PLAIN, CONTROLS);
  expect(screen.queryByRole('button')).toBeNull();
  act(() => showAt(session, 'upper'));
  expect(session.store.getState()).toMatchObject({ shownAs: undefined, notice: 'Nothing in p is off its nominal at upper limits.' });
});

test('each value is shown at a limit of its own, and what was chosen is there the next time', async () => {
  const two = edited(PART, { type: 'parameter.update', id: 'p-gap', changes: { tolerance: { kind: 'symmetric', by: { text: '0.1 mm' } } } });
  const closed = jest.fn();
  const { user, session } = await renderIn(
    two,
    <>
      {CONTROLS}
      <LimitsDialog onClose={closed} />
    </>,
  );
  expect(screen.getByRole('row', { name: /^bore/ }).textContent).toContain('50 mm49.7 mm50.3 mm');
  await user.selectOptions(screen.getByRole('combobox', { name: 'bore is shown at' }), 'upper limit');
  await user.click(screen.getByRole('button', { name: 'Show' }));
  expect(closed).toHaveBeenCalled();
  expect(screen.getByText(/^Shown at limits chosen for each value/)).toBeTruthy();
  expect(['p-bore', 'p-gap'].map((id) => session.values.show(id)?.shown)).toEqual(['50.3 mm', '9 mm']);
  expect(screen.getByRole<HTMLSelectElement>('combobox', { name: 'bore is shown at' }).value).toBe('upper');
});
