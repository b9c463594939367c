import { screen, waitFor, within } from '@testing-library/react';
import { succeed } from '@/core/kit';
import { withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { renderIn } from '../../../tests/support/render';
import { api } from '../state/api';
import { MapDialog } from './map-dialog';
import { MinimiseDialog } from './minimise-dialog';

jest.setTimeout(60_000);

/** A bar whose section must bear its load: 24 mm by 30 mm does, and is more than it has to be. */
const BAR = edited(
  withParameters(
    'master',
    'b',
    { width: '24 mm', height: '30 mm', area: 'width * height', modulus: 'width * height ^ 2 / 6' },
    { width: 'length', height: 'length' },
  ),
  {
    type: 'guard.put',
    guard: { type: 'guard', id: 'strong', condition: { text: 'modulus >= 2304 mm^3' }, severity: 'error', message: 'The bar is too weak.' },
  },
);

const onClose = (): void => undefined;

test('two values are run together: each pair of amounts with what it comes to and whether anything is wrong; one is taken over as one edit', async () => {
  const { user, session } = await renderIn(BAR, <MapDialog value="b-width" onClose={onClose} />);
  const put = async (label: string, text: string): Promise<void> => {
    await user.clear(screen.getByRole('textbox', { name: label }));
    await user.type(screen.getByRole('textbox', { name: label }), `${text}{Enter}`);
  };
  await put('width from', '12');
  await put('width to', '36 mm');
  await put('height from', '12 mm');
  await put('height to', '36 mm');
  await put('Samples of each', '3');
  await user.selectOptions(screen.getByRole('combobox', { name: 'Look at' }), 'area');
  await user.click(screen.getByRole('button', { name: 'Run' }));
  const map = await screen.findByRole('table', { name: /^area .* over width and height/ });
  await waitFor(() => expect(within(map).queryByText('…')).toBeNull());
  const fields = within(map)
    .getAllByRole('button')
    .map((field) => field.getAttribute('aria-label'));
  // From the top: 36 mm high, then 24, then 12. W = w h^2 / 6 reaches 2304 mm^3 with 12 by 36 mm, and with 24 by 24 mm.
  expect(fields).toEqual([
    '12 mm, 36 mm: 432 mm²',
    '24 mm, 36 mm: 864 mm²',
    '36 mm, 36 mm: 1296 mm²',
    '12 mm, 24 mm: 288 mm², something is wrong',
    '24 mm, 24 mm: 576 mm²',
    '36 mm, 24 mm: 864 mm²',
    '12 mm, 12 mm: 144 mm², something is wrong',
    '24 mm, 12 mm: 288 mm², something is wrong',
    '36 mm, 12 mm: 432 mm², something is wrong',
  ]);
  await user.click(within(map).getByRole('button', { name: /^12 mm, 12 mm/ }));
  expect(screen.getByText('The bar is too weak.')).toBeTruthy();
  await user.keyboard('{ArrowUp}{ArrowUp}');
  await user.click(screen.getByRole('button', { name: 'Use 12 mm and 36 mm' }));
  expect(['b-width', 'b-height'].map((id) => session.values.show(id)?.shown)).toEqual(['12 mm', '36 mm']);
  session.undo();
  expect(session.document).toEqual(BAR);
});

test('the least of a value under its guards is found by two others, and is made the document with one edit', async () => {
  const { user, session } = await renderIn(BAR, <MinimiseDialog value="b-width" onClose={onClose} />);
  await user.selectOptions(screen.getByRole('combobox', { name: 'Of' }), 'area');
  await user.click(screen.getByRole('button', { name: 'Add a value…' }));
  await user.click(screen.getByRole('menuitem', { name: 'height' }));
  await user.click(screen.getByRole('button', { name: 'Find' }));
  await screen.findByText(/Found in \d+ trials|Stopped after/, undefined, { timeout: 30_000 });
  // A w h with w h^2 fixed is the less the higher the bar: at 45 mm, where the bounds end, w = 6 * 2304 / 45^2, or at the least width of 12 mm.
  await user.click(screen.getByRole('button', { name: 'Use these values' }));
  const [width = NaN, height = NaN] = ['b-width', 'b-height'].map((id) => session.values.sheet.readNumber(id) / 10_000);
  expect((width * height ** 2) / 6).toBeGreaterThanOrEqual(2304 - 1e-6);
  expect(width).toBeCloseTo(12, 1);
  expect(height).toBeCloseTo(Math.sqrt((6 * 2304) / 12), 1);
});

test('bounds that are none are told, and nothing is run', async () => {
  const { user } = await renderIn(BAR, <MinimiseDialog value="b-width" onClose={onClose} />);
  await user.clear(screen.getByRole('textbox', { name: 'by width to' }));
  await user.type(screen.getByRole('textbox', { name: 'by width to' }), '1 kg{Enter}');
  expect(screen.getByText(/The bounds of width must run from less to more/)).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Find' }).disabled).toBe(true);
});

test('at the server, a value with choices is run through those in its range', async () => {
  const asked = jest.spyOn(api, 'changeRuns').mockResolvedValue(succeed({ runs: [] }));
  const chosen = edited(BAR, { type: 'parameter.update', id: 'b-height', changes: { choices: ['24 mm', '30 mm', '36 mm', '48 mm'] } });
  const { user } = await renderIn(chosen, <MapDialog value="b-width" onClose={onClose} />);
  await user.clear(screen.getByRole('textbox', { name: 'height to' }));
  await user.type(screen.getByRole('textbox', { name: 'height to' }), '40 mm{Enter}');
  await user.click(screen.getByRole('button', { name: 'Run at the server' }));
  const [[, change] = []] = asked.mock.calls;
  expect(change && 'start' in change ? change.start.second : undefined).toMatchObject({
    value: 'b-height',
    from: 240_000,
    to: 360_000,
    count: 3,
    amounts: [240_000, 300_000, 360_000],
  });
});
