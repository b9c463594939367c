import { screen } from '@testing-library/react';
import { fail, succeed } from '@/core/kit';
import { withParameters } from '../../../tests/support/assemblies';
import { card, projectOf } from '../../../tests/support/cards';
import { renderIn } from '../../../tests/support/render';
import { api } from '../state/api';
import { forgetAnswers } from '../state/use-loaded';
import { HandOverDialog } from './hand-over-dialog';

const MASTER = withParameters('master', 'm', { width: '400 mm', stock: '18 mm' });

afterEach(() => {
  jest.restoreAllMocks();
  forgetAnswers();
});

async function open(onClose: () => void = () => undefined) {
  const rail = { ...card('rail', 'Cross rail', 'part'), links: [{ source: 'm', policy: 'ask' as const, values: 1 }] };
  jest.spyOn(api, 'readProject').mockResolvedValue(succeed(projectOf(card('m', 'm', 'master'), card('side', 'Side frame', 'part'), rail)));
  const opened = await renderIn(MASTER, <HandOverDialog values={['m-width', 'm-stock']} onClose={onClose} />);
  await screen.findByText('Side frame');
  return opened;
}

test('ticked documents take the values under names of their own; nothing can be done before one is ticked', async () => {
  const handOver = jest.spyOn(api, 'handOver').mockResolvedValue(succeed({ problems: [], documents: [{ id: 'side', name: 'Side frame', seq: 4 }] }));
  const closed = jest.fn();
  const { user, session } = await open(closed);
  // Not to itself; and it is told who has a link already.
  expect(screen.getAllByRole('checkbox')).toHaveLength(2);
  expect(screen.getByText('linked already')).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Link in 0 documents' }).disabled).toBe(true);
  await user.click(screen.getByRole('checkbox', { name: /Side frame/ }));
  const name = screen.getByRole('textbox', { name: 'Name of stock in Side frame' });
  await user.clear(name);
  await user.type(name, 'board');
  await user.click(screen.getByRole('button', { name: 'Link in 1 document' }));
  const takes = [
    { parameter: 'm-width', name: 'width' },
    { parameter: 'm-stock', name: 'board' },
  ];
  expect(handOver).toHaveBeenCalledWith('m', expect.objectContaining({ policy: 'ask', to: [{ document: 'side', takes }] }));
  expect(closed).toHaveBeenCalled();
  expect(session.store.getState().notice).toContain('Handed over to Side frame');
});

test('a name that is taken there is told with one that is free; nothing was handed over, and nothing typed is lost', async () => {
  const problem = { document: 'side', parameter: 'm-width', message: 'Side frame has a value width already.', offer: 'width_2' };
  const handOver = jest.spyOn(api, 'handOver').mockResolvedValue(succeed({ problems: [problem], documents: [] }));
  const closed = jest.fn();
  const { user } = await open(closed);
  await user.click(screen.getByRole('checkbox', { name: /Side frame/ }));
  await user.click(screen.getByRole('button', { name: 'Link in 1 document' }));
  expect(await screen.findByText('Side frame has a value width already.')).toBeTruthy();
  expect(closed).not.toHaveBeenCalled();
  await user.click(screen.getByRole('button', { name: 'Use width_2' }));
  expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Name of width in Side frame' }).value).toBe('width_2');
  handOver.mockResolvedValue(fail({ code: 'no-answer', message: 'The server does not answer.' }));
  await user.click(screen.getByRole('button', { name: 'Link in 1 document' }));
  expect(await screen.findByText('The server does not answer.')).toBeTruthy();
  expect(screen.getByRole<HTMLInputElement>('checkbox', { name: /Side frame/ }).checked).toBe(true);
});

test('what is searched for is ticked together', async () => {
  const { user } = await open();
  await user.type(screen.getByRole('searchbox', { name: 'Search documents' }), 'RAIL');
  await user.click(screen.getByRole('button', { name: 'Tick these 1' }));
  await user.clear(screen.getByRole('searchbox', { name: 'Search documents' }));
  expect(screen.getAllByRole<HTMLInputElement>('checkbox').map(({ checked }) => checked)).toEqual([false, true]);
});
