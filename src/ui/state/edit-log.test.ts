import { createDocument, type Edit } from '@/core/document';
import { EditLog } from './edit-log';

const rename = (name: string): Edit => ({ type: 'document.rename', name });
const open = (): EditLog => new EditLog({ document: createDocument('m', 'master', 'Sizes'), seq: 4, savedSeq: 3, history: [] });
const envelope = (key: string, author = 'ann') => ({ key, author, edit: rename(key) });
const logged = (key: string, seq: number, author = 'ann') => ({ ...envelope(key, author), seq, inverse: rename('before'), at: '2030-01-01T00:00:00.000Z' });

test('an edit is pending until it is acknowledged; then it is part of what is confirmed', () => {
  const log = open();
  log.add({ envelope: envelope('a'), inverse: rename('before') });
  expect([log.pending.length, log.unsaved, log.isConfirmed('a')]).toEqual([1, 2, false]);
  expect(log.acknowledge(new Set(['a']), [logged('a', 5)], 5)).toBe(false);
  expect([log.pending.length, log.unsaved, log.seq, log.isConfirmed('a')]).toEqual([0, 2, 5, true]);
  expect(log.confirmed.name).toBe('a');
});

test('edits of others that come with an answer are told, and confirmed in their order', () => {
  const log = open();
  log.add({ envelope: envelope('mine'), inverse: rename('before') });
  expect(log.acknowledge(new Set(['mine']), [logged('theirs', 5, 'bea'), logged('mine', 6)], 6)).toBe(true);
  expect(log.all().map(({ key }) => key)).toEqual(['theirs', 'mine']);
  expect(log.undoStacks('ann').undo.map(({ key }) => key)).toEqual(['mine']);
});

test('what was missed is taken in once, and what of it was made here is pending no more', () => {
  const log = open();
  log.add({ envelope: envelope('mine'), inverse: rename('before') });
  const edits = [logged('theirs', 5, 'bea'), logged('mine', 6)];
  expect([...log.takeIn(edits)]).toEqual(['theirs', 'mine']);
  expect(log.pending).toEqual([]);
  expect([...log.takeIn(edits)]).toEqual([]);
  expect(log.all()).toHaveLength(2);
});

test('one that is refused is withdrawn alone; all are withdrawn in their order', () => {
  const log = open();
  for (const key of ['a', 'b', 'c']) log.add({ envelope: envelope(key), inverse: rename('before') });
  expect(log.withdraw('b')?.key).toBe('b');
  expect(log.withdraw('b')).toBeUndefined();
  expect(log.withdrawAll().map(({ key }) => key)).toEqual(['a', 'c']);
  expect(log.pending).toEqual([]);
});
