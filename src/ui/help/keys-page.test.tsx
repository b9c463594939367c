import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { KeysPage } from './keys-page';

// Typing key by key takes long on a busy machine.
jest.setTimeout(30_000);

test('keys are found by what they do, by their letters, and by the group that they are in', async () => {
  const user = userEvent.setup();
  const onClose = jest.fn();
  render(<KeysPage onClose={onClose} />);
  const search = screen.getByRole('searchbox', { name: 'Search keys' });
  expect(document.activeElement).toBe(search);
  await user.type(search, 'fill down');
  expect(screen.getByText('Ctrl D')).toBeTruthy();
  expect(screen.queryByRole('heading', { name: 'Sketch' })).toBeNull();
  await user.clear(search);
  await user.type(search, 'sketch fillet');
  expect(screen.getByText('Fillet a corner')).toBeTruthy();
  await user.clear(search);
  await user.type(search, 'weft');
  expect(screen.getByText('No key matches.')).toBeTruthy();
  await user.keyboard('{Escape}');
  expect(onClose).toHaveBeenCalled();
});
