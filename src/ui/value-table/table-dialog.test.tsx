import { screen, within } from '@testing-library/react';
import { act } from 'react';
import { withParameters } from '../../../tests/support/assemblies';
import { renderIn } from '../../../tests/support/render';
import { TableDialog } from './table-dialog';

const MASTER = withParameters('master', 'm', { width: '400 mm', stock: '18 mm' });

async function paste(...cells: readonly (readonly string[])[]) {
  const opened = await renderIn(MASTER, <TableDialog />);
  act(() => opened.workspace.setState({ table: cells }));
  return { ...opened, dialog: within(await screen.findByRole('dialog', { name: 'Values from a spreadsheet' })) };
}

test('what would change is shown cell by cell, and taken over as one edit', async () => {
  const { dialog, user, session } = await paste(['name', 'formula'], ['width', '480 mm'], ['depth', 'width / 2']);
  expect(dialog.getByRole('status').textContent).toBe('2 changes, 0 to repair');
  expect(
    within(dialog.getByRole('table', { name: 'What would change' }))
      .getAllByRole('row')
      .map(({ textContent }) => textContent),
  ).toEqual(['widthformula400 mm480 mm', expect.stringMatching(/^depthnew.*width \/ 2$/)]);
  expect(session.document).toEqual(MASTER);
  await user.click(dialog.getByRole('button', { name: 'Take over' }));
  expect(session.values.show('m-width')?.shown).toBe('480 mm');
  expect(Object.values(session.document.records).some((record) => record.type === 'parameter' && record.name === 'depth')).toBe(true);
  act(() => session.undo());
  expect(session.document).toEqual(MASTER);
});

test('what is wrong is told by its row, and keeps everything from being changed', async () => {
  const { dialog, session } = await paste(['name', 'formula'], ['width', '480 mm'], ['stock', '18 m+']);
  const wrong = dialog.getByRole('table', { name: 'Repair these in the spreadsheet first' });
  expect(within(wrong).getByText('row 3')).toBeTruthy();
  expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Take over' }).disabled).toBe(true);
  expect(session.document).toEqual(MASTER);
});

test('an empty table says so', async () => {
  const { dialog } = await paste();
  expect(dialog.getByRole('status').textContent).toBe('No table yet.');
});
