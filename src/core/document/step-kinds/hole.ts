import type { StepOf } from '../step-schema';
import { angle, length, type StepKind } from './kind';

export const hole: StepKind<StepOf<'hole'>> = {
  words: 'hole',
  detail: ({ form }) => (form === 'simple' ? 'hole' : `hole, ${form}`),
  blank: ({ base, sketch, body }) => ({ type: 'hole', ...base, sketch, form: 'simple', extent: 'through', body, values: {} }),
  nameOf: (step, names) => `${names.step(step.sketch)} drilled`,
  slots: ({ form, extent }) => [
    length('diameter', 'Diameter', '5.5 mm'),
    ...(extent === 'blind' ? [length('depth', 'Depth', '12 mm')] : []),
    ...(form === 'simple' ? [] : [length('head', form === 'counterbore' ? 'Counterbore diameter' : 'Countersink diameter', '10 mm')]),
    ...(form === 'counterbore' ? [length('seat', 'Counterbore depth', '5 mm')] : []),
    ...(form === 'countersink' ? [angle('cone', 'Countersink angle', '90 deg')] : []),
  ],
  sketches: (step) => [step.sketch],
  isRepeatable: true,
};
