import type { StepOf } from '../step-schema';
import type { StepKind } from './kind';

export const importedBody: StepKind<StepOf<'import'>> = {
  words: 'body from a file',
  blank: ({ base, newId }) => ({ type: 'import', ...base, file: newId(), body: newId(), values: {} }),
  nameOf: () => 'Body from a file',
  startsBody: () => true,
  missing: (_, { hasFile }) => (hasFile ? undefined : 'Choose a STEP file.'),
};
