import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { RenamableTitle } from './renamable-title';

jest.setTimeout(30_000);

function open(answer: (name: string) => Promise<string | undefined> | string | undefined) {
  const asked: string[] = [];
  render(
    <RenamableTitle
      name="Side frame"
      className=""
      onRename={(name) => {
        asked.push(name);
        return answer(name);
      }}
    />,
  );
  return { asked, user: userEvent.setup() };
}
const box = (): HTMLElement => screen.getByRole('textbox', { name: 'Name' });

test('a press opens it with all of it marked; what is typed takes the place of it, Enter hands it over', async () => {
  const { asked, user } = open(() => undefined);
  expect(screen.getByRole('heading', { level: 1, name: 'Side frame' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Side frame' }));
  await user.keyboard('  Left side {Enter}');
  expect(asked).toEqual(['Left side']);
  expect(screen.getByRole('heading', { level: 1 })).toBeTruthy();
});

test('Escape, an empty name and the same name change nothing', async () => {
  const { asked, user } = open(() => undefined);
  for (const keys of ['other{Escape}', '{Backspace}{Enter}', 'Side frame{Enter}']) {
    await user.click(screen.getByRole('button', { name: 'Side frame' }));
    await user.keyboard(keys);
    expect(screen.queryByRole('textbox')).toBeNull();
  }
  expect(asked).toEqual([]);
});

test('a refusal is told, and what was typed stays to be mended', async () => {
  const { user } = open((name) => Promise.resolve(name === 'taken' ? 'That name is taken.' : undefined));
  await user.click(screen.getByRole('button', { name: 'Side frame' }));
  await user.keyboard('taken{Enter}');
  expect((await screen.findByRole('alert')).textContent).toBe('That name is taken.');
  expect(box().getAttribute('aria-invalid')).toBe('true');
  await user.keyboard('{Control>}a{/Control}free{Enter}');
  expect(await screen.findByRole('heading', { level: 1 })).toBeTruthy();
});
