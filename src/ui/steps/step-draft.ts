/** A step as it is being made or changed, and the edit that it comes to. */
import {
  blankStep,
  bodyOf,
  findRecord,
  findStep,
  hasSlots,
  isRepeatable,
  listIds,
  listRecords,
  listSteps,
  meantNames,
  missingPick,
  nameForStep,
  slotsOf,
  slotValues,
  startsBody,
  takenNames,
  tidyStep,
  type Body,
  type Component,
  type Document,
  type Edit,
  type EditOf,
  type Parameter,
  type Step,
  type StepSlot,
  type StepType,
} from '@/core/document';
import { automaticLetter, automaticName } from '@/core/formula';
import type { StepDraft } from '../state/drafts';
import { newId } from '../state/identity';
import { cutAfter } from '../state/pictures';
import { splitNamed } from '../state/value-edits';

interface Placing {
  /** What it is built on, where it needs a sketch. */
  readonly sketch?: string | undefined;
  /** The step that the part is built to: the new one is put behind it. */
  readonly builtTo?: string | undefined;
}

/** A new step with the choices that one usually makes, where the build stands. */
export function newDraft(document: Document, type: StepType, { sketch, builtTo }: Placing = {}): StepDraft {
  const built = cutAfter(document, builtTo);
  const step = withName(document, blankAt(built, type, sketch ?? listRecords(built, 'steps', 'sketch').at(-1)?.id ?? ''));
  const isWithin = builtTo !== undefined && listIds(document, 'steps').includes(builtTo);
  return { step, isNew: true, formulas: {}, isNamed: false, ...(isWithin ? { after: builtTo } : {}) };
}

export function draftOf(document: Document, step: Step): StepDraft {
  const formulas = Object.fromEntries(Object.entries(slotValues(step)).map(([slot, id]) => [slot, findRecord(document, id, 'parameter')?.formula.text ?? '']));
  return { step, isNew: false, formulas, isNamed: true };
}

function blankAt(document: Document, type: StepType, sketch: string): Step {
  const bodies = listIds(document, 'bodies');
  const sketches = listRecords(document, 'steps', 'sketch').map(({ id }) => id);
  return blankStep(type, { base: { id: newId(), name: 'Step' }, sketch, sketches, body: bodies.at(-1) ?? '', bodies, newId });
}

/** The draft with other choices; what does not go with them is dropped. */
export function changeStep(document: Document, draft: StepDraft, step: Step): StepDraft {
  const next = tidyStep(step);
  const before = new Map(slotsOf(draft.step).map(({ slot, kind }) => [slot, kind]));
  // What was typed as a length is of no use once an angle is wanted.
  const stale = new Set(slotsOf(next).flatMap(({ slot, kind }) => (before.has(slot) && before.get(slot) !== kind ? [slot] : [])));
  const formulas = Object.fromEntries(Object.entries(draft.formulas).filter(([slot]) => !stale.has(slot)));
  return { ...draft, formulas, step: draft.isNamed ? next : withName(document, next) };
}

/** The draft with the part that it starts from: another document, with the body that is taken of it. */
export function changePart(document: Document, draft: StepDraft, component: Component, original: Body): StepDraft {
  if (draft.step.type !== 'from-part') return draft;
  const step = { ...draft.step, component: component.id, of: original.id };
  // Its density may be a formula of its own document.
  const { density: _, ...body } = original;
  return { ...draft, part: { component, body }, step: draft.isNamed ? step : withName(document, step, component.sourceName) };
}

/** Steps whose work can be repeated: they add to the body or take from it. */
export function repeatable(document: Document, draft: StepDraft): Step[] {
  const steps = listSteps(cutAfter(document, draft.after));
  const at = draft.isNew ? steps.length : steps.findIndex(({ id }) => id === draft.step.id);
  return steps.slice(0, at).filter((step) => isRepeatable(step) && bodyOf(step) === bodyOf(draft.step));
}

/** What still has to be picked before the step can be built; undefined when nothing is. */
export function whatIsMissing(document: Document, { step, file, part }: StepDraft): string | undefined {
  if ('sketch' in step && !findRecord(document, step.sketch, 'sketch')) return 'Draw a sketch first.';
  if (step.type !== 'sketch' && step.type !== 'datum' && !startsBody(step) && step.body === '') return 'There is no body yet to work on.';
  return missingPick(step, {
    hasFile: file !== undefined || (step.type === 'import' && findRecord(document, step.file, 'file') !== undefined),
    hasPart: part !== undefined || (step.type === 'from-part' && findRecord(document, step.component, 'component') !== undefined),
  });
}

