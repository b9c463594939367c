import type { StepOf } from '../step-schema';
import { OPERATION_WORDS, type StepKind } from './kind';

export const sweep: StepKind<StepOf<'sweep'>> = {
  words: 'sweep',
  detail: ({ operation }) => `sweep, ${OPERATION_WORDS[operation]}`,
  blank: ({ base, sketch, sketches, body, bodies }) => ({
    type: 'sweep',
    ...base,
    sketch: sketches.findLast((other) => other !== sketch) ?? sketch,
    path: sketch,
    operation: bodies.length === 0 ? 'start' : 'add',
    body,
    values: {},
  }),
  nameOf: (step, names) => `${names.step(step.sketch)} swept`,
  startsBody: ({ operation }) => operation === 'start',
  sketches: ({ sketch, path }) => [sketch, path],
  isRepeatable: true,
  missing: ({ sketch, path }) => (path === sketch ? 'A sweep needs two sketches: a profile, and a path to draw it along.' : undefined),
};
