import type { StepOf } from '../step-schema';
import { bodiesOfPlane, stepsOfPlane, type StepKind } from './kind';

export const mirror: StepKind<StepOf<'mirror'>> = {
  words: 'mirror',
  blank: ({ base, body }) => ({ type: 'mirror', ...base, of: [], plane: 'side', body, values: {} }),
  nameOf: ({ of }, names) => `${names.step(of[0]) || names.body()} mirrored`,
  withPlane: (step, plane) => ({ ...step, plane }),
  under: ({ of, plane }) => [...of, ...stepsOfPlane(plane)],
  bodiesUnder: ({ plane }) => bodiesOfPlane(plane),
  isRepeatable: true,
};
