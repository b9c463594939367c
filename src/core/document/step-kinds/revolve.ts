import type { StepOf } from '../step-schema';
import { angle, OPERATION_WORDS, type StepKind } from './kind';

export const revolve: StepKind<StepOf<'revolve'>> = {
  words: 'revolve',
  detail: ({ operation }) => `revolve, ${OPERATION_WORDS[operation]}`,
  blank: ({ base, sketch, body, bodies }) => ({
    type: 'revolve',
    ...base,
    sketch,
    axis: 'y-axis',
    operation: bodies.length === 0 ? 'start' : 'add',
    extent: 'full',
    body,
    values: {},
  }),
  nameOf: (step, names) => `${names.step(step.sketch)} revolved`,
  slots: ({ extent }) => (extent === 'angle' ? [angle('angle', 'Angle', '180 deg')] : []),
  startsBody: ({ operation }) => operation === 'start',
  sketches: (step) => [step.sketch],
  isRepeatable: true,
};
