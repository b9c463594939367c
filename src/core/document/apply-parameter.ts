/** Edits of parameters and of names. */
import { findAny, findRecord, findStep, hasName, listIds } from './access';
import { addValues } from './apply-step';
import { removeValues } from './deletion';
import type { Draft } from './draft';
import { notFound, type EditFailure } from './edit-failure';
import type { EditOf } from './edit-schema';
import { renameEverywhere, resolveTyped } from './formulas-in';
import { isOfAssembly } from './measure';
import { claimName } from './naming';
import type { Formula, Parameter } from './schema';
import { cellOf, usedSize } from './sizes';

type ParameterEdit = EditOf<
  'parameter.add' | 'measure.add' | 'parameter.setFormula' | 'parameter.update' | 'parameter.move' | 'parameter.remove' | 'value.rename'
>;

export function applyParameterEdit(draft: Draft, edit: ParameterEdit): EditFailure | undefined {
  switch (edit.type) {
    case 'parameter.add':
      return addParameter(draft, edit);
    case 'measure.add': {
      const { owner, measure } = edit.parameter;
      if (measure?.of === 'outside') return addOutput(draft, edit.parameter);
      if (measure && isOfAssembly(measure)) return measureAssembly(draft, edit.parameter);
      const step = owner === undefined ? undefined : findStep(draft.document, owner);
      if (!step) return notFound('The step that is measured');
      if (!measure) return { code: 'wrong-owner', message: 'This is not a measured value.' };
      if ((measure.of === 'region') !== (step.type === 'sketch'))
        return { code: 'bad-reference', message: 'Regions are measured on a sketch, bodies after a feature.' };
      return addValues(draft, step, [edit.parameter]);
    }
    case 'value.rename':
      return renameValue(draft, edit.id, edit.name);
    default: {
      const parameter = findRecord(draft.document, edit.id, 'parameter');
      return parameter ? changeParameter(draft, parameter, edit) : notFound('This value');
    }
  }
}

function addParameter(draft: Draft, { parameter, names, after }: EditOf<'parameter.add'>): EditFailure | undefined {
  if (findAny(draft.document, parameter.id)) return { code: 'already-there', message: `${parameter.name} is here already.` };
  if (parameter.owner !== undefined) return { code: 'wrong-owner', message: 'A dimension is added with its step.' };
  const failure = claimName(draft, parameter.id, parameter.name);
  if (failure) return failure;
  const formula = resolveTyped(draft.document, { ...parameter.formula, ...(names ? { names } : {}) });
  draft.put(parameter.id, { ...parameter, formula });
  draft.insert('parameters', parameter.id, after);
  return undefined;
}

/** What is typed in the place of what counts: in the cell of the used size, or the value's own. */
function setFormula(draft: Draft, parameter: Parameter, formula: Formula, isOwn: boolean): void {
  const size = isOwn || !cellOf(draft.document, parameter.id) ? undefined : usedSize(draft.document);
  if (size) draft.put(size.id, { ...size, cells: { ...size.cells, [parameter.id]: formula } });
  else draft.put(parameter.id, { ...parameter, formula });
}

/** A value that is read off an assembly as it stands is one of its own values. */
function measureAssembly(draft: Draft, parameter: Parameter): EditFailure | undefined {
  const { measure, owner, id, name } = parameter;
  if (draft.document.kind !== 'assembly' || owner !== undefined) return { code: 'wrong-owner', message: 'This is measured in an assembly only.' };
  if (findAny(draft.document, id)) return { code: 'already-there', message: `${name} is here already.` };
  const gone = measure?.of === 'components' && measure.on.some(({ path: [first = ''] }) => !findRecord(draft.document, first, 'component'));
  if (gone) return notFound('A component that is measured');
  const failure = claimName(draft, id, name);
  if (failure) return failure;
  draft.put(id, parameter);
  draft.insert('parameters', id);
  return undefined;
}

/** One more output of an outside calculation. */
function addOutput(draft: Draft, output: Parameter): EditFailure | undefined {
  const { measure, owner, id, name } = output;
  if (measure?.of !== 'outside' || owner !== measure.outside) return { code: 'wrong-owner', message: `${name} belongs to no outside calculation.` };
  if (!findRecord(draft.document, measure.outside, 'outside')) return notFound('The outside calculation');
  if (findAny(draft.document, id)) return { code: 'already-there', message: `${name} is here already.` };
  const failure = claimName(draft, id, name);
  if (failure) return failure;
  draft.put(id, output);
  draft.insert(`${owner}/values`, id);
  return undefined;
}

function changeParameter(
  draft: Draft,
  parameter: Parameter,
  edit: Exclude<ParameterEdit, { readonly type: 'parameter.add' | 'measure.add' | 'value.rename' }>,
): EditFailure | undefined {
  switch (edit.type) {
    case 'parameter.setFormula':
      if (parameter.measure) return { code: 'wrong-owner', message: `${parameter.name} is measured; it has no formula.` };
      setFormula(draft, parameter, resolveTyped(draft.document, edit.formula), edit.isOwn === true);
      return undefined;
    case 'parameter.update':
      draft.put(parameter.id, update(draft, parameter, edit.changes));
      return undefined;
    case 'parameter.move':
      if (!listIds(draft.document, 'parameters').includes(parameter.id)) {
        return { code: 'wrong-owner', message: 'A dimension moves with its step.' };
      }
      draft.removeFromList('parameters', parameter.id);
      draft.insert('parameters', parameter.id, edit.after);
      return undefined;
    case 'parameter.remove':
      if (parameter.owner !== undefined && !parameter.measure) return { code: 'wrong-owner', message: 'A dimension is deleted with what it measures.' };
      return removeValues(draft, [parameter.id], edit.readers, new Set());
  }
}

function update(draft: Draft, parameter: Parameter, changes: EditOf<'parameter.update'>['changes']): Parameter {
  const { least, most, ...plain } = changes;
  const merged: Record<string, unknown> = { ...parameter };
  for (const [key, value] of Object.entries(plain)) {
    if (value === null || value === false) Reflect.deleteProperty(merged, key);
    else if (value !== undefined) merged[key] = value;
  }
  for (const [key, bound] of [
    ['least', least],
    ['most', most],
  ] as const) {
    if (bound === null) Reflect.deleteProperty(merged, key);
    else if (bound !== undefined) merged[key] = resolveTyped(draft.document, bound);
  }
  return merged as Parameter;
}

function renameValue(draft: Draft, id: string, name: string): EditFailure | undefined {
  const record = findAny(draft.document, id);
  if (!record || !hasName(record)) return notFound('This value');
  if (record.name === name) return undefined;
  const failure = claimName(draft, id, name);
  if (failure) return failure;
  const before = record.name;
  draft.put(id, { ...record, name });
  renameEverywhere(draft, (other) => (other === before ? name : undefined));
  return undefined;
}
