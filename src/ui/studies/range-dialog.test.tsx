import { screen, waitFor, within } from '@testing-library/react';
import { findRecord } from '@/core/document';
import { withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { renderIn } from '../../../tests/support/render';
import { RangeDialog } from './range-dialog';

jest.setTimeout(60_000);

// What is run is told by its words here; charts are drawn where they are seen.
jest.mock('../design/line-chart', () => ({
  __esModule: true,
  default: ({ points }: { points: readonly { x: number }[] }) => points.map(({ x }) => x).join(' '),
}));

/** A beam between supports whose bending is a wave of its length: it comes to the same several times. */
const BEAM = edited(withParameters('master', 'b', { span: '10 mm', stock: '15 mm', wave: 'sin(span * 1 rad / 1 mm) * 10 mm', area: 'stock * stock' }), {
  type: 'parameter.update',
  id: 'b-stock',
  changes: { choices: ['12 mm', '15 mm', '18 mm', '21 mm'] },
});

const onClose = (): void => undefined;

async function open(value: string) {
  const { user, session } = await renderIn(BEAM, <RangeDialog value={value} onClose={onClose} />);
  const put = async (label: string, text: string): Promise<void> => {
    await user.clear(screen.getByRole('textbox', { name: label }));
    await user.type(screen.getByRole('textbox', { name: label }), `${text}{Enter}`);
  };
  return { user, session, put };
}

test('a value with choices is run through these; others evenly, in steps, or as listed', async () => {
  const { user, put } = await open('b-stock');
  expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Listed' }).value).toBe('12 mm; 15 mm; 18 mm; 21 mm');
  await user.click(screen.getByRole('button', { name: 'Run' }));
  await screen.findByText('12 15 18 21');
  await put('Listed', '12 mm; wide');
  expect(screen.getByText(/^Type two amounts or more with semicolons between, each like 15 mm/)).toBeTruthy();
  await user.selectOptions(screen.getByRole('combobox', { name: 'Amounts' }), 'in steps');
  await put('From', '12 mm');
  await put('To', '20 mm');
  await put('Step', '4');
  await user.click(screen.getByRole('button', { name: 'Run' }));
  await screen.findByText('12 16 20');
  // Two of them are none of its choices.
  expect(screen.getByText('Nothing is wrong from 12 mm to 12 mm.')).toBeTruthy();
  expect(screen.getByText(/^stock: This is not one of the choices/).textContent).toContain('at 16 mm, 20 mm');
});

test('where a value comes to what is wanted several times, each place is found by one press', async () => {
  const { user, session, put } = await open('b-span');
  await put('From', '1 mm');
  await put('To', '20 mm');
  await user.selectOptions(screen.getByRole('combobox', { name: 'Look at' }), 'wave');
  await user.type(screen.getByRole('textbox', { name: 'What wave is to be' }), '0 mm');
  await user.click(screen.getByRole('button', { name: 'Find' }));
  await screen.findByText('span = 9.425 mm: wave is 0 mm.');
  const elsewhere = screen.getByText(/^It is reached elsewhere too/);
  expect(within(elsewhere).getAllByRole('button')).toHaveLength(5);
  await user.click(within(elsewhere).getByRole('button', { name: /^Find near 3\.1/ }));
  await screen.findByText('span = 3.142 mm: wave is 0 mm.');
  await user.click(screen.getByRole('button', { name: /^Use 3\.142/ }));
  await waitFor(() => expect(findRecord(session.document, 'b-span', 'parameter')?.formula.text).toMatch(/^3\.14159/));
});
