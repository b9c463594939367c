/** Edits of links and of the values taken through them. */
import { findAny, findRecord, listIds, listRecords } from './access';
import { removeValues } from './deletion';
import type { Draft } from './draft';
import { notFound, otherKind, type EditFailure } from './edit-failure';
import type { EditOf } from './edit-schema';
import { renameEverywhere } from './formulas-in';
import { claimName } from './naming';
import type { Take } from './schema';

type LinkEdit = EditOf<'link.put' | 'link.catchUp' | 'link.remove' | 'take.update' | 'takes.move'>;

export function applyLinkEdit(draft: Draft, edit: LinkEdit): EditFailure | undefined {
  switch (edit.type) {
    case 'link.put':
      return putLink(draft, edit);
    case 'link.catchUp':
      return catchUp(draft, edit);
    case 'link.remove':
      return removeLink(draft, edit);
    case 'takes.move':
      return moveTakes(draft, edit);
    case 'take.update': {
      const take = findRecord(draft.document, edit.id, 'take');
      if (!take) return notFound('This linked value');
      const { pinned, note } = edit.changes;
      const { pinned: oldPinned, note: oldNote, ...rest } = take;
      const newPinned = pinned === undefined ? oldPinned : pinned;
      const newNote = note === undefined ? oldNote : note;
      draft.put(take.id, { ...rest, ...(newPinned === true ? { pinned: true } : {}), ...(newNote === undefined || newNote === null ? {} : { note: newNote }) });
      return undefined;
    }
  }
}

function putLink(draft: Draft, { link, takes, readers = { mode: 'refuse' } }: EditOf<'link.put'>): EditFailure | undefined {
  if (link.source === draft.document.id) return { code: 'bad-reference', message: 'A document cannot link itself.' };
  const there = findAny(draft.document, link.id);
  if (there && there.type !== 'link') return otherKind(link.id);
  const list = `${link.id}/takes`;
  const kept = new Set(takes.map((take) => take.id));
  const dropped = listIds(draft.document, list).filter((id) => !kept.has(id));
  const blocked = removeValues(draft, dropped, readers, new Set());
  if (blocked) return blocked;
  if (!findRecord(draft.document, link.id, 'link')) draft.insert('links', link.id);
  draft.put(link.id, link);
  for (const take of takes) {
    const failure = take.link === link.id ? putTake(draft, take) : notFound('The link of a value');
    if (failure) return failure;
  }
  return undefined;
}

function putTake(draft: Draft, take: Take): EditFailure | undefined {
  const there = findAny(draft.document, take.id);
  if (there && (there.type !== 'take' || there.link !== take.link)) return otherKind(take.id);
  const failure = claimName(draft, take.id, take.name);
  if (failure) return failure;
  const before = findRecord(draft.document, take.id, 'take')?.name;
  if (before === undefined) draft.insert(`${take.link}/takes`, take.id);
  draft.put(take.id, take);
  if (before !== undefined && before !== take.name) renameEverywhere(draft, (name) => (name === before ? take.name : undefined));
  return undefined;
}

function catchUp(draft: Draft, edit: EditOf<'link.catchUp'>): EditFailure | undefined {
  const link = findRecord(draft.document, edit.id, 'link');
  if (!link) return notFound('This link');
  draft.put(link.id, { ...link, revision: edit.revision, hash: edit.hash });
  for (const take of listRecords(draft.document, `${link.id}/takes`, 'take')) {
    const value = Object.hasOwn(edit.values, take.id) ? edit.values[take.id] : undefined;
    if (value) draft.put(take.id, { ...take, value });
  }
  return undefined;
}

function moveTakes(draft: Draft, { from, to, takes }: EditOf<'takes.move'>): EditFailure | undefined {
  const [source, list] = [findRecord(draft.document, from, 'link'), `${from}/takes`];
  if (!source) return notFound('This link');
  if (to.source === draft.document.id) return { code: 'bad-reference', message: 'A document cannot link itself.' };
  if (from === to.id || takes.some((take) => take.link !== to.id || !listIds(draft.document, list).includes(take.id))) return notFound('A linked value');
  if (!findRecord(draft.document, to.id, 'link')) draft.insert('links', to.id);
  draft.put(to.id, to);
  for (const take of takes) {
    draft.removeFromList(list, take.id);
    draft.insert(`${to.id}/takes`, take.id);
    draft.put(take.id, { ...take, name: findRecord(draft.document, take.id, 'take')?.name ?? take.name });
  }
  if (listIds(draft.document, list).length > 0) return undefined;
  draft.removeFromList('links', from);
  draft.put(from, null);
  return undefined;
}

function removeLink(draft: Draft, edit: EditOf<'link.remove'>): EditFailure | undefined {
  const link = findRecord(draft.document, edit.id, 'link');
  if (!link) return notFound('This link');
  const blocked = removeValues(draft, listIds(draft.document, `${link.id}/takes`), edit.readers, new Set());
  if (blocked) return blocked;
  draft.removeFromList('links', link.id);
  draft.put(link.id, null);
  return undefined;
}
