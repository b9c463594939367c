import { screen, within } from '@testing-library/react';
import { listRecords } from '@/core/document';
import { fail, succeed } from '@/core/kit';
import { linked, withParameters } from '../../../tests/support/assemblies';
import { card, offeredLength, offersOf, projectOf } from '../../../tests/support/cards';
import { renderIn } from '../../../tests/support/render';
import { api } from '../state/api';
import { forgetAnswers } from '../state/use-loaded';
import { RepointDialog } from './repoint-dialog';

const PART = linked(withParameters('part', 'p', {}), 'old', { width: 400, stock: 18 });
const LINK = 'p-to-old';

afterEach(() => {
  jest.restoreAllMocks();
  forgetAnswers();
});

/** A project in which the values could come from a master with `width`, and another length. */
function serve() {
  jest
    .spyOn(api, 'readProject')
    .mockResolvedValue(succeed(projectOf(card('old', 'Old sizes', 'master'), card('new', 'Loom sizes', 'master'), card('p', 'p', 'part'))));
  return jest.spyOn(api, 'listOffers').mockResolvedValue(succeed(offersOf('new', 'Loom sizes', offeredLength('width', 480), offeredLength('board', 21))));
}
const takes = (document: Parameters<typeof listRecords>[0]) =>
  listRecords(document, 'links', 'link').flatMap(({ id, source }) =>
    listRecords(document, `${id}/takes`, 'take').map(({ name, sourceName }) => `${name} = ${source}.${sourceName}`),
  );

test('values of the same names are matched, the rest stays where it is unless one is chosen', async () => {
  serve();
  const closed = jest.fn();
  const { user, session } = await renderIn(PART, <RepointDialog link={LINK} onClose={closed} />);
  const documents = within(await screen.findByRole('navigation', { name: 'Documents' }));
  // Neither where they come from now, nor this document.
  await user.click(await documents.findByRole('button', { name: /Loom sizes/ }));
  expect(documents.getAllByRole('button')).toHaveLength(1);
  expect(await screen.findByText(/1 of 2 have no value of the same name there/)).toBeTruthy();
  expect(screen.getByRole<HTMLSelectElement>('combobox', { name: 'Value for width' }).selectedOptions[0]?.textContent).toBe('width');
  await user.click(screen.getByRole('button', { name: 'Take 1 of 2 from there' }));
  expect(closed).toHaveBeenCalled();
  expect(takes(session.document).toSorted()).toEqual(['stock = old.stock', 'width = new.width']);
});

test('one that has another name there is chosen by hand, and comes along', async () => {
  serve();
  const { user, session } = await renderIn(PART, <RepointDialog link={LINK} onClose={() => undefined} />);
  await user.click(await screen.findByRole('button', { name: /Loom sizes/ }));
  await user.selectOptions(await screen.findByRole('combobox', { name: 'Value for stock' }), 'board');
  expect(within(screen.getByRole('row', { name: /^stock/ })).getByText('21 mm')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Take 2 of 2 from there' }));
  expect(takes(session.document).toSorted()).toEqual(['stock = new.board', 'width = new.width']);
});

test('a document that cannot be read is said, and asked for again', async () => {
  const offers = serve().mockResolvedValueOnce(fail({ code: 'not-found', message: 'There is no such document.' }));
  const { user } = await renderIn(PART, <RepointDialog link={LINK} onClose={() => undefined} />);
  await user.click(await screen.findByRole('button', { name: /Loom sizes/ }));
  expect((await screen.findByRole('alert')).textContent).toContain('There is no such document.');
  await user.click(screen.getByRole('button', { name: 'Try again' }));
  expect(await screen.findByText('480 mm')).toBeTruthy();
  expect(offers).toHaveBeenCalledTimes(2);
});
