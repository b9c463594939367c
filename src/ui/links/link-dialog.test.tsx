import { screen, waitFor, within } from '@testing-library/react';
import { listRecords } from '@/core/document';
import { fail, succeed } from '@/core/kit';
import { withParameters } from '../../../tests/support/assemblies';
import { card, offeredLength, offersOf, projectOf } from '../../../tests/support/cards';
import { renderIn } from '../../../tests/support/render';
import { api } from '../state/api';
import { forgetAnswers } from '../state/use-loaded';
import { LinkDialog } from './link-dialog';

jest.setTimeout(30_000);

const PART = withParameters('part', 'p', { board_stock: '18 mm' });
const PROJECT = projectOf(card('other', 'Stand', 'part'), card('sizes', 'Loom sizes', 'master'), card(PART.id, PART.name, 'part'));
const OFFERS = offersOf('sizes', 'Loom sizes', offeredLength('weaving_width', 400), offeredLength('board_stock', 18), offeredLength('spare', 5, false));

afterEach(() => {
  jest.restoreAllMocks();
  forgetAnswers();
});

function serve() {
  jest.spyOn(api, 'readProject').mockResolvedValue(succeed(PROJECT));
  return jest.spyOn(api, 'listOffers').mockImplementation((id) => Promise.resolve(succeed({ ...OFFERS, id })));
}
const rowOf = (name: string): HTMLElement => screen.getByRole('row', { name: new RegExp(`^(\\S+ )?${name} `) });

test('the masters come first; a value is ticked, has another name where its own is taken, and is linked', async () => {
  const offers = serve();
  const closed = jest.fn();
  const { user, session } = await renderIn(PART, <LinkDialog source={undefined} onClose={closed} />);
  await screen.findByText('weaving_width');
  expect(offers).toHaveBeenCalledWith('sizes');
  // Not the one that is open.
  expect(
    within(screen.getByRole('navigation', { name: 'Documents' }))
      .getAllByRole('button')
      .map(({ textContent }) => textContent),
  ).toEqual(['Stand part', 'Loom sizes master']);
  await user.click(within(rowOf('weaving_width')).getByRole('checkbox'));
  await user.click(screen.getByRole('button', { name: 'Link 1 value' }));
  expect(closed).toHaveBeenCalled();
  const [link] = listRecords(session.document, 'links', 'link');
  expect(link).toMatchObject({ source: 'sizes', sourceName: 'Loom sizes' });
  expect(listRecords(session.document, `${link?.id}/takes`, 'take').map(({ name }) => name)).toEqual(['weaving_width']);
});

test('a name that is taken here keeps the values from being linked until another one is given', async () => {
  serve();
  const { user } = await renderIn(PART, <LinkDialog source="sizes" onClose={() => undefined} />);
  await screen.findByText('weaving_width');
  await user.click(within(rowOf('board_stock')).getByRole('checkbox'));
  const link = screen.getByRole<HTMLButtonElement>('button', { name: 'Link 1 value' });
  expect(link.disabled).toBe(true);
});

test('where the project cannot be read, the dialog says why and tries again', async () => {
  serve();
  const read = jest.spyOn(api, 'readProject').mockResolvedValueOnce(fail({ code: 'not-found', message: 'There is no such project.' }));
  const { user } = await renderIn(PART, <LinkDialog source={undefined} onClose={() => undefined} />);
  expect((await screen.findByRole('alert')).textContent).toContain('There is no such project.');
  await user.click(screen.getByRole('button', { name: 'Try again' }));
  await waitFor(() => expect(screen.getByText('weaving_width')).toBeTruthy());
  expect(read).toHaveBeenCalledTimes(2);
});
