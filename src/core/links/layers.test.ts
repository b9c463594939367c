import { layerDocuments, reachOf, type LinkedNode } from './layers';

const NODES: readonly LinkedNode[] = [
  { id: 'loom', sources: ['side', 'beam'] },
  { id: 'sizes', sources: [] },
  { id: 'side', sources: ['sizes'] },
  { id: 'beam', sources: ['sizes', 'gone'] },
  { id: 'spare', sources: [] },
];

test('each stands to the right of what it takes from', () => {
  expect(Object.fromEntries(layerDocuments(NODES))).toEqual({ sizes: 0, spare: 0, side: 1, beam: 1, loom: 2 });
});

test('a chain of thousands and a ring of documents have columns', () => {
  const chain = Array.from({ length: 5000 }, (_, i) => ({ id: `${i}`, sources: i === 0 ? [] : [`${i - 1}`] })).reverse();
  expect(layerDocuments(chain).get('4999')).toBe(4999);
  const ring = layerDocuments([
    { id: 'a', sources: ['c'] },
    { id: 'b', sources: ['a'] },
    { id: 'c', sources: ['b'] },
  ]);
  expect([...ring.keys()].sort()).toEqual(['a', 'b', 'c']);
});

test('a document reaches what is below and above it, not beside it', () => {
  expect([...reachOf(NODES, 'side')].sort()).toEqual(['loom', 'side', 'sizes']);
  expect([...reachOf(NODES, 'sizes')].sort()).toEqual(['beam', 'loom', 'side', 'sizes']);
  expect([...reachOf(NODES, 'side', 'sources')].sort()).toEqual(['side', 'sizes']);
  expect([...reachOf(NODES, 'side', 'takers')].sort()).toEqual(['loom', 'side']);
});
