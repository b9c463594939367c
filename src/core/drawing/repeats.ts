/** Curves drawn again in further places, as many as a value says. */
import { meantNames, takenNames, type EditOf, type Parameter } from '../document';
import { automaticName } from '../formula';
import { change, refuseChange, type ChangeContext, type ChangeResult } from './change';
import { findEntity, shapeToStore } from './drawn-shape';

/** What a repeat starts with, until its values are given. */
const FIRST_COUNT = '4';
const FIRST_SPACING = { linear: '20 mm', circular: (count: string): string => `360 deg / ${count}` };

/** Repeats the chosen curves along a line or axis, or about a point. Its count and spacing are new values of the sketch. */
export function repeatCurvesOf(context: ChangeContext, ids: readonly string[], about: string): ChangeResult {
  const { document, shape, sketch, newId } = context;
  const of = ids.filter((id) => id !== about && ['line', 'circle', 'arc'].includes(findEntity(shape, id)?.type ?? ''));
  if (of.length === 0) return refuseChange('Choose the curves to repeat, then the line or axis to repeat them along, or the point to turn them about.');
  const target = findEntity(shape, about);
  const isLinear = about === 'x-axis' || about === 'y-axis' || target?.type === 'line';
  if (!isLinear && about !== 'origin' && target?.type !== 'point') return refuseChange('Curves are repeated along a line or axis, or about a point.');
  const isTaken = takenNames(document);
  const base = document.records[sketch];
  const owner = base && 'name' in base ? base.name : 'sketch';
  const count = automaticName(`${owner} count`, isTaken);
  const spacing = automaticName(`${owner} ${isLinear ? 'spacing' : 'angle'}`, isTaken);
  const [countId, spacingId] = [newId(), newId()];
  const value = (id: string, name: string, text: string, kind: string): Parameter => ({ type: 'parameter', id, owner: sketch, name, formula: { text }, kind });
  const text = isLinear ? FIRST_SPACING.linear : FIRST_SPACING.circular(count);
  const draw: EditOf<'sketch.draw'> = {
    type: 'sketch.draw',
    sketch,
    entities: [],
    constraints: [],
    dimensions: [],
    values: [value(countId, count, FIRST_COUNT, 'count'), value(spacingId, spacing, text, isLinear ? 'length' : 'angle')],
    repeats: [{ type: 'repeat', id: newId(), sketch, form: isLinear ? 'linear' : 'circular', of, about, count: countId, spacing: spacingId }],
    shape: shapeToStore(shape),
  };
  return change(() => [draw, { type: 'parameter.setFormula', id: spacingId, formula: { text, names: { ...meantNames(document, text), [count]: countId } } }]);
}
