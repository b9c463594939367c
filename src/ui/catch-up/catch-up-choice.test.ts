import { createDocument } from '@/core/document';
import type { PlannedDocumentReply } from '@/contract';
import { findLeft, findObjection } from './catch-up-choice';

const entry = (id: string, more: Partial<PlannedDocumentReply> = {}): PlannedDocumentReply => {
  const document = createDocument(id, 'part', id);
  return {
    id,
    name: id,
    kind: 'part',
    changes: [],
    failures: [],
    guards: [],
    isProvisional: false,
    comesAlong: false,
    sources: [],
    unsavedEdits: 0,
    revision: 1,
    hasThumbnail: false,
    seq: 0,
    before: document,
    after: document,
    ...more,
  };
};

test('a document without anything against it is taken', () => {
  expect(findLeft({ documents: [entry('rail')] }, new Map(), new Map()).size).toBe(0);
});

test('unsaved edits, failing values, failing steps and broken guards speak against a document; warnings do not', () => {
  const guard = { id: 'g', message: 'Too thin.' };
  expect(findObjection(entry('rail', { unsavedEdits: 1 }), undefined)).toBe('It has 1 edit since its last revision.');
  expect(findObjection(entry('rail', { failures: [{ id: 'a', name: 'edge', message: 'Divided by zero.' }] }), undefined)).toBe(
    'edge would fail: Divided by zero.',
  );
  expect(findObjection(entry('rail'), 'fillet: radius 12 mm does not fit')).toBe('fillet: radius 12 mm does not fit');
  expect(findObjection(entry('rail', { guards: [{ ...guard, severity: 'error' }] }), undefined)).toBe('A guard would be broken: Too thin.');
  expect(findObjection(entry('rail', { guards: [{ ...guard, severity: 'warning' }] }), undefined)).toBeUndefined();
});

test('what takes from a document that is left is left too, through others, and in rings', () => {
  const documents = [
    entry('sizes'),
    entry('rail', { sources: ['sizes'] }),
    entry('loom', { sources: ['rail', 'beam'] }),
    entry('beam', { sources: ['loom'] }),
    entry('reed'),
  ];
  const left = findLeft({ documents }, new Map([['sizes', { kind: 'leave', reason: 'Not yet.' }]]), new Map());
  expect(Object.fromEntries(left)).toEqual({
    sizes: { reason: 'Not yet.', isForced: false },
    rail: { reason: 'It takes from sizes, which is skipped.', isForced: true },
    loom: { reason: 'It takes from rail, which is skipped.', isForced: true },
    beam: { reason: 'It takes from loom, which is skipped.', isForced: true },
  });
});

test('somebody may take a document against an objection', () => {
  const documents = [entry('rail', { unsavedEdits: 2 })];
  expect(findLeft({ documents }, new Map([['rail', { kind: 'take' }]]), new Map()).size).toBe(0);
});
