/** Edits of outside calculations, and of the answers that are kept of them. */
import { findAny, findRecord, listRecords } from './access';
import { removeValues } from './deletion';
import type { Draft } from './draft';
import { notFound, otherKind, type EditFailure } from './edit-failure';
import type { EditOf } from './edit-schema';
import { resolveTyped } from './formulas-in';
import { claimName } from './naming';
import { outputsOf } from './outside';
import { MOST_ANSWERS, type Answer } from './outside-schema';

type OutsideEdit = EditOf<'outside.put' | 'outside.remove' | 'outside.answer'>;

export function applyOutsideEdit(draft: Draft, edit: OutsideEdit): EditFailure | undefined {
  switch (edit.type) {
    case 'outside.put':
      return putOutside(draft, edit);
    case 'outside.remove':
      return removeOutside(draft, edit);
    case 'outside.answer':
      return keepAnswer(draft, edit.answer);
  }
}

function putOutside(draft: Draft, { outside, outputs, file, names }: EditOf<'outside.put'>): EditFailure | undefined {
  const there = findAny(draft.document, outside.id);
  if (there && there.type !== 'outside') return otherKind(outside.id);
  const keys = outside.inputs.map(({ key }) => key);
  const twice = keys.find((key, i) => keys.indexOf(key) !== i);
  if (twice !== undefined) return { code: 'already-there', message: `${outside.name} has two inputs called ${twice}.` };
  if (file) draft.put(file.id, file);
  const inputs = outside.inputs.map((input) => ({ ...input, formula: resolveTyped(draft.document, { ...input.formula, ...(names ? { names } : {}) }) }));
  draft.put(outside.id, { ...outside, inputs });
  if (!there) draft.insert('outsides', outside.id);
  if (there?.type === 'outside') dropFile(draft, there.asked.of === 'spreadsheet' ? there.asked.file : undefined);
  for (const output of outputs) {
    if (output.measure?.of !== 'outside' || output.measure.outside !== outside.id || output.owner !== outside.id)
      return { code: 'wrong-owner', message: `${output.name} is no output of ${outside.name}.` };
    if (findAny(draft.document, output.id)) return { code: 'already-there', message: `${output.name} is here already.` };
    const failure = claimName(draft, output.id, output.name);
    if (failure) return failure;
    draft.put(output.id, output);
    draft.insert(`${outside.id}/values`, output.id);
  }
  return undefined;
}

function removeOutside(draft: Draft, { id, readers }: EditOf<'outside.remove'>): EditFailure | undefined {
  const outside = findRecord(draft.document, id, 'outside');
  if (!outside) return notFound('This outside calculation');
  const blocked = removeValues(
    draft,
    outputsOf(draft.document, id).map((output) => output.id),
    readers,
    new Set([id]),
  );
  if (blocked) return blocked;
  dropAnswers(draft, (answer) => answer.outside === id && answer.within.length === 0);
  draft.removeFromList('outsides', id);
  draft.put(id, null);
  dropFile(draft, outside.asked.of === 'spreadsheet' ? outside.asked.file : undefined);
  return undefined;
}

/** A file that no calculation reads any more. */
function dropFile(draft: Draft, id: string | undefined): void {
  const isRead = listRecords(draft.document, 'outsides', 'outside').some(({ asked }) => asked.of === 'spreadsheet' && asked.file === id);
  if (id !== undefined && !isRead && findRecord(draft.document, id, 'file')) draft.put(id, null);
}

export function dropAnswers(draft: Draft, goes: (answer: Answer) => boolean): void {
  for (const answer of listRecords(draft.document, 'answers', 'answer')) {
    if (!goes(answer)) continue;
    draft.removeFromList('answers', answer.id);
    draft.put(answer.id, null);
  }
}

/** The latest one stands last: it is what is held when the inputs move on. */
function keepAnswer(draft: Draft, answer: Answer): EditFailure | undefined {
  if (findAny(draft.document, answer.id)) return otherKind(answer.id);
  const place = (one: Answer): string => [one.outside, ...one.within].join(' ');
  const alike = listRecords(draft.document, 'answers', 'answer').filter((other) => place(other) === place(answer));
  const going = new Set([...alike.filter(({ question }) => question === answer.question), ...alike.slice(0, Math.max(0, alike.length + 1 - MOST_ANSWERS))]);
  dropAnswers(draft, (other) => going.has(other));
  draft.put(answer.id, answer);
  draft.insert('answers', answer.id);
  return undefined;
}
