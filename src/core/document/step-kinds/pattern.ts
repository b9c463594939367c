import type { StepOf } from '../step-schema';
import { angle, bodiesOfAxis, length, stepsOfAxis, type StepKind } from './kind';

export const pattern: StepKind<StepOf<'pattern'>> = {
  words: 'pattern',
  detail: ({ form }) => (form === 'path' ? 'pattern along a path' : `${form} pattern`),
  blank: ({ base, body }) => ({ type: 'pattern', ...base, form: 'linear', of: [], along: 'x', spread: 'spacing', body, values: {} }),
  nameOf: ({ of, along }, names) => `${names.step([...of, ...stepsOfAxis(along)][0]) || 'Steps'} repeated`,
  slots: ({ form, spread }) => {
    const isSpan = spread === 'span';
    const span =
      form !== 'circular'
        ? length('span', isSpan ? 'First to last' : 'Spacing', isSpan ? '100 mm' : '20 mm')
        : angle('span', isSpan ? 'First to last' : 'Angle between', isSpan ? '180 deg' : '360 deg / 6');
    return [{ slot: 'count', kind: 'count', label: 'Count', initial: '6' }, span];
  },
  sketches: ({ along }) => (typeof along === 'object' && 'path' in along ? [along.path] : []),
  under: ({ of, along }) => [...of, ...stepsOfAxis(along)],
  bodiesUnder: ({ along }) => bodiesOfAxis(along),
  isRepeatable: true,
  missing: ({ of }) => (of.length === 0 ? 'Choose the steps that are repeated.' : undefined),
};
