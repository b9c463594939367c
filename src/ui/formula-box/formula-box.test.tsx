import { act, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { findNamed } from '@/core/document';
import { ANY_SLOT } from '@/core/formula';
import { withParameters } from '../../../tests/support/assemblies';
import { renderIn } from '../../../tests/support/render';
import { useSession } from '../state/context';
import { FormulaBox } from './formula-box';

jest.setTimeout(30_000);

const SIZES = withParameters('master', 'm', { board_stock: '18 mm', gap: '3 mm', slot: 'board_stock + gap' });

interface BoxProps {
  readonly initial?: string;
  readonly needsName?: boolean;
  readonly forId?: string;
  readonly onAccept?: (text: string, then: string, plainAs: string) => string | undefined;
  readonly onCancel?: () => void;
}

function Box({ initial = '', onAccept = () => undefined, onCancel = () => undefined, ...rest }: BoxProps) {
  const session = useSession();
  return <FormulaBox values={session.values} initial={initial} label="Formula" slot={ANY_SLOT} onAccept={onAccept} onCancel={onCancel} {...rest} />;
}

const box = (): HTMLElement => screen.getByRole('textbox', { name: 'Formula' });
const said = (): string => document.body.textContent;

test('the result stands beside what is typed, as it is typed; Enter hands it over and Escape gives it up', async () => {
  const [onAccept, onCancel] = [jest.fn(() => undefined), jest.fn()];
  const { user } = await renderIn(SIZES, <Box onAccept={onAccept} onCancel={onCancel} />);
  await user.type(box(), 'board_stock / 2');
  expect(said()).toContain('= 9 mm');
  await user.keyboard('{Enter}');
  expect(onAccept).toHaveBeenCalledWith('board_stock / 2', 'stay', 'length');
  await user.keyboard('{Escape}');
  expect(onCancel).toHaveBeenCalledTimes(1);
});

test('a name that is misspelt is told with its repair, which one press or Alt Enter makes', async () => {
  const { user } = await renderIn(SIZES, <Box />);
  await user.type(box(), 'board_stok * 2');
  expect(said()).toMatch(/board_stok/);
  const repair = screen.getByRole('button', { name: /board_stock/ });
  await user.pointer({ keys: '[MouseLeft]', target: repair });
  expect(box().textContent).toBe('board_stock * 2');
  expect(said()).toContain('= 36 mm');
});

test('a refusal of what was handed over stands in the box until something else is typed', async () => {
  const { user } = await renderIn(SIZES, <Box initial="7 mm" onAccept={() => 'The beam meets the board.'} />);
  await user.click(box());
  await user.keyboard('{End}{Enter}');
  expect(said()).toContain('The beam meets the board.');
  await user.keyboard('5');
  expect(said()).not.toContain('The beam meets the board.');
});

test('a new value is asked for its name; one that is taken, or has a space, is told with another', async () => {
  const { user } = await renderIn(SIZES, <Box needsName />);
  await user.type(box(), '21 mm');
  expect(said()).toContain('Type a name, an equals sign and a formula');
  await user.clear(box());
  await user.type(box(), 'gap = 21 mm');
  expect(said()).toMatch(/gap/);
  expect(screen.getByRole('button', { name: /gap_2/ })).toBeTruthy();
  await user.clear(box());
  await user.type(box(), 'rail gap = 21 mm');
  expect(screen.getByRole('button', { name: /rail_gap/ })).toBeTruthy();
});

test('a plain number is taken as a length, and as something else where that is said', async () => {
  const onAccept = jest.fn(() => undefined);
  const { user } = await renderIn(SIZES, <Box needsName onAccept={onAccept} />);
  await user.type(box(), 'teeth = 12');
  expect(said()).toContain('taken as a length');
  await user.pointer({ keys: '[MouseLeft]', target: screen.getByRole('button', { name: 'a count' }) });
  expect(said()).toContain('taken as a count');
  await user.keyboard('{Enter}');
  expect(onAccept).toHaveBeenCalledWith('teeth = 12', 'stay', 'count');
});

test('a formula that would read itself is refused with the path', async () => {
  const { user } = await renderIn(SIZES, <Box forId="m-gap" />);
  await user.type(box(), 'slot - board_stock');
  expect(said()).toMatch(/depends on itself|itself/);
});

test('an unknown name is made a value, with one press', async () => {
  const { user, session } = await renderIn(SIZES, <Box />);
  await user.type(box(), 'small_d * 2');
  const make = screen.getByRole('button', { name: /Make small_d = .* a value/ });
  await user.pointer({ keys: '[MouseLeft]', target: make });
  expect(findNamed(session.document, 'small_d')).toBeTruthy();
  act(() => session.undo());
  expect(findNamed(session.document, 'small_d')).toBeUndefined();
});

test('a key that comes before the list does what it would do after: a name that is begun is completed, one that is typed out is kept', async () => {
  const onAccept = jest.fn(() => undefined);
  const { user } = await renderIn(SIZES, <Box onAccept={onAccept} />);
  // No moment between the keys.
  const quick = userEvent.setup({ delay: null });
  await user.click(box());
  await quick.keyboard('2 * board_s{Enter}');
  expect(box().textContent).toBe('2 * board_stock');
  expect(onAccept).not.toHaveBeenCalled();
  await user.clear(box());
  await quick.keyboard('slot{Enter}');
  expect(onAccept).toHaveBeenCalledWith('slot', 'stay', 'length');
});
