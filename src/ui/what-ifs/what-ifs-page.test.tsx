import { act, screen, waitFor, within } from '@testing-library/react';
import { withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { renderIn } from '../../../tests/support/render';
import type { Document, WhatIf } from '@/core/document';
import { fail, succeed } from '@/core/kit';
import { QuestionDialog } from '../shell/question-dialog';
import { api } from '../state/api';
import { forgetAnswers } from '../state/use-loaded';
import { WhatIfsPage } from './what-ifs-page';

jest.setTimeout(60_000);

const MASTER = edited(withParameters('master', 'm', { dia: '45 mm', play: '0.4 mm', bore: 'dia + play' }), {
  type: 'guard.put',
  guard: { type: 'guard', id: 'thick', condition: { text: 'dia < 70 mm' }, severity: 'error', message: 'The beam meets the board.' },
});

/** What-ifs as a server would keep them. */
function serve(known: readonly WhatIf[] = [], isDown = () => false) {
  let kept = known;
  jest.spyOn(api, 'readWhatIfs').mockImplementation(() => Promise.resolve(succeed({ whatIfs: kept })));
  jest.spyOn(api, 'changeWhatIf').mockImplementation((_, change) => {
    if (isDown()) return Promise.resolve(fail({ code: 'no-answer' as const, message: 'The server does not answer.' }));
    kept = 'put' in change ? [...kept.filter(({ id }) => id !== change.put.id), change.put] : kept.filter(({ id }) => id !== change.remove);
    return Promise.resolve(succeed({ whatIfs: kept }));
  });
  return () => kept;
}
afterEach(() => {
  jest.restoreAllMocks();
  forgetAnswers();
});

const PAGE = (
  <>
    <WhatIfsPage value="m-dia" onClose={() => undefined} />
    <QuestionDialog />
  </>
);

async function openPage(document: Document) {
  const opened = await renderIn(document, PAGE);
  await waitFor(() => expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add a what-if' }).disabled).toBe(false));
  return opened;
}

const cells = (name: string): string[] =>
  within(screen.getByRole('row', { name: new RegExp(`^${name}`) }))
    .getAllByRole('cell')
    .map((cell) => cell.textContent);

test('values are typed into what-ifs, what follows stands beside, and the document is as it was', async () => {
  const kept = serve();
  const { user, session } = await openPage(MASTER);
  await user.click(screen.getByRole('button', { name: 'Add a what-if' }));
  await user.type(screen.getByRole('textbox', { name: 'dia in What if 1' }), '2 * play + 60{Enter}');
  expect(cells('bore')).toEqual(['45.4 mm', '61.2 mm']);
  await user.click(screen.getByRole('button', { name: 'Add a what-if' }));
  await user.type(screen.getByRole('textbox', { name: 'dia in What if 2' }), '80 mm{Enter}');
  expect(cells('bore')).toEqual(['45.4 mm', '61.2 mm', '80.4 mm']);
  expect(cells('problems')).toEqual(['none', 'none', 'The beam meets the board.']);
  const name = screen.getByRole('textbox', { name: 'Name of What if 2' });
  await user.clear(name);
  await user.type(name, 'Thick{Enter}');
  expect(kept().map((one) => one.name)).toEqual(['What if 1', 'Thick']);
  expect(kept()[0]?.values['m-dia']).toEqual({ formula: { text: '2 * play + 60', names: { play: 'm-play' } }, instead: '45 mm' });
  expect(session.document).toEqual(MASTER);
});

test('the document at its limits stands beside, to be read', async () => {
  serve();
  const { user } = await openPage(
    edited(MASTER, { type: 'parameter.update', id: 'm-dia', changes: { tolerance: { kind: 'symmetric', by: { text: '0.2 mm' } } } }),
  );
  await user.click(screen.getByRole('button', { name: 'Show limits' }));
  expect(screen.getByRole('checkbox', { name: 'Compare At upper limits' })).toBeTruthy();
  // As it is, upper, middle, lower.
  expect(cells('bore')).toEqual(['45.4 mm', '45.6 mm', '45.4 mm', '45.2 mm']);
  expect(cells('dia')).toEqual(['45 mm', '45.2 mm', '45 mm', '44.8 mm']);
  expect(screen.queryByRole('textbox')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Hide limits' }));
  expect(screen.queryByRole('table')).toBeNull();
});

test('what cannot be is not taken, and says why; an empty box is the document again', async () => {
  const kept = serve();
  const { user } = await openPage(MASTER);
  await user.click(screen.getByRole('button', { name: 'Add a what-if' }));
  const box = (): HTMLInputElement => screen.getByRole<HTMLInputElement>('textbox', { name: 'dia in What if 1' });
  await user.type(box(), 'bore * 2{Enter}');
  expect(box().validationMessage).toContain('depend on itself');
  await user.clear(box());
  await user.type(box(), '50 mm{Enter}');
  expect(cells('bore')).toEqual(['45.4 mm', '50.4 mm']);
  await user.clear(box());
  await user.type(box(), '{Enter}');
  expect(kept()[0]?.values).toEqual({});
});

test('one is taken over as one edit; what has changed since is asked first', async () => {
  serve([
    {
      id: 'w',
      name: 'Thick',
      values: { 'm-dia': { formula: { text: '60 mm' }, instead: '45 mm' }, 'm-play': { formula: { text: '1 mm' }, instead: '0.4 mm' } },
    },
  ]);
  const { user, session } = await openPage(MASTER);
  const take = async (): Promise<void> => {
    await user.click(screen.getByRole('button', { name: 'More for Thick' }));
    await user.click(screen.getByRole('menuitem', { name: 'Apply…' }));
  };
  await take();
  expect(session.values.show('m-bore')?.shown).toBe('61 mm');
  expect(screen.getByText(/Thick was applied/)).toBeTruthy();
  act(() => session.undo());
  expect(session.document).toEqual(MASTER);
  act(() => void session.edit({ type: 'parameter.setFormula', id: 'm-dia', formula: { text: '48 mm' } }));
  await take();
  expect(screen.getByText('dia: was 45 mm, is 48 mm, would be 60 mm')).toBeTruthy();
  expect(session.values.show('m-dia')?.shown).toBe('48 mm');
  await user.click(screen.getByRole('button', { name: 'Apply all' }));
  expect(session.values.show('m-dia')?.shown).toBe('60 mm');
});

test('unsaved edits become a what-if, and the document goes back', async () => {
  const kept = serve();
  const { user, session } = await openPage(MASTER);
  jest.spyOn(api, 'readRevision').mockResolvedValue(succeed({ document: MASTER } as never));
  await user.click(screen.getByRole('button', { name: 'From unsaved edits…' }));
  expect(screen.getByText(/No formula of m has changed/)).toBeTruthy();
  act(() => void session.edit({ type: 'parameter.setFormula', id: 'm-dia', formula: { text: '52 mm' } }));
  await user.click(screen.getByRole('button', { name: 'From unsaved edits…' }));
  await user.click(await screen.findByRole('button', { name: 'Keep, and revert the document' }));
  expect(session.document).toEqual(MASTER);
  expect(kept()[0]?.values).toEqual({ 'm-dia': { formula: { text: '52 mm', names: {} }, instead: '45 mm' } });
});

test('what the server has not taken is said, and nothing typed is lost', async () => {
  let isDown = false;
  const kept = serve([{ id: 'w', name: 'Thick', values: {} }], () => isDown);
  const { user } = await openPage(MASTER);
  isDown = true;
  await user.type(screen.getByRole('textbox', { name: 'dia in Thick' }), '60 mm{Enter}');
  expect(await screen.findByText(/Not saved at the server: The server does not answer/)).toBeTruthy();
  expect(cells('bore')).toEqual(['45.4 mm', '60.4 mm']);
  isDown = false;
  await user.type(screen.getByRole('textbox', { name: 'dia in Thick' }), '{Backspace>5/}50 mm{Enter}');
  expect(screen.queryByText(/Not saved at the server/)).toBeNull();
  expect(kept()[0]?.values['m-dia']?.formula.text).toBe('50 mm');
});
