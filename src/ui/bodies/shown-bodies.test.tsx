import { screen } from '@testing-library/react';
import { createDocument, type Document } from '@/core/document';
import { demoDocument } from '../../../tests/support/demo';
import { renderIn } from '../../../tests/support/render';
import { ShownBodies } from './shown-bodies';

// Typing key by key takes long on a busy machine.
jest.setTimeout(30_000);

/** A part with bodies of those names, built by nothing. */
function withBodies(...names: string[]): Document {
  const empty = createDocument('p', 'part', 'Part');
  const bodies = names.map((name) => ({ type: 'body', id: name.toLowerCase(), name, material: '' }) as const);
  return {
    ...empty,
    records: { ...empty.records, ...Object.fromEntries(bodies.map((body) => [body.id, body])) },
    lists: { ...empty.lists, bodies: bodies.map(({ id }) => id) },
  };
}

test('a part with one body has no list of bodies', async () => {
  await renderIn(demoDocument('Side frame'), <ShownBodies />);
  expect(screen.queryByRole('button', { name: /^Bodies/ })).toBeNull();
});

test('bodies are hidden, shown alone, seen through and shown again, by keys', async () => {
  const { user, workspace } = await renderIn(withBodies('Shaft', 'Disc', 'Pin'), <ShownBodies />);
  const state = (): { hidden: string[]; clear: string[] } => {
    const { hidden, clear } = workspace.getState();
    return { hidden: [...hidden], clear: [...clear] };
  };
  const choose = async (...keys: string[]): Promise<void> => {
    screen.getByRole('button', { name: /^Bodies/ }).focus();
    await user.keyboard('{Enter}');
    for (const key of keys) await user.keyboard(key);
  };
  // The second body, its first verb.
  await choose('{ArrowDown}', '{ArrowRight}', '{Enter}');
  expect(state()).toEqual({ hidden: ['disc'], clear: [] });
  expect(screen.getByRole('button', { name: 'Bodies, 1 hidden' })).toBeTruthy();
  await choose('{ArrowRight}', '{ArrowDown}', '{Enter}');
  expect(state()).toEqual({ hidden: ['disc'], clear: ['shaft'] });
  await choose('{ArrowDown}', '{ArrowDown}', '{ArrowRight}', '{ArrowDown}', '{ArrowDown}', '{Enter}');
  expect(state()).toEqual({ hidden: ['shaft', 'disc'], clear: ['shaft'] });
  await choose('{End}', '{Enter}');
  expect(state()).toEqual({ hidden: [], clear: [] });
});
