import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { createDocument, findRecord } from '@/core/document';
import { demoDocument, edited } from '../../../tests/support/demo';
import { renderIn } from '../../../tests/support/render';
import { menus } from '../design/floating';
import { Ledger } from './ledger';

// Typing key by key takes long on a busy machine.
jest.setTimeout(30_000);

const rowOf = (name: string): HTMLElement => screen.getAllByRole('row', { name: new RegExp(`^${name} `) })[0] ?? document.body;
const settle = (): Promise<void> => act(() => new Promise<void>((done) => void setTimeout(done, 60)));

test('each value has its number, its name, its formula and how many read it', async () => {
  await renderIn(demoDocument('Loom sizes'), <Ledger drawOther={() => null} />);
  const row = within(rowOf('beam_dia'));
  expect(row.getByText('45 mm')).toBeTruthy();
  expect(row.getByText(/2 readers/)).toBeTruthy();
  expect(within(rowOf('bearing_dia')).getByText('beam_dia + bearing_clearance')).toBeTruthy();
});

test('an empty master asks for its first value; values are typed one after the other, and an empty box closes', async () => {
  const { user, session } = await renderIn(createDocument('m', 'master', 'Sizes'), <Ledger drawOther={() => null} />);
  expect(screen.getByText('Name the first value.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'board_stock = 18 mm' }));
  const box = (): HTMLElement => screen.getByRole('textbox', { name: /New value/ });
  expect(box().textContent).toBe('board_stock = 18 mm');
  await user.keyboard('{Enter}');
  await settle();
  expect(screen.queryByText('Name the first value.')).toBeNull();
  // The next one has a box of its own, and does not go into the row.
  expect(document.activeElement?.getAttribute('aria-label')).toBe(box().getAttribute('aria-label'));
  expect(box().textContent).not.toContain('18 mm');
  await user.keyboard('{Escape}');
  await settle();
  expect(screen.queryByRole('textbox', { name: /New value/ })).toBeNull();
  expect(session.values.show(session.document.lists['parameters']?.[0] ?? '')?.shown).toBe('18 mm');
});

test('the very next key after Enter goes into the next box, or leaves it', async () => {
  const { user, session } = await renderIn(createDocument('m', 'master', 'Sizes'), <Ledger drawOther={() => null} />);
  await user.click(screen.getByRole('button', { name: 'Add a value' }));
  // A machine on which a frame takes long.
  const frames = jest.spyOn(window, 'requestAnimationFrame').mockImplementation((draw) => Number(setTimeout(() => draw(0), 40)));
  await user.keyboard('a = 1 mm{Enter}b = 2 mm{Enter}{Escape}');
  await settle();
  frames.mockRestore();
  expect(screen.queryByRole('textbox', { name: /New value/ })).toBeNull();
  const ids = session.document.lists['parameters'] ?? [];
  expect(ids.map((id) => session.values.show(id)?.shown)).toEqual(['1 mm', '2 mm']);
  expect(document.activeElement?.getAttribute('data-row')).toBe(ids[1]);
});

test('a row is edited by its keys; a wrong formula is told with what it means, and Escape changes nothing', async () => {
  const { user, session } = await renderIn(demoDocument('Loom sizes'), <Ledger drawOther={() => null} />);
  act(() => rowOf('side_gap').focus());
  await user.keyboard('{F2}');
  const box = screen.getByRole('textbox', { name: 'Formula of side_gap' });
  expect(box.textContent).toBe('12 mm');
  await user.keyboard('{Escape}');
  await settle();
  expect(findRecord(session.document, 'side-gap', 'parameter')?.formula.text).toBe('12 mm');
  expect(document.activeElement?.getAttribute('data-row')).toBe('side-gap');
});

test('a value with an error tells what is wrong in its row and in its panel, with the repair', async () => {
  const wrong = edited(demoDocument('Loom sizes'), { type: 'parameter.setFormula', id: 'side-gap', formula: { text: 'beam_dai / 4' } });
  const { user, session } = await renderIn(wrong, <Ledger drawOther={() => null} />);
  expect(within(rowOf('side_gap')).getByText(/There is no value named beam_dai here/)).toBeTruthy();
  await user.click(rowOf('side_gap'));
  const panel = screen.getByRole('complementary', { name: 'Selected value' });
  await user.click(within(panel).getByRole('button', { name: 'beam_dia' }));
  expect(findRecord(session.document, 'side-gap', 'parameter')?.formula.text).toBe('beam_dia / 4');
  expect(session.values.show('side-gap')?.shown).toBe('11.25 mm');
});

test('a right click on a row, or Shift F10, opens its menu; Escape gives the focus back to the row', async () => {
  const { workspace } = await renderIn(demoDocument('Loom sizes'), <Ledger drawOther={() => null} />);
  const row = rowOf('beam_dia');
  act(() => row.focus());
  // As in a page that has stood for a moment.
  await menus.load();
  fireEvent.contextMenu(row, { clientX: 40, clientY: 60 });
  const menu = await screen.findByRole('menu', { name: 'Value' });
  expect(workspace.getState().selected).toBe(row.dataset['row']);
  expect(within(menu).getByRole('menuitem', { name: 'Delete' })).toBeTruthy();
  // By keys, its first line can be chosen at once.
  await waitFor(() => expect(document.activeElement).toBe(within(menu).getAllByRole('menuitem')[0]));
  fireEvent.keyDown(document.activeElement ?? menu, { key: 'Escape' });
  await waitFor(() => expect(screen.queryByRole('menu')).toBeNull());
  await waitFor(() => expect(document.activeElement).toBe(row));
  // What is typed into has the menu of the browser.
  const search = screen.getByRole('searchbox');
  expect(fireEvent.contextMenu(search)).toBe(true);
  expect(fireEvent.contextMenu(row, { button: 2 })).toBe(false);
  await waitFor(() => expect(document.activeElement).toBe(screen.getByRole('menu', { name: 'Value' })));
});
