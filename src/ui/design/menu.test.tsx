import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { BoxButton } from './box-button';
import { Menu } from './menu';
import { MenuItems } from './menu-items';

jest.setTimeout(30_000);

function show() {
  const done: string[] = [];
  const line = (label: string, isOff = false) => ({ label, isOff, run: () => void done.push(label) });
  render(
    <>
      <Menu button={{ children: 'Verbs' }}>{(parts) => <MenuItems of={parts} groups={[[line('Fold', true), line('Turn')], [line('Cut')]]} />}</Menu>
      <BoxButton label="A name" button={{ children: 'Name it' }}>
        {(close) => (
          <>
            <input aria-label="Name" />
            <button type="button" onClick={close}>
              Done
            </button>
          </>
        )}
      </BoxButton>
    </>,
  );
  return { done, user: userEvent.setup({ pointerEventsCheck: 0 }) };
}
const button = (name: string): HTMLElement => screen.getByRole('button', { name });
const item = (name: string): Promise<HTMLElement> => screen.findByRole('menuitem', { name });

test.each(['{Enter}', ' ', '{ArrowDown}'])(
  'opened by %s for the first time, the first line that can be chosen has the focus; so it is the next time',
  async (key) => {
    const { done, user } = show();
    button('Verbs').focus();
    await user.keyboard(key);
    await waitFor(async () => expect(document.activeElement).toBe(await item('Turn')));
    await user.keyboard('{ArrowDown}{Enter}');
    expect(done).toEqual(['Cut']);
    await waitFor(() => expect(document.activeElement).toBe(button('Verbs')));
    await user.keyboard(key);
    await waitFor(async () => expect(document.activeElement).toBe(await item('Turn')));
  },
);

test('opened by a press, no line is lit before the pointer is on one; Escape does nothing and gives the focus back', async () => {
  const { done, user } = show();
  expect(button('Verbs').getAttribute('aria-expanded')).toBe('false');
  await user.click(button('Verbs'));
  const menu = await screen.findByRole('menu');
  expect(document.activeElement).toBe(menu);
  await user.keyboard('{Escape}');
  await waitFor(() => expect(screen.queryByRole('menu')).toBeNull());
  expect(done).toEqual([]);
  expect(document.activeElement).toBe(button('Verbs'));
});

test('a box takes the focus into its first field, and gives it back when it is closed from inside', async () => {
  const { user } = show();
  await user.click(button('Name it'));
  const field = await screen.findByRole('textbox', { name: 'Name' });
  await waitFor(() => expect(document.activeElement).toBe(field));
  expect(screen.getByRole('dialog', { name: 'A name' })).toBeTruthy();
  await user.click(button('Done'));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(document.activeElement).toBe(button('Name it'));
});
