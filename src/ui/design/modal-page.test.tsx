import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Cell } from './cell';
import { ModalPage } from './modal-page';

function open() {
  const [closed, accepted] = [jest.fn(), jest.fn()];
  render(
    <ModalPage title="Sizes" leave="Close" onClose={closed}>
      <Cell label="width of Wide" text="600 mm" problemOf={() => undefined} onAccept={accepted} />
    </ModalPage>,
  );
  return { closed, accepted, user: userEvent.setup(), cell: screen.getByRole<HTMLInputElement>('textbox', { name: 'width of Wide' }) };
}

test('Escape takes back what is typed into a cell, and leaves when nothing is', async () => {
  const { closed, accepted, user, cell } = open();
  await user.clear(cell);
  await user.type(cell, '9 mm');
  await user.keyboard('{Escape}');
  expect(closed).not.toHaveBeenCalled();
  expect(cell.value).toBe('600 mm');
  await user.keyboard('{Escape}');
  expect(closed).toHaveBeenCalledTimes(1);
  expect(accepted).not.toHaveBeenCalled();
});

test('Enter takes what is typed', async () => {
  const { accepted, user, cell } = open();
  await user.clear(cell);
  await user.type(cell, '9 mm{Enter}');
  expect(accepted).toHaveBeenCalledWith('9 mm');
});
