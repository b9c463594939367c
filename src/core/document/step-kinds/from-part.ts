import type { StepOf } from '../step-schema';
import type { StepKind } from './kind';

export const fromPart: StepKind<StepOf<'from-part'>> = {
  words: 'body of another part',
  blank: ({ base, newId }) => ({ type: 'from-part', ...base, component: '', of: '', body: newId(), values: {} }),
  nameOf: ({ component }, names) => `Body of ${names.part(component) ?? 'another part'}`,
  startsBody: () => true,
  missing: (_, { hasPart }) => (hasPart ? undefined : 'Choose a part.'),
};
