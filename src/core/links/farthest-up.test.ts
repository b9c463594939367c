import { createDocument, type Document, type Link } from '../document';
import { chooseFarthestUp } from './farthest-up';

function documentTaking(id: string, ...sources: readonly string[]): Document {
  const links = sources.map((source): Link => ({ type: 'link', id: `${id} ${source}`, source, sourceName: source, policy: 'follow', revision: 1, hash: '' }));
  const document = createDocument(id, 'part', id);
  return {
    ...document,
    records: { ...document.records, ...Object.fromEntries(links.map((link) => [link.id, link])) },
    lists: { ...document.lists, links: links.map((link) => link.id) },
  };
}

const chosen = (documents: readonly Document[], ...among: readonly string[]) => chooseFarthestUp(documents)(among, (id) => id);

test('what takes nothing from another is done at once, what takes through a document in between waits', () => {
  const documents = [
    documentTaking('sizes'),
    documentTaking('beam', 'sizes'),
    documentTaking('frame', 'beam'),
    documentTaking('rail', 'sizes'),
    documentTaking('peg'),
  ];
  expect(chosen(documents, 'beam', 'rail', 'peg')).toEqual(['beam', 'rail', 'peg']);
  expect(chosen(documents, 'sizes', 'frame', 'peg')).toEqual(['sizes', 'peg']);
  expect(chosen(documents, 'frame', 'beam')).toEqual(['beam']);
});

test('of a ring the first is done, and of one document asked for twice both', () => {
  expect(chosen([documentTaking('a', 'b'), documentTaking('b', 'a')], 'b', 'a')).toEqual(['b']);
  expect(chosen([documentTaking('a')], 'a', 'a')).toEqual(['a', 'a']);
});
