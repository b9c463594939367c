import type { StepOf } from '../step-schema';
import type { StepKind } from './kind';

export const combine: StepKind<StepOf<'combine'>> = {
  words: 'combine',
  blank: ({ base, bodies }) => ({ type: 'combine', ...base, operation: 'add', tools: [], body: bodies[0] ?? '', values: {} }),
  nameOf: (_, names) => `${names.body()} combined`,
  bodiesUnder: ({ tools }) => tools,
  missing: ({ tools }) => (tools.length === 0 ? 'Choose the bodies that are combined with it.' : undefined),
};
