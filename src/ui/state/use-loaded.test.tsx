import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { fail, succeed, type Result } from '@/core/kit';
import { FailedLine } from '../design/states';
import type { ApiFailure } from './api';
import type { PagedQuery, ServerQuery } from './queries';
import { forgetAnswers, useLoaded, useLoadedPages } from './use-loaded';

afterEach(forgetAnswers);

type Answer = Result<string, ApiFailure>;
const down: Answer = fail({ code: 'no-answer', message: 'The server does not answer.' });
const refused: Answer = fail({ code: 'not-found', message: 'There is no such document.' });

/** A question that is answered by these in turn, the last one for good. */
function asking(...answers: readonly Answer[]): ServerQuery<string> & { readonly asked: () => number } {
  let asked = 0;
  const ask = (): Promise<Answer> => Promise.resolve(answers[Math.min(asked++, answers.length - 1)] ?? down);
  return { key: ['test', 1], ask, follows: false, asked: () => asked };
}

function Shown({ query }: { query: ServerQuery<string> | undefined }) {
  const { loaded, reload } = useLoaded(query);
  if (loaded.state === 'loading') return <p>loading</p>;
  return loaded.state === 'failed' ? <FailedLine message={loaded.failure.message} onRetry={reload} /> : <p>{loaded.value}</p>;
}

test('an answer is shown; several that ask the same ask once', async () => {
  const query = asking(succeed('18 mm'));
  render(
    <>
      <Shown query={query} />
      <Shown query={query} />
    </>,
  );
  expect(screen.getAllByText('loading')).toHaveLength(2);
  expect(await screen.findAllByText('18 mm')).toHaveLength(2);
  expect(query.asked()).toBe(1);
});

test('a server that does not answer is asked again; a refusal is said at once, with the way to try once more', async () => {
  const patient = asking(down, succeed('18 mm'));
  const first = render(<Shown query={patient} />);
  expect(await screen.findByText('18 mm', undefined, { timeout: 3_000 })).toBeTruthy();
  expect(patient.asked()).toBe(2);
  first.unmount();
  forgetAnswers();

  const query = asking(refused, succeed('21 mm'));
  render(<Shown query={query} />);
  expect((await screen.findByRole('alert')).textContent).toContain('There is no such document.');
  expect(query.asked()).toBe(1);
  await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  expect(await screen.findByText('21 mm')).toBeTruthy();
});

test('nothing is asked without a question', async () => {
  const query = asking(succeed('18 mm'));
  const { rerender } = render(<Shown query={undefined} />);
  await Promise.resolve();
  expect(query.asked()).toBe(0);
  rerender(<Shown query={query} />);
  expect(await screen.findByText('18 mm')).toBeTruthy();
});

type Page = readonly number[];

/** A list of so many numbers, two on a page. */
function numbers(most: number): PagedQuery<Page> {
  return {
    key: ['numbers', most],
    ask: (behind) => {
      const from = (behind?.at(-1) ?? 0) + 1;
      return Promise.resolve(succeed([from, from + 1].filter((number) => number <= most)));
    },
    hasMore: (page) => (page.at(-1) ?? 0) < most,
    follows: false,
  };
}

function Listed({ query }: { query: PagedQuery<Page> }) {
  const { loaded, hasMore, more } = useLoadedPages(query);
  return (
    <>
      <p>{loaded.state === 'ready' ? loaded.value.flat().join(' ') : loaded.state}</p>
      {hasMore && (
        <button type="button" onClick={more}>
          Earlier ones
        </button>
      )}
    </>
  );
}

test('a list comes page by page, each behind the one before, until there is no more', async () => {
  render(<Listed query={numbers(5)} />);
  expect(await screen.findByText('1 2')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'Earlier ones' }));
  expect(await screen.findByText('1 2 3 4')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'Earlier ones' }));
  expect(await screen.findByText('1 2 3 4 5')).toBeTruthy();
  expect(screen.queryByRole('button')).toBeNull();
});

test('what is under way is asked for again by itself, until it is done; a failure in between leaves what was known', async () => {
  const query = {
    ...asking(succeed('under way'), refused, succeed('under way'), succeed('done')),
    again: (text: string) => (text === 'done' ? undefined : 10),
  };
  const seen: string[] = [];
  function Watched() {
    const { loaded } = useLoaded(query);
    const text = loaded.state === 'failed' ? `${loaded.last ?? ''}, ${loaded.failure.code}` : loaded.state === 'ready' ? loaded.value : '';
    if (seen.at(-1) !== text) seen.push(text);
    return <p>{text}</p>;
  }
  render(<Watched />);
  expect(await screen.findByText('done')).toBeTruthy();
  expect(seen).toEqual(['', 'under way', 'under way, not-found', 'under way', 'done']);
  const asked = query.asked();
  await new Promise((resolve) => setTimeout(resolve, 60));
  expect(query.asked()).toBe(asked);
});

test('a change that is made here is seen by all who ask the same', async () => {
  const query = asking(succeed('18 mm'));
  function Changing() {
    const { replace } = useLoaded(query);
    return <button onClick={() => replace((known) => `${known ?? ''}, then 21 mm`)}>Change</button>;
  }
  render(
    <>
      <Shown query={query} />
      <Changing />
    </>,
  );
  await screen.findByText('18 mm');
  await userEvent.click(screen.getByRole('button', { name: 'Change' }));
  expect(await screen.findByText('18 mm, then 21 mm')).toBeTruthy();
});
