import type { StepOf } from '../step-schema';
import { angle, length, type StepKind } from './kind';

export const chamfer: StepKind<StepOf<'chamfer'>> = {
  words: 'chamfer',
  blank: ({ base, body }) => ({ type: 'chamfer', ...base, edges: [], form: 'equal', body, values: {} }),
  nameOf: (_, names) => `${names.body()} chamfered`,
  slots: ({ form }) => [
    length('distance', 'Distance', '2 mm'),
    ...(form === 'two-distances' ? [length('second', 'Second distance', '3 mm')] : []),
    ...(form === 'distance-angle' ? [angle('angle', 'Angle', '30 deg')] : []),
  ],
  missing: ({ edges }) => (edges.length === 0 ? 'Pick the edges on the solid.' : undefined),
};
