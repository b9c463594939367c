/** Who edits, as long as there are no accounts: a name of its own for each browser. */
import { customAlphabet } from 'nanoid';

const makeId = customAlphabet('0123456789abcdefghijklmnopqrstuvwxyz', 12);

/** A fresh id for a record, an edit or a change. */
export function newId(): string {
  return makeId();
}

/** An author in words, for those who work in this browser. */
export function describeAuthor(author: string): string {
  if (author === thisAuthor()) return 'you';
  return author.startsWith('browser-') ? 'another browser' : author;
}

export function thisAuthor(): string {
  const known = localStorage.getItem('warpbeam-author');
  if (known !== null) return known;
  const author = `browser-${makeId()}`;
  localStorage.setItem('warpbeam-author', author);
  return author;
}
