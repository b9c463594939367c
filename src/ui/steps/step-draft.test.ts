import { applyEdit, findStep, listIds, listRecords, type Document, type StepType } from '@/core/document';
import { demoDocument } from '../../../tests/support/demo';
import { draftOf, newDraft, repeatable, stepEdit } from './step-draft';
import type { StepDraft } from '../state/drafts';

const side = demoDocument('Side frame');
const steps = listIds(side, 'steps');
const at = (type: StepType): number => steps.findIndex((id) => findStep(side, id)?.type === type);

function built(document: Document, draft: StepDraft): readonly string[] {
  let next = 0;
  const applied = applyEdit(
    document,
    stepEdit(document, draft, () => `new-${next++}`),
  );
  if (!applied.ok) throw new Error(applied.failure.message);
  return listIds(applied.value.document, 'steps');
}

test('a new step stands at the end, or where the build stands', () => {
  const sketch = newDraft(side, 'sketch');
  expect(built(side, sketch)).toEqual([...steps, sketch.step.id]);
  const early = newDraft(side, 'sketch', { builtTo: steps[1] });
  expect(built(side, early)).toEqual([...steps.slice(0, 2), early.step.id, ...steps.slice(2)]);
  // A step that is gone is no place.
  expect(newDraft(side, 'sketch', { builtTo: 'gone' }).after).toBeUndefined();
});

test('what a new step is made of stands in front of it', () => {
  const first = at('extrude');
  const draft = newDraft(side, 'extrude', { builtTo: steps[first] });
  expect('sketch' in draft.step && steps.indexOf(draft.step.sketch) < first).toBe(true);
  const pattern = newDraft(side, 'pattern', { builtTo: steps[at('hole')] });
  expect(repeatable(side, pattern).every(({ id }) => steps.indexOf(id) <= at('hole'))).toBe(true);
  expect(repeatable(side, pattern).length).toBeGreaterThan(0);
  expect(repeatable(side, newDraft(side, 'pattern')).length).toBeGreaterThan(repeatable(side, pattern).length);
});

test('a step that is changed keeps its place and the names of its values', () => {
  const hole = findStep(side, steps[at('hole')] ?? '');
  if (!hole) throw new Error('no hole');
  const draft = draftOf(side, hole);
  expect(Object.keys(draft.formulas).length).toBeGreaterThan(0);
  expect(built(side, draft)).toEqual(steps);
});

test('a new body is of the material of the project; a copy is of that of its original', () => {
  const materialOf = (draft: StepDraft): string | undefined => {
    const edit = stepEdit(side, draft, (slot) => `new-${slot}`, 'Oak');
    return (edit.type === 'batch' ? edit.edits : [edit]).flatMap((one) => (one.type === 'step.add' && one.body ? one.body.material : []))[0];
  };
  const box = newDraft(side, 'extrude');
  const fresh = box.step.type === 'extrude' ? { ...box, step: { ...box.step, operation: 'start' as const } } : box;
  expect(materialOf(fresh)).toBe('Oak');
  const [body] = listRecords(side, 'bodies', 'body');
  const copy = newDraft(side, 'place');
  expect(materialOf(copy.step.type === 'place' && body ? { ...copy, step: { ...copy.step, from: body.id } } : copy)).toBe(body?.material);
});
