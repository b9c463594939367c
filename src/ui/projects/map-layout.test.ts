import type { DocumentCard } from '@/contract';
import { BOX, layOutMap, type Placed } from './map-layout';

const card = (id: string, ...sources: string[]): DocumentCard => ({
  id,
  name: id,
  kind: sources.length === 0 ? 'master' : 'part',
  revision: 1,
  unsavedEdits: 0,
  behind: 0,
  failing: 0,
  brokenGuards: 0,
  links: sources.map((source) => ({ source, policy: 'ask', values: 1 })),
  bodies: [],
  hasThumbnail: false,
});

const at = (placed: readonly Placed[], id: string): Placed => {
  const found = placed.find(({ document }) => document.id === id);
  if (!found) throw new Error(`no ${id}`);
  return found;
};

test('documents stand to the right of what they take from, and none on another', () => {
  const documents = [card('sizes'), card('rail', 'sizes'), card('side', 'sizes'), card('loom', 'rail', 'side')];
  const { placed, width, height } = layOutMap(documents);
  for (const { document, x, y } of placed) {
    for (const { source } of document.links) expect(x).toBeGreaterThan(at(placed, source).x + BOX.width);
    expect(x + BOX.width).toBeLessThan(width);
    expect(y + BOX.height).toBeLessThan(height);
  }
  expect(new Set(placed.map(({ x, y }) => `${x} ${y}`)).size).toBe(4);
});

test('two bundles of threads that would cross are laid side by side', () => {
  // Named so that the order of the list would cross every thread.
  const documents = [card('a'), card('b'), card('b1', 'b'), card('b2', 'b'), card('a1', 'a'), card('a2', 'a')];
  const { placed } = layOutMap(documents);
  const y = (id: string): number => at(placed, id).y;
  const isAFirst = y('a') < y('b');
  for (const [a, b] of [
    ['a1', 'b1'],
    ['a2', 'b2'],
    ['a1', 'b2'],
  ] as const)
    expect(y(a) < y(b)).toBe(isAFirst);
});

test('300 documents are laid out, in a ring too', () => {
  const many = [card('m'), ...Array.from({ length: 299 }, (_, i) => card(`p${i}`, i < 100 ? 'm' : `p${i % 100}`))];
  const { placed, height } = layOutMap(many);
  expect(new Set(placed.map(({ x, y }) => `${x} ${y}`)).size).toBe(300);
  // Tall columns go on beside themselves.
  expect(height).toBeLessThan(1400);
  expect(layOutMap([card('x', 'z'), card('y', 'x'), card('z', 'y')]).placed).toHaveLength(3);
});
