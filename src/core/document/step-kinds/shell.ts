import type { StepOf } from '../step-schema';
import { length, type StepKind } from './kind';

export const shell: StepKind<StepOf<'shell'>> = {
  words: 'shell',
  blank: ({ base, body }) => ({ type: 'shell', ...base, faces: [], body, values: {} }),
  nameOf: (_, names) => `${names.body()} hollowed`,
  slots: () => [length('wall', 'Wall', '2 mm')],
  missing: ({ faces }) => (faces.length === 0 ? 'Pick the faces that are left open.' : undefined),
};
