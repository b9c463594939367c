import type { StepOf } from '../step-schema';
import { OPERATION_WORDS, type StepKind } from './kind';

export const loft: StepKind<StepOf<'loft'>> = {
  words: 'loft',
  detail: ({ operation }) => `loft, ${OPERATION_WORDS[operation]}`,
  blank: ({ base, body, bodies }) => ({ type: 'loft', ...base, sketches: [], operation: bodies.length === 0 ? 'start' : 'add', body, values: {} }),
  nameOf: ({ sketches }, names) => `${names.step(sketches[0]) || 'Outlines'} lofted`,
  startsBody: ({ operation }) => operation === 'start',
  sketches: ({ sketches }) => sketches,
  isRepeatable: true,
  missing: ({ sketches }) => (sketches.length < 2 ? 'Choose the sketches that it goes through, two or more.' : undefined),
};
