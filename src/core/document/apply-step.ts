/** Edits of steps: adding, changing, ordering and deleting entries of a part's build history. */
import { findAny, findRecord, findStep, listIds, listSteps } from './access';
import { removeValues } from './deletion';
import type { Draft } from './draft';
import { notFound, otherKind, type EditFailure } from './edit-failure';
import type { EditOf } from './edit-schema';
import { claimName } from './naming';
import type { Body, Parameter } from './schema';
import { allBodiesUnder, allStepsUnder } from './sketch-sources';
import { bodyOf, sketchesOf, slotsOf, slotValues, startedBodies, startsBody } from './step-kinds';
import type { Step } from './step-schema';

type StepEdit = EditOf<'step.add' | 'step.update' | 'step.rename' | 'step.move' | 'step.remove' | 'body.put'>;

export function applyStepEdit(draft: Draft, edit: StepEdit): EditFailure | undefined {
  if (edit.type === 'body.put') {
    const before = findAny(draft.document, edit.body.id);
    if (before && before.type !== 'body') return otherKind(edit.body.id);
    if (!before) draft.insert('bodies', edit.body.id);
    draft.put(edit.body.id, edit.body);
    return undefined;
  }
  if (edit.type === 'step.add') return addStep(draft, edit);
  const step = findStep(draft.document, edit.type === 'step.update' ? edit.step.id : edit.id);
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

function addStep(draft: Draft, { step, values, body, file, after }: EditOf<'step.add'>): EditFailure | undefined {
  if (findAny(draft.document, step.id)) return { code: 'already-there', message: `${step.name} is here already.` };
  if (draft.document.kind !== 'part') return { code: 'wrong-owner', message: 'Only a part has steps.' };
  if (body) putNewBody(draft, body);
  if (file && !findAny(draft.document, file.id)) draft.put(file.id, file);
  draft.put(step.id, step);
  draft.insert('steps', step.id, after);
  return addValues(draft, step, values) ?? nameStep(draft, step, step.name) ?? checkReferences(draft, step) ?? checkOrder(draft);
}

function putNewBody(draft: Draft, body: Body): void {
  if (findRecord(draft.document, body.id, 'body')) return;
  draft.put(body.id, body);
  draft.insert('bodies', body.id);
}

function updateStep(draft: Draft, before: Step, { step, values, body, readers }: EditOf<'step.update'>): EditFailure | undefined {
  if (step.type !== before.type) return { code: 'bad-reference', message: 'A step cannot become another kind of step.' };
  if (body) putNewBody(draft, body);
  draft.put(step.id, step);
  const kept = new Set(Object.values(slotValues(step)));
  const dropped = Object.values(slotValues(before)).filter((id) => !kept.has(id));
  const blocked = removeValues(draft, dropped, readers ?? { mode: 'refuse' }, new Set());
  const added = values.filter((value) => !findRecord(draft.document, value.id, 'parameter'));
  return blocked ?? addValues(draft, step, added) ?? removeBodies(draft, startedBodies(before)) ?? checkReferences(draft, step) ?? checkOrder(draft);
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
  const users = listSteps(draft.document).filter((other) => allStepsUnder(draft.document, other).includes(step.id));
  if (users.length > 0) return builtOn(users, step.name);
  const [entities, constraints] = [listIds(draft.document, `${step.id}/entities`), listIds(draft.document, `${step.id}/constraints`)];
  const going = new Set([step.id, ...entities, ...constraints]);
  const blocked = removeValues(draft, listIds(draft.document, `${step.id}/values`), edit.readers, going);
  if (blocked) return blocked;
  for (const id of constraints) draft.removeFromList(`${step.id}/constraints`, id);
  for (const id of entities) draft.removeFromList(`${step.id}/entities`, id);
  for (const id of going) draft.put(id, null);
  draft.removeFromList('steps', step.id);
  if (step.type === 'import' && !listSteps(draft.document).some((other) => other.type === 'import' && other.file === step.file)) draft.put(step.file, null);
  return removeBodies(draft, startedBodies(step)) ?? (edit.sketches === true ? removeSketches(draft, step, edit) : undefined);
}

/** Sketches that were used by a deleted step alone go with it. */
function removeSketches(draft: Draft, step: Step, edit: EditOf<'step.remove'>): EditFailure | undefined {
  for (const id of new Set(sketchesOf(step))) {
    const sketch = findRecord(draft.document, id, 'sketch');
    const isUsed = listSteps(draft.document).some((other) => allStepsUnder(draft.document, other).includes(id));
    const failure = sketch && !isUsed ? removeStep(draft, sketch, edit) : undefined;
    if (failure) return failure;
  }
  return undefined;
}

/** Bodies that no step starts any more go, unless something works on them. */
function removeBodies(draft: Draft, bodies: readonly string[]): EditFailure | undefined {
  for (const body of bodies) {
    const steps = listSteps(draft.document);
    if (steps.some((step) => startedBodies(step).includes(body))) continue;
    const users = steps.filter((step) => bodyOf(step) === body || allBodiesUnder(draft.document, step).includes(body));
    if (users.length > 0) return builtOn(users, findRecord(draft.document, body, 'body')?.name ?? 'this body');
    draft.removeFromList('bodies', body);
    draft.put(body, null);
  }
  return undefined;
}

function builtOn(users: readonly Step[], name: string): EditFailure {
  return {
    code: 'built-on',
    message: `${users.map((user) => user.name).join(', ')} ${users.length === 1 ? 'builds' : 'build'} on ${name}.`,
    ids: users.map((user) => user.id),
  };
}

function checkReferences(draft: Draft, step: Step): EditFailure | undefined {
  const { document } = draft;
  const bad = (message: string): EditFailure => ({ code: 'bad-reference', message });
  for (const under of allStepsUnder(document, step)) if (!findStep(document, under)) return bad(`Something that ${step.name} builds on is not there.`);
  if (sketchesOf(step).some((sketch) => !findRecord(document, sketch, 'sketch'))) return bad(`The sketch of ${step.name} is not there.`);
  if (step.type === 'sweep' && step.path === step.sketch) return bad(`${step.name} needs two sketches: one for the profile, one for the path.`);
  if (step.type === 'loft' && new Set(step.sketches).size < step.sketches.length) return bad(`${step.name} names a sketch twice.`);
  if (step.type === 'import' && !findRecord(document, step.file, 'file')) return bad(`The file of ${step.name} is not there.`);
  if (step.type === 'from-part' && !findRecord(document, step.component, 'component')) return bad(`The part of ${step.name} is not used here.`);
  if (step.type === 'split' && (step.keep === 'both') !== (step.other !== undefined)) return bad(`${step.name} needs a body for the part behind the plane.`);
  if (step.type === 'split' && step.other === step.body) return bad('The two parts of a split are two bodies.');
  if (step.type === 'pattern' && (step.form === 'path') !== (typeof step.along === 'object' && 'path' in step.along)) {
    return bad(`${step.name} needs ${step.form === 'path' ? 'a sketch to run along' : 'a direction or an axis'}.`);
  }
  for (const body of [bodyOf(step), ...startedBodies(step), ...allBodiesUnder(document, step)]) {
    if (body !== undefined && !findRecord(document, body, 'body')) return bad(`The body of ${step.name} is not there.`);
  }
  if (step.type === 'extrude' && (step.extent === 'up-to') !== (step.upTo !== undefined)) return bad(`${step.name} needs the face that it reaches up to.`);
  if (step.type === 'combine' && step.tools.includes(step.body)) return bad('A body cannot be combined with itself.');
  if (step.type === 'place' && step.from === step.body) return bad('A copy is another body than its original.');
  const given = slotValues(step);
  const needed = slotsOf(step);
  for (const { slot, label } of needed) {
    if (findRecord(document, given[slot] ?? '', 'parameter')?.owner !== step.id) return bad(`${step.name} needs a value: ${label.toLowerCase()}.`);
  }
  const extra = Object.keys(given).find((slot) => !needed.some((known) => known.slot === slot));
  return extra === undefined ? undefined : bad(`${step.name} has no use for a value ${extra}.`);
}

/** A step stands after what it is built on. */
export function checkOrder(draft: Draft): EditFailure | undefined {
  const order = listIds(draft.document, 'steps');
  const place = new Map(order.map((id, index) => [id, index]));
  const started = new Map<string, number>();
  for (const step of listSteps(draft.document)) for (const body of startedBodies(step)) started.set(body, place.get(step.id) ?? 0);
  for (const step of listSteps(draft.document)) {
    const at = place.get(step.id) ?? 0;
    const late = allStepsUnder(draft.document, step).find((under) => (place.get(under) ?? -1) >= at);
    if (late !== undefined) {
      return { code: 'wrong-order', message: `${step.name} builds on ${findStep(draft.document, late)?.name ?? 'its sketch'} and must stand after it.` };
    }
    const bodies = [...allBodiesUnder(draft.document, step), ...(startsBody(step) ? [] : [bodyOf(step)])];
    const lateBody = bodies.find((body) => body !== undefined && (started.get(body) ?? -1) >= at);
    if (lateBody !== undefined) {
      return {
        code: 'wrong-order',
        message: `${step.name} works on ${findRecord(draft.document, lateBody, 'body')?.name ?? 'a body'} and must stand after what starts it.`,
      };
    }
  }
  return undefined;
}
