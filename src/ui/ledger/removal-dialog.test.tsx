import { screen, within } from '@testing-library/react';
import { act } from 'react';
import { findRecord } from '@/core/document';
import { withParameters } from '../../../tests/support/assemblies';
import { renderIn } from '../../../tests/support/render';
import { editOrAsk } from '../state/removal';
import { RemovalDialog } from './removal-dialog';

const MASTER = withParameters('master', 'm', { width: '400 mm', inner: 'width + 24 mm', half: 'width / 2' });

/** Asks to delete a value that others read. */
async function askToDelete(document = MASTER) {
  const opened = await renderIn(document, <RemovalDialog />);
  const { session, workspace } = opened;
  act(() => editOrAsk(session, workspace, 'Delete width', (readers) => ({ type: 'parameter.remove', id: 'm-width', readers })));
  return { ...opened, dialog: within(await screen.findByRole('dialog', { name: 'Delete width' })) };
}
const formulaOf = (document: typeof MASTER, id: string) => findRecord(document, id, 'parameter')?.formula.text;

test('formulas that read what would go are listed, and can have its number in its place', async () => {
  const { dialog, user, session } = await askToDelete();
  expect(dialog.getByText('2 formulas read what would go. What becomes of them?')).toBeTruthy();
  expect(dialog.getAllByRole('listitem').map(({ textContent }) => textContent)).toEqual(['inner = width + 24 mm', 'half = width / 2']);
  await user.click(dialog.getByRole('button', { name: 'Replace it with its number in the formulas' }));
  expect(formulaOf(session.document, 'm-width')).toBeUndefined();
  expect([session.values.show('m-inner')?.shown, session.values.show('m-half')?.shown]).toEqual(['424 mm', '200 mm']);
  expect(screen.queryByRole('dialog')).toBeNull();
  // One step back brings it and its readers back.
  act(() => session.undo());
  expect(session.document).toEqual(MASTER);
});

test('nothing is deleted before the answer, nor by Escape', async () => {
  const { dialog, user, session } = await askToDelete();
  expect(session.document).toEqual(MASTER);
  await user.keyboard('{Escape}');
  expect([screen.queryByRole('dialog'), session.document]).toEqual([null, MASTER]);
  expect(dialog).toBeTruthy();
});

test('a value that has an error has no number: only to delete nothing is offered, and it is said why', async () => {
  const { dialog } = await askToDelete(withParameters('master', 'm', { width: 'nothing', inner: 'width + 24 mm' }));
  expect(dialog.getByText(/has an error, so there is no number/)).toBeTruthy();
  expect(dialog.queryByRole('button', { name: /Replace it/ })).toBeNull();
  expect(dialog.getByRole('button', { name: 'Delete nothing' })).toBeTruthy();
});
