import type { StepOf } from '../step-schema';
import { length, type StepKind } from './kind';

export const fillet: StepKind<StepOf<'fillet'>> = {
  words: 'fillet',
  blank: ({ base, body }) => ({ type: 'fillet', ...base, edges: [], body, values: {} }),
  nameOf: (_, names) => `${names.body()} rounded`,
  slots: () => [length('radius', 'Radius', '3 mm')],
  missing: ({ edges }) => (edges.length === 0 ? 'Pick the edges on the solid.' : undefined),
};
