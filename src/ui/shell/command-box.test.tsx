import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import { demoDocument } from '../../../tests/support/demo';
import { renderIn } from '../../../tests/support/render';
import { CommandBox } from './command-box';

jest.setTimeout(30_000);

async function open() {
  const opened = await renderIn(
    demoDocument('Loom sizes'),
    <>
      <input aria-label="Elsewhere" />
      <CommandBox />
    </>,
  );
  const elsewhere = screen.getByRole('textbox', { name: 'Elsewhere' });
  act(() => elsewhere.focus());
  fireEvent.keyDown(window, { key: 'k', ctrlKey: true });
  return { ...opened, elsewhere };
}

test('before the commands are there, Escape gives the focus back; what is typed meanwhile stays in the box that comes', async () => {
  const { user, elsewhere } = await open();
  // The first of this page: nothing of it is loaded.
  expect(document.activeElement).toBe(screen.getByRole('textbox', { name: 'Commands and values' }));
  fireEvent.keyDown(document.activeElement ?? document.body, { key: 'Escape' });
  expect(document.activeElement).toBe(elsewhere);
  fireEvent.keyDown(window, { key: 'k', ctrlKey: true });
  await user.keyboard('frame_de');
  const box = await screen.findByRole('combobox', { name: 'Commands and values' });
  expect(box).toHaveProperty('value', 'frame_de');
  await waitFor(() => expect(document.activeElement).toBe(box));
});

test('the commands are found by name and run; where none was, Escape gives the focus back', async () => {
  const { user, elsewhere, workspace } = await open();
  await screen.findByRole('combobox', { name: 'Commands and values' });
  await user.keyboard('{Escape}');
  await waitFor(() => expect(document.activeElement).toBe(elsewhere));
  fireEvent.keyDown(window, { key: 'k', ctrlKey: true });
  await screen.findByRole('combobox', { name: 'Commands and values' });
  await user.keyboard('Go to frame_depth{Enter}');
  await waitFor(() => expect(screen.queryByRole('combobox')).toBeNull());
  expect(workspace.getState().selected).toBe('frame-depth');
});