/** The draft with formulas put into its boxes. */
export function presetFormulas(draft: StepDraft, formulas: Readonly<Record<string, string>>): StepDraft {
  return { ...draft, formulas: { ...draft.formulas, ...formulas }, presets: (draft.presets ?? 0) + 1 };
}

export function formulaOf(draft: StepDraft, slot: StepSlot): string {
  return draft.formulas[slot.slot] ?? slot.initial;
}

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

/** The edit that makes the step, or changes it, with all its values. Made twice, it has the same ids. */
export function stepEdit(document: Document, draft: StepDraft, ids: (slot: string) => string, material = ''): Edit {
  const given = slotValues(draft.step);
  const isTaken = takenNames(document);
  const names = new Set<string>();
  const added: Parameter[] = [];
  const later: SingleEdit[] = [];
  const values: Record<string, string> = {};
  for (const slot of slotsOf(draft.step)) {
    const { name, formula } = splitNamed(formulaOf(draft, slot));
    const known = findRecord(document, given[slot.slot] ?? '', 'parameter');
    const id = known?.id ?? ids(slot.slot);
    values[slot.slot] = id;
    if (known) {
      if (name !== undefined && name !== known.name) later.push({ type: 'value.rename', id, name });
      if (formula === known.formula.text) continue;
    } else {
      const free = name ?? automaticName(`${draft.step.name} ${slot.slot}`, (other) => isTaken(other) || names.has(other));
      names.add(free);
      added.push({ type: 'parameter', id, owner: draft.step.id, name: free, formula: { text: formula }, kind: slot.kind });
    }
    later.push({ type: 'parameter.setFormula', id, formula: { text: formula, names: meantNames(document, formula) } });
  }
  const { step: wanted, file } = draft;
  const isDivided = wanted.type === 'split' && wanted.keep === 'both' && wanted.other === undefined;
  const isStarted = (draft.isNew && startsBody(wanted)) || isDivided;
  const original = draft.part?.body ?? originalOf(document, wanted) ?? ({ type: 'body', material } as const);
  const body = isStarted ? newBody(document, ids('body'), original, draft.part?.component.sourceName) : undefined;
  const step = isDivided && body ? { ...wanted, values, other: body.id } : withParts(wanted, values, body?.id);
  const main: SingleEdit = draft.isNew
    ? {
        type: 'step.add',
        step,
        values: added,
        ...(body ? { body } : {}),
        ...(file ? { file } : {}),
        ...(draft.after === undefined ? {} : { after: draft.after }),
      }
    : { type: 'step.update', step, values: added, ...(body ? { body } : {}), readers: { mode: 'keep' } };
  const before: SingleEdit[] = draft.part ? [{ type: 'component.put', component: draft.part.component }] : [];
  return before.length + later.length === 0 ? main : { type: 'batch', edits: [...before, main, ...later] };
}

function withParts(step: Step, values: Readonly<Record<string, string>>, body: string | undefined): Step {
  if (!hasSlots(step)) return step;
  return body === undefined || step.type === 'datum' ? { ...step, values } : { ...step, values, body };
}

/** The body that the one which a step starts is a copy or a piece of. */
function originalOf(document: Document, step: Step): Body | undefined {
  const id = step.type === 'place' ? step.from : step.type === 'split' ? step.body : undefined;
  return id === undefined ? undefined : findRecord(document, id, 'body');
}

/** A copy or a piece is of the material of its original. */
function newBody(document: Document, id: string, original: Omit<Body, 'id' | 'name'>, wanted?: string): Body {
  const names = new Set(listRecords(document, 'bodies', 'body').map((body) => body.name));
  let name = wanted ?? 'Body 1';
  for (let n = 2; names.has(name); n++) name = `${wanted ?? 'Body'} ${n}`;
  return { ...original, id, name };
}

function withName(document: Document, step: Step, part?: string): Step {
  const names = new Set(listSteps(document).flatMap((other) => (other.id === step.id ? [] : other.name)));
  const wanted = nameForStep(step, {
    step: (id) => findStep(document, id ?? '')?.name ?? '',
    body: (id) => findRecord(document, id ?? bodyOf(step) ?? '', 'body')?.name ?? 'Body',
    part: (component) => part ?? findRecord(document, component, 'component')?.sourceName,
  });
  return { ...step, name: freeStepName(wanted, names) };
}

function freeStepName(wanted: ReturnType<typeof nameForStep>, names: ReadonlySet<string>): string {
  const nth = (n: number): string => (typeof wanted === 'object' ? `${wanted.lettered} ${automaticLetter(n)}` : n === 0 ? wanted : `${wanted} ${n + 1}`);
  let n = 0;
  while (names.has(nth(n))) n++;
  return nth(n);
}
