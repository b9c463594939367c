import { changedWhen, listedProjects } from './listed-projects';

const CARDS = [
  { id: 'a', name: 'Warp frame', documents: 2, behind: 0, changed: { at: '2026-03-01T10:00:00.000Z', author: 'x' } },
  { id: 'b', name: 'Bobbin rack', documents: 1, behind: 2, changed: { at: '2026-02-01T10:00:00.000Z', author: 'x' } },
  { id: 'c', name: 'Reed hook', documents: 0 },
  { id: 'd', name: 'Lost one', documents: 0, behind: 0, problem: 'It cannot be read.' },
];
const order = (...args: Parameters<typeof listedProjects>): string =>
  listedProjects(...args)
    .map(({ id }) => id)
    .join('');

test('projects are listed by their last change, by name, or by what needs attention, and searched by name', () => {
  expect(order(CARDS, '', 'changed')).toBe('abdc');
  expect(order(CARDS, '', 'name')).toBe('bdca');
  expect(order(CARDS, '', 'attention')).toBe('dbca');
  expect(order(CARDS, ' RE', 'name')).toBe('c');
  expect(order(CARDS, 'loom', 'name')).toBe('');
});

test('a change is told by the day it was made', () => {
  const now = new Date(2026, 10, 28, 9, 0);
  expect(changedWhen(new Date(2026, 10, 28, 7, 5).toISOString(), now)).toBe('today 7:05');
  expect(changedWhen(new Date(2026, 10, 27, 23, 59).toISOString(), now)).toBe('yesterday 23:59');
  expect(changedWhen(new Date(2026, 10, 26, 23, 59).toISOString(), now)).toBe('26 November 2026');
});
