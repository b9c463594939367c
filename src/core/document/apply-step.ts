/** Edits of steps: adding, changing, ordering and deleting entries of a part's build history. */
import { findAny, findRecord, listIds, listSteps } from './access';
import { removeValues } from './deletion';
import type { Draft } from './draft';
import { notFound, type EditFailure } from './edit-failure';
import type { EditOf } from './edit-schema';
import { claimName } from './naming';
import type { Parameter, Step } from './schema';

type StepEdit = EditOf<'step.add' | 'step.update' | 'step.rename' | 'step.move' | 'step.remove' | 'body.put'>;

export function applyStepEdit(draft: Draft, edit: StepEdit): EditFailure | undefined {
  if (edit.type === 'body.put') {
    if (!findRecord(draft.document, edit.body.id, 'body')) draft.insert('bodies', edit.body.id);
    draft.put(edit.body.id, edit.body);
    return undefined;
  }
  if (edit.type === 'step.add') return addStep(draft, edit);
  const step = findStep(draft, edit.type === 'step.update' ? edit.step.id : edit.id);
  if (!step) return notFound('This step');
  switch (edit.type) {
    case 'step.update':
      return updateStep(draft, step, edit);
    case 'step.rename':
      return nameStep(draft, step, edit.name);
    case 'step.move': {
      draft.removeFromList('steps', step.id);
      draft.insert('steps', step.id, edit.after);
      return checkOrder(draft);
    }
    case 'step.remove':
      return removeStep(draft, step, edit);
  }
}

function addStep(draft: Draft, { step, values, body, after }: EditOf<'step.add'>): EditFailure | undefined {
  if (findAny(draft.document, step.id)) return { code: 'already-there', message: `${step.name} is here already.` };
  if (draft.document.kind !== 'part') return { code: 'wrong-owner', message: 'Only a part has steps.' };
  if (body && !findRecord(draft.document, body.id, 'body')) {
    draft.put(body.id, body);
    draft.insert('bodies', body.id);
  }
  draft.put(step.id, step);
  draft.insert('steps', step.id, after);
  return addValues(draft, step, values) ?? nameStep(draft, step, step.name) ?? checkReferences(draft, step) ?? checkOrder(draft);
}

function updateStep(draft: Draft, before: Step, { step, values }: EditOf<'step.update'>): EditFailure | undefined {
  if (step.type !== before.type) return { code: 'bad-reference', message: 'A step cannot become another kind of step.' };
  draft.put(step.id, step);
  const kept = new Set(values.map((value) => value.id));
  const dropped = step.type === 'sketch' ? [] : listIds(draft.document, `${step.id}/values`).filter((id) => !kept.has(id));
  const blocked = removeValues(draft, dropped, { mode: 'refuse' }, new Set());
  const added = values.filter((value) => !findRecord(draft.document, value.id, 'parameter'));
  return blocked ?? addValues(draft, step, added) ?? checkReferences(draft, step) ?? checkOrder(draft);
}

/** Adds the named values of a step, at the end of its list. */
export function addValues(draft: Draft, step: Step, values: readonly Parameter[]): EditFailure | undefined {
  for (const value of values) {
    if (value.owner !== step.id) return { code: 'wrong-owner', message: `${value.name} belongs to another step.` };
    if (findAny(draft.document, value.id)) return { code: 'already-there', message: `${value.name} is here already.` };
    const failure = claimName(draft, value.id, value.name);
    if (failure) return failure;
    draft.put(value.id, value);
    draft.insert(`${step.id}/values`, value.id);
  }
  return undefined;
}

function nameStep(draft: Draft, step: Step, name: string): EditFailure | undefined {
  const trimmed = name.trim();
  if (trimmed === '') return { code: 'bad-name', message: 'A step needs a name.' };
  if (trimmed.length > 80) return { code: 'bad-name', message: 'A name has at most 80 characters.' };
  if (listSteps(draft.document).some((other) => other.id !== step.id && other.name === trimmed)) {
    return { code: 'bad-name', message: `There is a step named ${trimmed} here already.` };
  }
  draft.put(step.id, { ...step, name: trimmed });
  return undefined;
}

function removeStep(draft: Draft, step: Step, edit: EditOf<'step.remove'>): EditFailure | undefined {
  const users = listSteps(draft.document).filter((other) => other.type === 'extrude' && other.sketch === step.id);
  if (users.length > 0) {
    return {
      code: 'built-on',
      message: `${users.map((user) => user.name).join(', ')} ${users.length === 1 ? 'builds' : 'build'} on ${step.name}.`,
      ids: users.map((user) => user.id),
    };
  }
  const [entities, constraints] = [listIds(draft.document, `${step.id}/entities`), listIds(draft.document, `${step.id}/constraints`)];
  const going = new Set([step.id, ...entities, ...constraints]);
  const blocked = removeValues(draft, listIds(draft.document, `${step.id}/values`), edit.readers, going);
  if (blocked) return blocked;
  for (const id of constraints) draft.removeFromList(`${step.id}/constraints`, id);
  for (const id of entities) draft.removeFromList(`${step.id}/entities`, id);
  for (const id of going) draft.put(id, null);
  draft.removeFromList('steps', step.id);
  if (step.type === 'extrude' && step.operation === 'start') return removeBody(draft, step.body);
  return undefined;
}

function removeBody(draft: Draft, body: string): EditFailure | undefined {
  if (listSteps(draft.document).some((step) => step.type === 'extrude' && step.body === body)) return undefined;
  draft.removeFromList('bodies', body);
  draft.put(body, null);
  return undefined;
}

function checkReferences(draft: Draft, step: Step): EditFailure | undefined {
  if (step.type !== 'extrude') return undefined;
  if (!findRecord(draft.document, step.sketch, 'sketch')) return { code: 'bad-reference', message: `The sketch of ${step.name} is not there.` };
  if (!findRecord(draft.document, step.body, 'body')) return { code: 'bad-reference', message: `The body of ${step.name} is not there.` };
  const depth = step.depth === undefined ? undefined : findRecord(draft.document, step.depth, 'parameter');
  if (step.extent !== 'through' && depth?.owner !== step.id) return { code: 'bad-reference', message: `${step.name} needs a depth.` };
  return undefined;
}

/** A step stands after the sketch that it uses. */
function checkOrder(draft: Draft): EditFailure | undefined {
  const order = listIds(draft.document, 'steps');
  for (const step of listSteps(draft.document)) {
    if (step.type === 'extrude' && order.indexOf(step.sketch) > order.indexOf(step.id)) {
      const sketch = findRecord(draft.document, step.sketch, 'sketch');
      return { code: 'wrong-order', message: `${step.name} builds on ${sketch?.name ?? 'its sketch'} and must stand after it.` };
    }
  }
  return undefined;
}

function findStep(draft: Draft, id: string): Step | undefined {
  return findRecord(draft.document, id, 'sketch') ?? findRecord(draft.document, id, 'extrude');
}
